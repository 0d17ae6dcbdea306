/** Marking words with an accent of the finish. */
import type { Player } from "../playback/player";
import { edit, wordAt } from "./project";

/** Mark the word at the playhead with an accent (from 1), or take its mark away (0). */
export function mark(player: Player | null, accent: number): void {
  const found = wordAt(player?.at ?? 0);
  if (!found) return;
  void edit({
    kind: "mark_words",
    cue_ids: [found.cue.id],
    word_ids: [found.word.id],
    accent,
  });
}
