/** Walking from doubt to doubt, and settling them. */
import type { Cue, Word } from "../api/client";
import type { Player } from "../playback/player";
import { edit } from "./commands";
import { select } from "./session";
import { openPiece, useProject } from "./store";

export interface Doubt {
  cue: Cue;
  word: Word;
}

const RUN_IN_US = 1_000_000;

/** Found once for each state of the captions, since several parts of the page ask. */
const known = new WeakMap<Cue[], Doubt[]>();

export function allDoubts(cues: Cue[]): Doubt[] {
  let doubts = known.get(cues);
  if (!doubts) {
    doubts = [];
    for (const cue of cues) {
      for (const word of cue.words) if (word.doubt) doubts.push({ cue, word });
    }
    known.set(cues, doubts);
  }
  return doubts;
}

/** The next doubt behind a moment of the piece, from the start again after the last. */
export function nextDoubt(cues: Cue[], afterUs: number): Doubt | undefined {
  const doubts = allDoubts(cues);
  return doubts.find(({ word }) => word.start_us > afterUs) ?? doubts[0];
}

/** Make a doubt the one that is looked at. */
export function showDoubt(doubt: Doubt): void {
  useProject.setState({ doubt: doubt.word.id });
  select(doubt.cue.id);
}

/** Go to a doubt and play it with what was said just before. */
export function visitDoubt(doubt: Doubt, player: Player | null): void {
  showDoubt(doubt);
  player?.playStretch(doubt.cue.start_us - RUN_IN_US, doubt.cue.end_us, false);
}

/** Visit the doubt behind the one being looked at, else behind the playhead. */
export function visitNext(player: Player | null): void {
  const { cues, doubt } = useProject.getState();
  const here = allDoubts(cues).find(({ word }) => word.id === doubt);
  const next = nextDoubt(cues, here?.word.start_us ?? player?.at ?? -1);
  if (next) visitDoubt(next, player);
}

/** Keep every word that is still in doubt as it was heard: one undo takes it back. */
export function keepAll(): void {
  const { cues } = useProject.getState();
  const piece = openPiece(useProject.getState());
  if (piece && allDoubts(cues).length) void edit({ kind: "accept_all", piece_id: piece.id });
}

/** What to do with a doubtful word: keep it, take it out, take one of its alternatives, or write something else. */
export type Verdict = "keep" | "out" | number | { written: string };

/** Settle the doubt being looked at and (unless something else leads on) go on to the next. */
export async function settle(player: Player | null, verdict: Verdict, goOn = true): Promise<void> {
  const { cues, doubt } = useProject.getState();
  const here = allDoubts(cues).find(({ word }) => word.id === doubt);
  if (!here) return;
  const { cue, word } = here;
  const text =
    typeof verdict === "number"
      ? word.alternatives[verdict]
      : typeof verdict === "object"
        ? verdict.written
        : "";
  if (text === undefined) return;
  const ids = { cue_id: cue.id, word_id: word.id };
  const taken = await edit(
    verdict === "keep" ? { kind: "accept_word", ...ids } : { kind: "replace_word", ...ids, text },
  );
  const next = nextDoubt(useProject.getState().cues, word.start_us);
  if (taken && next && goOn) visitDoubt(next, player);
}
