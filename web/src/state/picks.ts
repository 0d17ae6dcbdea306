/** Which captions are picked: commands of the Pace stage work on all of them. */
import type { Cue } from "../api/client";
import { useProject } from "./project";

const { getState: get, setState: set } = useProject;

/** Pick one caption, add or take out one, or pick all from the last one to it. */
export function pick(cueId: number, how: "only" | "toggle" | "range" = "only"): void {
  const { cues, selected, picked } = get();
  if (how === "only") {
    set({ selected: cueId, picked: new Set([cueId]) });
  } else if (how === "toggle") {
    const next = new Set(picked);
    if (next.has(cueId) && next.size > 1) next.delete(cueId);
    else next.add(cueId);
    set({ picked: next, selected: next.has(cueId) ? cueId : ([...next][0] ?? null) });
  } else {
    const ids = cues.map((cue) => cue.id);
    const here = ids.indexOf(cueId);
    const from = Math.max(0, ids.indexOf(get().anchor ?? selected ?? cueId));
    const [low, high] = from <= here ? [from, here] : [here, from];
    set({ selected: cueId, anchor: ids[from] ?? cueId, picked: new Set(ids.slice(low, high + 1)) });
    return;
  }
  set({ anchor: cueId });
}

export function pickAll(): void {
  set(({ cues, selected }) => ({
    picked: new Set(cues.map((cue) => cue.id)),
    selected: selected ?? cues[0]?.id ?? null,
  }));
}

/** The picked captions that are still there, in time order. */
export function pickedCues(): Cue[] {
  const { cues, picked, selected } = get();
  const found = cues.filter((cue) => picked.has(cue.id));
  return found.length ? found : cues.filter((cue) => cue.id === selected);
}

export function pickedIds(): number[] {
  return pickedCues().map((cue) => cue.id);
}
