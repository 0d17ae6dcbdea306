/** Which captions are picked, on every stage: commands work on all of them, never on hidden ones. */
import type { Cue } from "../api/client";
import { useProject } from "./store";
import { visibleCues } from "./visible";

const { getState: get, setState: set } = useProject;

/** Pick one caption, add or take out one, or pick all from the last one to it. */
export function pick(cueId: number, how: "only" | "toggle" | "range" = "only"): void {
  const { selected, picked } = get();
  if (how === "only") {
    set({ selected: cueId, picked: new Set([cueId]) });
  } else if (how === "toggle") {
    const next = new Set(picked);
    if (next.has(cueId) && next.size > 1) next.delete(cueId);
    else next.add(cueId);
    set({ picked: next, selected: next.has(cueId) ? cueId : ([...next][0] ?? null) });
  } else {
    const ids = visibleCues().map((cue) => cue.id);
    const here = ids.indexOf(cueId);
    const from = Math.max(0, ids.indexOf(get().anchor ?? selected ?? cueId));
    const [low, high] = from <= here ? [from, here] : [here, from];
    set({ selected: cueId, anchor: ids[from] ?? cueId, picked: new Set(ids.slice(low, high + 1)) });
    return;
  }
  set({ anchor: cueId });
}

export function pickAll(): void {
  const shown = visibleCues();
  set(({ selected }) => ({
    picked: new Set(shown.map((cue) => cue.id)),
    selected: selected ?? shown[0]?.id ?? null,
  }));
}

/** The picked captions that are still there, in time order. */
export function pickedCues(): Cue[] {
  const { picked, selected } = get();
  const shown = visibleCues();
  const found = shown.filter((cue) => picked.has(cue.id));
  return found.length ? found : shown.filter((cue) => cue.id === selected);
}

export function pickedIds(): number[] {
  return pickedCues().map((cue) => cue.id);
}

/** Pick from one caption to another, as when the mouse is dragged over them. */
export function pickBetween(fromId: number, toId: number): void {
  set({ selected: fromId, anchor: fromId });
  pick(toId, "range");
}
