/** What is chosen in the open project. */
import type { Cue, Word } from "../api/client";
import { cueAt } from "./document";
import { useProject } from "./store";

const { getState: get, setState: set } = useProject;

export function select(cueId: number | null): void {
  set({ selected: cueId, anchor: cueId, picked: new Set(cueId === null ? [] : [cueId]) });
}

/** The word that keys are about: the one clicked in the Loupe, else the one at a moment. */
export function wordAt(atUs: number): { cue: Cue; word: Word } | null {
  const { cues, word: clicked, selected } = get();
  const here = cues.find((one) => one.id === selected);
  const chosen = here?.words.find((one) => one.id === clicked);
  return here && chosen ? { cue: here, word: chosen } : wordSaid(atUs, here);
}

/** A word of the chosen captions by its id: the one clicked in the Loupe, or else on the Strip. */
export function pickedWord(
  state: ReturnType<typeof get>,
  id: number | null = state.word,
): Word | undefined {
  for (const cue of state.cues) {
    if (!state.picked.has(cue.id)) continue;
    const word = cue.words.find((one) => one.id === id);
    if (word) return word;
  }
  return undefined;
}

/** The word that is being said at a moment; where none is shown, the first of another caption. */
export function wordSaid(atUs: number, other?: Cue): { cue: Cue; word: Word } | null {
  const cue = cueAt(get().cues, atUs) ?? other;
  const word = cue?.words.findLast((one) => one.start_us <= atUs + 1_000) ?? cue?.words[0];
  return cue && word ? { cue, word } : null;
}

export function showFound(wordIds: Iterable<number>): void {
  set({ found: new Set(wordIds) });
}
