/** Walking from doubt to doubt, and settling them; any other word can be asked about too. */
import { api, type Cue, take, type Word } from "../api/client";
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
  useProject.setState({ doubt: null });
}

/** So many things that a word may be are offered, each with a key: as many as the core has. */
export const OTHERS = [1, 2, 3, 4, 5, 6];

/** The word that is looked at, doubtful or not. */
export function askedWord(cues: readonly Cue[], id: number | null): Doubt | undefined {
  for (const cue of cues) {
    const word = cue.words.find((one) => one.id === id);
    if (word) return { cue, word };
  }
  return undefined;
}

/** What a word may be that is not as it was heard: of what begins as written, where something is. */
export async function othersOf({ cue, word }: Doubt, begun: string): Promise<string[]> {
  if (word.doubt && !begun) return word.alternatives;
  return take(
    api.GET("/api/cues/{cue_id}/words/{word_id}/others", {
      params: { path: { cue_id: cue.id, word_id: word.id }, query: { begun } },
    }),
  );
}

/** What to do with a word: keep it, take it out, take one of what else it may be, or write something else. */
export type Verdict = "keep" | "out" | number | { written: string };

/**
 * Settle the word being looked at and (unless something else leads on) go on from a doubt to the next.
 * Resolves to whether it is settled.
 */
export async function settle(
  player: Player | null,
  verdict: Verdict,
  goOn: boolean,
): Promise<boolean> {
  const here = askedWord(useProject.getState().cues, useProject.getState().doubt);
  if (!here) return false;
  const { cue, word } = here;
  const ids = { cue_id: cue.id, word_id: word.id };
  if (verdict === "keep") {
    if (word.doubt && !(await edit({ kind: "accept_word", ...ids }))) return false;
  } else {
    const text = await meant(here, verdict);
    if (text === undefined) return false;
    if (!(await edit({ kind: "replace_word", ...ids, text }))) return false;
  }
  const next = word.doubt && nextDoubt(useProject.getState().cues, word.start_us);
  if (next && goOn) visitDoubt(next, player);
  else if (useProject.getState().doubt === word.id) useProject.setState({ doubt: null });
  return true;
}

async function meant(here: Doubt, verdict: Exclude<Verdict, "keep">): Promise<string | undefined> {
  if (verdict === "out") return "";
  if (typeof verdict === "number") return (await othersOf(here, ""))[verdict];
  return verdict.written;
}
