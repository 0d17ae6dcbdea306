/** Layers by name. */
import type { Schemas } from "../api/client";

export type Layer = Schemas["Layer"];
export type Kind = Layer["kind"];

export const NAMES: Record<Kind, string> = {
  headline: "Headline",
  picture: "Picture",
  plate: "Plate",
  arrow: "Arrow",
  bubble: "Speech bubble",
  bar: "Progress bar",
  waveform: "Waveform",
  clock: "Clock",
  speaker: "Who speaks",
};

/** What is laid out like captions; everything else stands in a box. */
export const LETTERS: ReadonlySet<Kind> = new Set(["headline", "clock", "speaker"]);
/** What has corners to be rounded. */
export const CORNERED: ReadonlySet<Kind> = new Set(["picture", "plate", "bubble", "bar"]);
