/** Which parts of a stream are to be there around a moment, and which are not any more. */
import type { Schemas } from "../api/client";

export type Part = Schemas["PartView"];

/** So far ahead parts are fetched, and so far behind they are kept. */
export const AHEAD_US = 12e6;
export const BEHIND_US = 30e6;

export const same = (a: Part | undefined, b: Part | undefined): boolean =>
  a?.at_us === b?.at_us && a?.url === b?.url;
const end = (part: Part): number => part.at_us + part.duration_us;

/** Whether a part plays at a moment. */
export const covers = (part: Part, atUs: number): boolean => part.at_us <= atUs && atUs < end(part);

/** A part that is there and should not be: the piece has another one by now, or it is far away. */
export function stale(there: readonly Part[], parts: readonly Part[], atUs: number): Part | null {
  const now = new Map(parts.map((part) => [part.at_us, part]));
  return (
    there.find((part) => !same(part, now.get(part.at_us))) ??
    there.find((part) => end(part) < atUs - BEHIND_US || part.at_us > atUs + 3 * AHEAD_US) ??
    null
  );
}

/** The part to be fetched next: the one that plays first, then those behind it. */
export function wanted(there: readonly Part[], parts: readonly Part[], atUs: number): Part | null {
  const known = new Set(there.map((part) => part.at_us));
  return (
    parts.find(
      (part) => end(part) > atUs && part.at_us < atUs + AHEAD_US && !known.has(part.at_us),
    ) ?? null
  );
}
