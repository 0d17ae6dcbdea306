/** Layers by name. */
import type { Schemas } from "../api/client";
import { CORNERED_LAYERS, LAYER_NAMES, LETTER_LAYERS } from "../api/values";

export type Layer = Schemas["Layer"];
export type Kind = Layer["kind"];

export const NAMES: Record<Kind, string> = LAYER_NAMES;

/** What is laid out like captions; everything else stands in a box. */
export const LETTERS: ReadonlySet<Kind> = new Set(LETTER_LAYERS);
/** What has corners to be rounded. */
export const CORNERED: ReadonlySet<Kind> = new Set(CORNERED_LAYERS);
