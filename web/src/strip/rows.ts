/** Geometry of the Strip: rows of captions and quiet, where each stands and what time it covers. */
import type { Cue } from "../api/client";
import { lastBy } from "../playback/player";
import { speakerOf } from "../state/document";

/** Key of the row behind the last caption. */
export const END = "quiet-end";
export const QUIET_US = 300_000;
const PIXELS_PER_SECOND = 40;
const LEAST = 36;

export interface Row {
  key: string;
  cue: Cue | null;
  fromUs: number;
  toUs: number;
  /** Who begins to speak here, where somebody else spoke before. */
  speaker: string | null;
  top: number;
  height: number;
}

/**
 * Rows from the start of the piece to its end; every moment belongs to exactly one. A row's height
 * follows from its time alone, so that nothing moves under the pointer.
 */
export function buildRows(cues: Cue[], durationUs: number): Row[] {
  const rows: Row[] = [];
  let top = 0;
  let before: string | null = null;
  const add = (key: string, cue: Cue | null, fromUs: number, toUs: number) => {
    const natural = ((toUs - fromUs) / 1e6) * PIXELS_PER_SECOND;
    const height = Math.round(cue ? Math.max(LEAST, natural) : Math.max(26, Math.min(natural, 90)));
    const name = cue ? speakerOf(cue) : before;
    rows.push({ key, cue, fromUs, toUs, speaker: name === before ? null : name, top, height });
    before = name;
    top += height;
  };
  let at = 0;
  cues.forEach((cue, index) => {
    if (cue.start_us - at >= QUIET_US) add(`quiet-${cue.id}`, null, at, cue.start_us);
    const from = cue.start_us - at >= QUIET_US ? cue.start_us : Math.min(at, cue.start_us);
    const next = cues[index + 1];
    const until = next ? next.start_us : durationUs;
    const to = until - cue.end_us >= QUIET_US ? cue.end_us : Math.max(until, cue.end_us);
    add(`cue-${cue.id}`, cue, index ? Math.max(from, at) : from, Math.max(to, at + 1));
    at = Math.max(to, at + 1);
  });
  if (cues.length && durationUs - at >= QUIET_US) add(END, null, at, durationUs);
  return rows;
}

/** Where a moment stands on the Strip, in pixels from its top. */
export function topOf(rows: Row[], atUs: number): number {
  const row = rows[lastBy(rows, atUs, (one) => one.fromUs)];
  if (!row) return 0;
  const share = (atUs - row.fromUs) / Math.max(1, row.toUs - row.fromUs);
  return row.top + row.height * Math.min(1, share);
}
