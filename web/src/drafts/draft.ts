/** A caption's text as it was typed, before it is in the transcript; and what can become of it. */
import type { Cue, Word } from "../api/client";

export interface Draft {
  cueId: number;
  /** What the caption read when typing began, and the words that were in it. */
  base: string;
  wordIds: number[];
  /** No word that was there when typing began has a higher number. */
  lastWordId: number;
  text: string;
  /** Where the caption stood, in µs, should it be gone. */
  startUs: number;
  /** Left with Escape: it waits until it is taken or dropped by hand. */
  held: boolean;
}

/** How a draft stands against the captions as they are now. */
export type Fate =
  | { kind: "same" }
  | { kind: "retype"; cueId: number }
  /** The same words stand in other captions now (split, joined, regrouped). */
  | { kind: "run"; fromCue: number; fromLetter: number; toCue: number; toLetter: number }
  /** Its caption reads otherwise by now. */
  | { kind: "conflict"; cueId: number; theirs: string }
  | { kind: "gone" };

/** Words as running text; where their script has no spaces, none stands between them. */
export const joined = (words: readonly Pick<Word, "text" | "tight">[]): string =>
  words.map((word, index) => (index && !word.tight ? ` ${word.text}` : word.text)).join("");

export const textOf = (cue: Cue): string => joined(cue.words);

/** A text as captions hold it: single spaces, none at its ends. */
export const tidy = (text: string): string => text.replace(/\s+/g, " ").trim();

export function fateOf(draft: Draft, cues: readonly Cue[]): Fate {
  const cue = cues.find((one) => one.id === draft.cueId);
  const text = tidy(draft.text);
  if (cue) {
    const stored = textOf(cue);
    if (stored === text) return { kind: "same" };
    if (stored === draft.base) return { kind: "retype", cueId: cue.id };
  }
  const run = runOf(draft, cues);
  if (run) return text === draft.base ? { kind: "same" } : run;
  if (cue) return { kind: "conflict", cueId: cue.id, theirs: textOf(cue) };
  const left = new Set(draft.wordIds);
  const other = cues.find((one) => one.words.some((word) => left.has(word.id)));
  return other ? { kind: "conflict", cueId: other.id, theirs: textOf(other) } : { kind: "gone" };
}

/** Where the draft's words stand now, if all of them follow one another unchanged. */
function runOf(draft: Draft, cues: readonly Cue[]): Extract<Fate, { kind: "run" }> | null {
  const first = draft.wordIds[0];
  const at = cues.findIndex((cue) => cue.words.some((word) => word.id === first));
  if (at < 0) return null;
  const start = cues[at] as Cue;
  const skip = start.words.findIndex((word) => word.id === first);
  let left = draft.wordIds.length;
  const seen: Word[] = [];
  for (const cue of cues.slice(at)) {
    const words = cue === start ? cue.words.slice(skip) : cue.words;
    const taken = words.slice(0, left);
    // Somebody typed in these captions meanwhile: both texts are to be seen.
    if (cue.words.some((word) => word.id > draft.lastWordId)) return null;
    if (taken.some((word, i) => word.id !== draft.wordIds[draft.wordIds.length - left + i])) {
      return null;
    }
    seen.push(...taken);
    left -= taken.length;
    if (left) continue;
    if (joined(seen) !== draft.base) return null;
    const before = start.words.slice(0, skip);
    const gap = start.words[skip]?.tight ? 0 : 1;
    const upTo = cue === start ? cue.words.slice(0, skip + taken.length) : taken;
    return {
      kind: "run",
      fromCue: start.id,
      fromLetter: skip ? joined(before).length + gap : 0,
      toCue: cue.id,
      toLetter: joined(upTo).length,
    };
  }
  return null;
}
