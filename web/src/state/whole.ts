/** Going to the first moment at which all of a caption stands. */
import { api, take } from "../api/client";
import type { Player } from "../playback/player";

export async function seekWhole(
  player: Player | null,
  cueId: number,
  otherwise: number,
): Promise<void> {
  const found = await take(
    api.GET("/api/cues/{cue_id}/whole", { params: { path: { cue_id: cueId } } }),
  ).catch(() => null);
  player?.seek(found?.at_us ?? otherwise);
}
