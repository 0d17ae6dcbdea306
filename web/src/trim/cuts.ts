/** Where the clips of a piece meet: its beginning, its cuts, its end. */
import type { Schemas } from "../api/client";

type Clip = Schemas["ClipView"];

export interface Cut {
  atUs: number;
  /** The clip that stops there, and the one that goes on. */
  left: Clip | null;
  right: Clip | null;
}

export function cutsOf(clips: readonly Clip[]): Cut[] {
  const last = clips.at(-1);
  if (!last) return [];
  const found: Cut[] = clips.map((right, at) => ({
    atUs: right.at_us,
    left: clips[at - 1] ?? null,
    right,
  }));
  const end = last.at_us + last.end_us - last.start_us;
  return [...found, { atUs: end, left: last, right: null }];
}

/** The cut nearest to a moment of the piece. */
export function nearestCut(cuts: readonly Cut[], atUs: number): Cut | null {
  const away = (cut: Cut) => Math.abs(cut.atUs - atUs);
  return cuts.reduce<Cut | null>(
    (best, cut) => (best && away(best) <= away(cut) ? best : cut),
    null,
  );
}
