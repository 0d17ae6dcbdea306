/** Keyframed values read at a moment: the same few lines as core/style/motion/track.py. */
import type { Track } from "../api/client";

type Ease = Track[number][2];

export function eased(ease: Ease, x: number): number {
  switch (ease) {
    case "hold":
      return 0;
    case "linear":
      return x;
    case "out":
      return 1 - (1 - x) ** 3;
    case "inout":
      return x < 0.5 ? 4 * x ** 3 : 1 - (2 - 2 * x) ** 3 / 2;
    case "over":
      return 1 + 2.70158 * (x - 1) ** 3 + 1.70158 * (x - 1) ** 2;
  }
}

/** The track's value at a moment (µs): held before the first and after the last key. */
export function valueAt(track: Track, at: number): number[] {
  let right = 0;
  while (right < track.length && (track[right] as Track[number])[0] <= at) right++;
  const after = track[right];
  const before = track[right - 1];
  if (!before) return (after as Track[number])[1];
  if (!after) return before[1];
  const x = eased(after[2], (at - before[0]) / (after[0] - before[0]));
  return before[1].map((value, i) => value + ((after[1][i] as number) - value) * x);
}
