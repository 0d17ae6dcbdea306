/** The talk of the open piece while it is trimmed, what is selected of it, and what can go. */
import { create } from "zustand";
import type { Schemas } from "../api/client";
import { whenProjectEnds } from "../state/projectSession";
import type { Cut } from "./cuts";
import type { Item, Selection } from "./selection";

export type Removal = Schemas["RemovalView"];
export type RemovalKind = Removal["kind"];

interface State {
  items: Item[];
  clips: Schemas["ClipView"][];
  selection: Selection | null;
  /** The cut that the Loupe shows. */
  cut: Cut | null;
  removals: Removal[];
  /** The suggestion being looked at, by its place in the piece. */
  looked: number | null;
  /** Which kinds are listed. */
  kinds: ReadonlySet<RemovalKind>;
  quietUs: number;
  /** What is left before and after words that stay. */
  beforeUs: number;
  afterUs: number;
  leaveUs: number;
  /** How what can go is listed: as it is said, or what saves most first. */
  order: "time" | "saved";
}

export const KINDS: readonly RemovalKind[] = ["quiet", "sounds", "fillers", "repeats", "ends"];
/** What is meant to be heard is left in unless somebody asks for it. */
const LISTED = KINDS.filter((kind) => kind !== "sounds");

/** What is known of the talk before a piece is open. */
const NOTHING = {
  items: [],
  clips: [],
  selection: null,
  cut: null,
  removals: [],
  looked: null,
};

export const useTrim = create<State>(() => ({
  ...NOTHING,
  kinds: new Set(LISTED),
  quietUs: 500_000,
  beforeUs: 60_000,
  afterUs: 120_000,
  leaveUs: 180_000,
  order: "time",
}));

// How much quiet is much stays as it was set: it is about whoever cuts, not about the project.
whenProjectEnds(() => useTrim.setState(NOTHING));

/** The suggestions that are listed. */
export function listed({ removals, kinds }: Pick<State, "removals" | "kinds">): Removal[] {
  return removals.filter((one) => kinds.has(one.kind));
}
