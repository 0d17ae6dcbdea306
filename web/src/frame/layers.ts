/** Layers by name. */
import type { Schemas } from "../api/client";
import { LAYER_NAMES } from "../api/values";

export type Layer = Schemas["PieceView"]["layers"][number];
export type Kind = Layer["kind"];

export const NAMES: Record<Kind, string> = LAYER_NAMES;

/** What tells a layer from others of its kind: what it says, or its picture's name. */
export function titleOf(layer: Layer): string {
  if (layer.kind === "headline") return layer.text;
  return layer.kind === "picture" ? (layer.picture?.name ?? "") : "";
}

/** What is laid out like captions; everything else stands in a box. */
export type Lettered = Extract<Layer, { finish?: unknown }>;
