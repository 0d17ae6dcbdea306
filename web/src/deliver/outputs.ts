/** Words for what a piece is delivered as, and what comes to a list of outputs. */
import type { Piece, Schemas } from "../api/client";
import { TEXT_NAMES, USUAL_STILL, USUAL_TEXT, USUAL_VIDEO } from "../api/values";

export type Output = Piece["outputs"][number];
export type VideoOutput = Extract<Output, { kind: "video" }>;
export type TextOutput = Extract<Output, { kind: "text" }>;
export type StillOutput = Extract<Output, { kind: "still" }>;
export type Form = Schemas["FormView"];

export const QUALITY_NAMES = { small: "small", good: "good", fine: "finest" } as const;
export const CAPTION_NAMES = {
  burned: "in the picture",
  switchable: "to switch on",
  both: "in the picture, and to switch on",
  none: "none",
} as const;

/** What an output is, in one line. */
export function outputName(output: Output, forms: readonly Form[]): string {
  switch (output.kind) {
    case "video":
      return forms.find((one) => one.form === output.form)?.name ?? output.form;
    case "text":
      return `${TEXT_NAMES[output.form]} (${output.form.toUpperCase()})`;
    case "still":
      return `Cover frame (${output.form.toUpperCase()})`;
  }
}

/** How an output differs from its usual kind, in a few words. */
export function outputNote(output: Output): string {
  const words: string[] = [];
  if (output.kind === "video") {
    if (output.lines) words.push(`${output.lines} lines`);
    if (output.rate) words.push(`${output.rate} frames/s`);
    if (output.quality !== "good") words.push(QUALITY_NAMES[output.quality]);
    if (output.captions === "none") words.push("no captions");
    else if (output.captions !== "burned") words.push(`captions ${CAPTION_NAMES[output.captions]}`);
    if (output.most_mb) words.push(`at most ${output.most_mb} MB`);
    if (output.loudness !== null) words.push(`${output.loudness} LUFS`);
  } else if (output.kind === "text") {
    if (output.as_picture) words.push("as on the picture");
    if (output.timed) words.push(output.form === "txt" ? "with times" : "word times");
    if (output.styled) words.push("places and style");
    if (output.mark) words.push("byte order mark");
    if (output.crlf) words.push("CRLF");
  } else if (!output.captions || !output.layers) {
    words.push(output.captions ? "no layers" : output.layers ? "no caption" : "picture alone");
  }
  return words.join(" · ");
}

/** A new output of a kind, as it is at first. */
export function newOutput(value: string, atUs: number): Output {
  const [kind, form] = value.split(":");
  if (kind === "text") {
    return { ...USUAL_TEXT, form: form as TextOutput["form"], timed: form === "ass" };
  }
  if (kind === "still") return { ...USUAL_STILL, at_us: Math.round(atUs) };
  return { ...USUAL_VIDEO, form: form as VideoOutput["form"] };
}

/** Seconds of work, as people say it before it begins. */
export function about(seconds: number): string {
  if (seconds < 3) return "a moment";
  if (seconds < 55) return `about ${Math.ceil(seconds / 5) * 5} s`;
  return `about ${Math.max(1, Math.round(seconds / 60))} min`;
}

export const same = (one: readonly Output[], other: readonly Output[]): boolean =>
  JSON.stringify(one.map(sorted)) === JSON.stringify(other.map(sorted));

const sorted = (output: Output) =>
  Object.entries(output).sort(([one], [other]) => one.localeCompare(other));
