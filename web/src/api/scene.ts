/** The scene of a window of a piece. */
import { api, type Scene, take } from "./client";

export async function fetchScene(
  pieceId: number,
  fromUs: number,
  toUs: number,
  finish?: string,
): Promise<Scene> {
  const query = { from_us: fromUs, to_us: toUs, ...(finish ? { finish } : {}) };
  const answer = api.GET("/api/pieces/{piece_id}/scene", {
    params: { path: { piece_id: pieceId }, query },
  });
  // The client widens tuples to arrays; the description they come from says tuples.
  return (await take(answer)) as unknown as Scene;
}
