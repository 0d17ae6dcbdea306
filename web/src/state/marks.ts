/** Marking words with an accent of the finish. */
import { wordAt } from "../pace/commands";
import type { Player } from "../playback/player";
import { edit } from "./project";

/** Mark the word at the playhead with an accent (from 1), or take its mark away (0). */
export function mark(player: Player | null, accent: number): void {
  const found = wordAt(player);
  if (!found) return;
  void edit({
    kind: "mark_words",
    cue_ids: [found.cueId],
    word_ids: [found.wordId],
    accent,
  });
}
