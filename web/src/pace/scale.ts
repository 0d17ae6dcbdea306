/** Geometry of the Strip at time scale: pixels and moments, and what edges stick to. */
import type { Cue } from "../api/client";
import { lastBy } from "../playback/player";

export const TOP = 12;
/** Nearer than this, in pixels, an edge sticks. */
const STICKY = 7;
const CLOSEST_S = 5;

/** Pixels a second: from five seconds to the whole piece in a window of some height. */
export function scaleRange(height: number, durationUs: number): [number, number] {
  const usable = Math.max(100, height - 2 * TOP);
  const whole = usable / Math.max(CLOSEST_S, durationUs / 1e6);
  return [whole, usable / CLOSEST_S];
}

export const toPixels = (us: number, scale: number): number => TOP + (us / 1e6) * scale;
export const toMoment = (y: number, scale: number): number =>
  Math.max(0, Math.round(((y - TOP) / scale) * 1e6));

const startOf = (cue: Cue): number => cue.start_us;

/** The captions of which something lies between two moments: a half-open range of indexes. */
export function visibleRange(cues: Cue[], fromUs: number, toUs: number): [number, number] {
  const end = lastBy(cues, toUs - 1, startOf) + 1;
  let first = end;
  // Pinned captions may overlap: a few more back are looked at than the last that ended.
  for (let back = 0; first > 0 && back < 8; ) {
    const cue = cues[first - 1] as Cue;
    if (cue.end_us <= fromUs) back += 1;
    else back = 0;
    first -= 1;
  }
  return [first, end];
}

/** How long a frame lasts, and when one of them begins; no length where the rate varies. */
export interface Frames {
  us: number;
  originUs: number;
}

export interface Sticking {
  atUs: number;
  /** What it sticks to, in a word; null where it is free. */
  to: string | null;
}

/**
 * Where an edge dragged to a moment goes: to a word's or a neighbour's edge when one is near, else
 * to a frame.
 */
export function stick(
  atUs: number,
  scale: number,
  cues: Cue[],
  self: number | null,
  frames: Frames,
): Sticking {
  const reach = (STICKY / scale) * 1e6;
  let best: Sticking = { atUs, to: null };
  let least = reach;
  const consider = (us: number, to: string) => {
    const off = Math.abs(us - atUs);
    if (off < least) {
      least = off;
      best = { atUs: us, to };
    }
  };
  const [first, last] = visibleRange(cues, atUs - 10e6, atUs + 10e6);
  for (const cue of cues.slice(first, last)) {
    if (cue.id !== self) {
      consider(cue.start_us, "next caption");
      consider(cue.end_us, "caption before");
    }
    for (const word of cue.words) {
      consider(word.start_us, `“${word.text}” begins`);
      consider(word.end_us, `“${word.text}” ends`);
    }
  }
  const { us, originUs } = frames;
  if (best.to || !us) return best;
  const nearest = originUs + Math.round((atUs - originUs) / us) * us;
  return { atUs: Math.max(0, Math.round(nearest)), to: "frame" };
}

/** The caption nearest to a moment. */
export function nearestCue(cues: Cue[], atUs: number): Cue | undefined {
  const index = lastBy(cues, atUs, startOf);
  const [before, after] = [cues[index], cues[index + 1]];
  if (!before || !after) return before ?? after;
  return atUs - before.end_us <= after.start_us - atUs ? before : after;
}
