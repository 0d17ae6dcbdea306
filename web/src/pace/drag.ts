/** Dragging a caption's edge or a whole caption: where it is now, and the change when it is let go. */
import type { Cue } from "../api/client";
import { SHORTEST_SHOWN_US } from "../api/values";
import { edit } from "../state/commands";
import { pickedIds } from "../state/picks";
import { projectStore } from "../state/projectSession";
import { useProject } from "../state/store";
import { followPointer } from "../ui/pointer";
import { type Frames, type Sticking, stick } from "./scale";

export type Part = "start" | "end" | "whole";

export interface Drag {
  cue: Cue;
  part: Part;
  /** Where the dragged edge (the start, for a whole caption) is now. */
  at: Sticking;
}

/** What is being dragged, if anything. */
export const useDrag = projectStore<{ drag: Drag | null }>(() => ({ drag: null }));

const MOVED_PX = 3;

/** The times a caption has while it is dragged. */
export function draggedTimes(cue: Cue, drag: Drag | null): [number, number] {
  if (drag?.cue.id !== cue.id) return [cue.start_us, cue.end_us];
  const at = drag.at.atUs;
  if (drag.part === "start") return [Math.min(at, cue.end_us - SHORTEST_SHOWN_US), cue.end_us];
  if (drag.part === "end") return [cue.start_us, Math.max(at, cue.start_us + SHORTEST_SHOWN_US)];
  return [at, at + cue.end_us - cue.start_us];
}

/**
 * Follow the pointer from a press on a caption until it is let go. Alt lets an edge be anywhere,
 * Shift takes a touching neighbour along, Ctrl everything behind.
 */
export function beginDrag(
  press: React.PointerEvent,
  cue: Cue,
  part: Part,
  scale: number,
  frames: Frames,
): void {
  if (press.button !== 0) return;
  const origin = part === "end" ? cue.end_us : cue.start_us;
  let latest: Drag | null = null;
  const follow = (event: PointerEvent) => {
    const moved = event.clientY - press.clientY;
    if (!latest && Math.abs(moved) < MOVED_PX) return;
    const wanted = Math.max(0, Math.round(origin + (moved / scale) * 1e6));
    const { cues } = useProject.getState();
    const at = event.altKey
      ? { atUs: wanted, to: null }
      : stick(wanted, scale, cues, cue.id, frames);
    latest = { cue, part, at };
    useDrag.setState({ drag: latest });
  };
  const drop = (event: PointerEvent) => {
    const done = latest;
    if (!done || done.at.atUs === origin) {
      useDrag.setState({ drag: null });
      return;
    }
    // The dragged place stays shown until the answer is there.
    void send(done, { together: event.shiftKey, ripple: event.ctrlKey || event.metaKey }).finally(
      () => useDrag.setState((now) => (now.drag === done ? { drag: null } : now)),
    );
  };
  followPointer({ move: follow, drop, giveUp: () => useDrag.setState({ drag: null }) });
}

function send(drag: Drag, how: { together: boolean; ripple: boolean }): Promise<boolean> {
  const { cue, part } = drag;
  const [start, end] = draggedTimes(cue, drag);
  if (part === "whole") {
    const ids = pickedIds();
    const cue_ids = ids.includes(cue.id) ? ids : [cue.id];
    return edit({ kind: "move_cues", cue_ids, by_us: start - cue.start_us, ripple: how.ripple });
  }
  const edge = part === "start" ? { start_us: start } : { end_us: end };
  return edit({ kind: "set_cue_times", cue_id: cue.id, ...edge, ...how });
}
