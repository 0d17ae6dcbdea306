/** Sentences of all recordings: heard where they play or by themselves, and taken into the piece. */
import type { Schemas } from "../api/client";
import type { Player } from "../playback/player";
import { projectStore } from "../state/projectSession";
import { openPiece, useProject } from "../state/store";
import { put } from "./putting";

type Utterance = Schemas["UtteranceView"];

/** The card of the sentence that is heard by itself, and how often something was. */
export const useHeard = projectStore<{ card: string | null; times: number }>(() => ({
  card: null,
  times: 0,
}));

export function hear(one: Utterance, card: string, player: Player | null): void {
  useHeard.setState(({ times }) => ({ card, times: times + 1 }));
  if (one.at_us === null) player?.shuttle(0);
  else player?.playStretch(one.at_us, one.at_us + one.end_us - one.start_us, false);
}

const wordsOf = (one: Utterance): Schemas["Recorded"] => ({
  first_word: one.first_word,
  last_word: one.last_word,
});

/** Put a sentence behind what is selected, or behind the word at the playhead. */
export async function putUtterance(one: Utterance, player: Player | null): Promise<void> {
  const piece = openPiece(useProject.getState());
  if (!piece) return;
  await put(player, [one.first_word, one.last_word], (behind) => ({
    kind: "put_recorded",
    piece_id: piece.id,
    said: wordsOf(one),
    behind,
  }));
}

/** Play a take in the stead of the one that plays. */
export async function takeInstead(
  one: Utterance,
  instead: Utterance,
  player: Player | null,
): Promise<void> {
  const piece = openPiece(useProject.getState());
  const { strand_id } = instead;
  if (!piece || strand_id === null) return;
  await put(player, [one.first_word, one.last_word], () => ({
    kind: "use_take",
    piece_id: piece.id,
    instead: { strand_id, ...wordsOf(instead) },
    take: wordsOf(one),
  }));
}
