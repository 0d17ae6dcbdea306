/** Where a layer that is dragged sticks: the middle of the frame and its safe edges. */
import { SAFE } from "../api/values";

export interface Snapped {
  d: number;
  /** The line it sticks to, in frame pixels; null where it is free. */
  line: number | null;
}

/**
 * How far to move along one side of the frame so that an edge or the middle of what is moved lies on a line,
 * where one is nearer than `near`. All in frame pixels.
 */
export function snapped(
  d: number,
  middle: number,
  size: number,
  frame: number,
  near: number,
): Snapped {
  const wanted: [number, number][] = [
    [middle, frame / 2],
    [middle - size / 2, frame * SAFE],
    [middle + size / 2, frame * (1 - SAFE)],
  ];
  let best: Snapped = { d, line: null };
  let least = near;
  for (const [from, line] of wanted) {
    const off = Math.abs(from + d - line);
    if (off <= least) {
      least = off;
      best = { d: line - from, line };
    }
  }
  return best;
}
