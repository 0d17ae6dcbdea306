/** Passages that were copied or cut, to be put somewhere else: also in another piece. */
import type { Schemas } from "../api/client";
import type { Player } from "../playback/player";
import { openPiece, useProject } from "../state/store";
import { say } from "../ui/notice";
import { selected, strike } from "./commands";
import { put } from "./putting";
import { keptPassages } from "./selection";

interface Copied {
  pieceId: number;
  passages: Schemas["Passage"][];
}

let copied: Copied | null = null;

/** Keep what is selected, but for what is struck of it. */
export function copyPassage(): boolean {
  const piece = openPiece(useProject.getState());
  const words = selected();
  const passages = keptPassages(words);
  if (!piece || !passages.length) {
    say("Select words that are not struck first: drag over them, or hold Shift with the arrows.");
    return false;
  }
  copied = { pieceId: piece.id, passages };
  const text = words.filter((one) => one.id && one.at_us !== null).map((one) => one.text);
  // As text too, where the browser lets the page; what is put back here does not need it.
  void navigator.clipboard?.writeText(text.join(" ")).catch(() => undefined);
  return true;
}

/** Strike what is selected, and keep it to be put somewhere else. */
export async function cutPassage(player: Player | null): Promise<void> {
  if (copyPassage()) await strike(player);
}

/** Put what was copied behind what is selected, or behind the word at the playhead. */
export async function putPassage(player: Player | null): Promise<void> {
  const piece = openPiece(useProject.getState());
  if (!piece || !copied) {
    say("Nothing to put here yet. Select words and press Ctrl C, or Ctrl X to move them.");
    return;
  }
  const [first] = copied.passages;
  const last = copied.passages.at(-1);
  if (!first || !last) return;
  const { pieceId: from_piece_id, passages } = copied;
  await put(player, [first.first_word, last.last_word], (behind) => ({
    kind: "put_passages",
    piece_id: piece.id,
    from_piece_id,
    passages,
    behind,
  }));
}
