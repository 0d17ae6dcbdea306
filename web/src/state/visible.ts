/** The captions that are shown: all, or those of one speaker. What is hidden is never touched. */
import type { Cue } from "../api/client";
import { speakerOf } from "./document";
import { whenProjectEnds } from "./projectSession";
import { useProject } from "./store";

let known: { cues: Cue[]; only: string | null; shown: Cue[] } | null = null;
whenProjectEnds(() => {
  known = null;
});

/** Worked out once for each state of captions and filter. */
export function shownOf(cues: Cue[], only: string | null): Cue[] {
  if (only === null) return cues;
  if (known?.cues !== cues || known.only !== only) {
    known = { cues, only, shown: cues.filter((cue) => speakerOf(cue) === only) };
  }
  return known.shown;
}

export function visibleCues(): Cue[] {
  const { cues, onlySpeaker } = useProject.getState();
  return shownOf(cues, onlySpeaker);
}

export const useVisibleCues = (): Cue[] =>
  useProject((state) => shownOf(state.cues, state.onlySpeaker));

/** Show one speaker's captions alone, or all again; what is picked and hidden is let go. */
export function showOnly(speaker: string | null): void {
  useProject.setState(({ cues, picked, selected }) => {
    const there = new Set(shownOf(cues, speaker).map((cue) => cue.id));
    const left = [...picked].filter((id) => there.has(id));
    return {
      onlySpeaker: speaker,
      picked: new Set(left),
      selected: selected !== null && there.has(selected) ? selected : (left[0] ?? null),
    };
  });
}
