/** Cutaways by name and in order. */
import type { Piece, Schemas } from "../api/client";

export type Cutaway = Schemas["Cutaway"];
export type Seen = Cutaway["seen"];
type Shown = Piece["cutaways"][number];

export function nameOf(seen: Seen, sources: readonly Schemas["SourceView"][]): string {
  if (seen.kind === "picture") return seen.picture.name || "a picture";
  return sources.find((one) => one.id === seen.source_id)?.name ?? "a recording";
}

/** As they are seen; those whose words are struck come last. */
export const inOrder = (all: readonly Shown[]): Shown[] =>
  [...all].sort((one, other) => begins(one) - begins(other));

const begins = (one: Shown): number => one.lies[0]?.start_us ?? Number.POSITIVE_INFINITY;
