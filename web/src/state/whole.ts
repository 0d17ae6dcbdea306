/** Going to the first moment at which all of a caption stands. */
import { api, take } from "../api/client";
import type { Player } from "../playback/player";
import { whenProjectEnds } from "./projectSession";
import { openPiece, shapeOf, useProject } from "./store";

let asked = 0;
whenProjectEnds(() => {
  asked += 1;
});

/** Whoever goes elsewhere before the answer is there stays there. */
export async function seekWhole(
  player: Player | null,
  cueId: number,
  otherwise: number,
): Promise<void> {
  asked += 1;
  const mine = asked;
  const before = player?.seeks;
  const state = useProject.getState();
  const piece = openPiece(state);
  const query = piece ? { shape_id: shapeOf(piece, state.shapeId).id } : {};
  const found = await take(
    api.GET("/api/cues/{cue_id}/whole", { params: { path: { cue_id: cueId }, query } }),
  ).catch(() => null);
  if (!player || mine !== asked || player.seeks !== before) return;
  player.seek(found?.at_us ?? otherwise);
}
