/** The scene of a window of a piece. */
import { api, type Scene, takeAs } from "./client";

export async function fetchScene(
  pieceId: number,
  fromUs: number,
  toUs: number,
  shapeId: number,
  finish?: string,
): Promise<Scene> {
  const query = { from_us: fromUs, to_us: toUs, shape_id: shapeId, ...(finish ? { finish } : {}) };
  return takeAs<Scene>(
    api.GET("/api/pieces/{piece_id}/scene", {
      params: { path: { piece_id: pieceId }, query },
    }),
  );
}
