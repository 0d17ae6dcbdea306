/** Layers by name. */
import type { Schemas } from "../api/client";

export type Layer = Schemas["Layer"];
export type Kind = Layer["kind"];

export const NAMES: Record<Kind, string> = {
  headline: "Headline",
  bar: "Progress bar",
  plate: "Plate",
  clock: "Clock",
  speaker: "Who speaks",
};
