import { describe, expect, it } from "vitest";
import { about, newOutput, outputName, outputNote, same } from "./outputs";

const FORMS = [
  {
    form: "vp9",
    name: "WebM, VP9",
    about: "",
    ending: "webm",
    sound: true,
    switchable: true,
    sized: true,
    loops: false,
  },
];

describe("outputs", () => {
  it("are named by their form, and noted by what is unusual", () => {
    const video = newOutput("video:vp9", 0);
    expect(outputName(video, FORMS)).toBe("WebM, VP9");
    expect(outputNote(video)).toBe("");
    if (video.kind !== "video") throw new Error();
    const changed = { ...video, lines: 720, captions: "switchable", loudness: -16 } as const;
    expect(outputNote(changed)).toBe("720 lines · captions to switch on · -16 LUFS");
    expect(outputNote({ ...newOutput("text:txt", 0), timed: true } as never)).toBe("with times");
  });
  it("are still frames of the moment that is looked at", () => {
    expect(newOutput("still:jpeg", 1_234.6)).toMatchObject({ kind: "still", at_us: 1_235 });
  });
  it("are the same in whatever order their settings come", () => {
    const one = newOutput("text:srt", 0);
    const turned = Object.fromEntries(Object.entries(one).reverse()) as typeof one;
    expect(same([one], [turned])).toBe(true);
    expect(same([one], [newOutput("text:vtt", 0)])).toBe(false);
  });
  it("take a time that is said roundly", () => {
    expect([1, 12, 54, 90, 600].map(about)).toEqual([
      "a moment",
      "about 15 s",
      "about 55 s",
      "about 2 min",
      "about 10 min",
    ]);
  });
});
