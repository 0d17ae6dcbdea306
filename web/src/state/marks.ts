/** Marking words with an accent of the finish. */
import type { Player } from "../playback/player";
import { say } from "../ui/notice";
import { edit } from "./commands";
import { queue } from "./server";
import { wordAt } from "./session";
import { openPiece, useProject } from "./store";

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

/**
 * Mark every place of the word at the playhead the way this one is marked (with the first accent
 * where it has none), and those that come later too.
 */
export async function markEverywhere(player: Player | null): Promise<void> {
  // A mark made just now is in an answer that is still to come.
  await queue.between(async () => undefined);
  const found = wordAt(player?.at ?? 0);
  const piece = openPiece(useProject.getState());
  if (!found || !piece) return;
  await markAll(piece.id, found.word.text, found.word.accent || 1);
}

/** Mark a word with an accent wherever it occurs, from now on too; 0 takes the marks away. */
export async function markAll(piece_id: number, text: string, accent: number): Promise<void> {
  if (!(await edit({ kind: "mark_everywhere", piece_id, text, accent }))) return;
  const key = (one: string) => one.toLowerCase().replace(/[^\p{L}\p{N}]/gu, "");
  const count = useProject
    .getState()
    .cues.flatMap((cue) => cue.words)
    .filter((word) => key(word.text) === key(text)).length;
  say(
    accent
      ? `“${text}” is marked in ${count} ${count === 1 ? "place" : "places"}, and will be where it comes again.`
      : `“${text}” is not marked any more.`,
  );
}
