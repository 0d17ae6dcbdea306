import { describe, expect, it } from "vitest";
import { paired } from "./paired";

const named = (...names: string[]) => names.map((name) => new File(["x"], name));
const told = (...names: string[]) => {
  const { recordings, lonely } = paired(named(...names));
  return {
    recordings: recordings.map(({ file, words, sounds }) => [
      file.name,
      words?.name,
      ...sounds.map((one) => one.name),
    ]),
    lonely: lonely.map((file) => file.name),
  };
};

describe("files dropped together", () => {
  it("finds the words of a recording by their name, or where there is one of each", () => {
    expect(told("a.mp4", "b.mp4", "b.srt")).toEqual({
      recordings: [
        ["a.mp4", undefined],
        ["b.mp4", "b.srt"],
      ],
      lonely: [],
    });
    expect(told("a.mp4", "words.txt").recordings).toEqual([["a.mp4", "words.txt"]]);
    expect(told("a.mp4", "b.mp4", "c.srt").lonely).toEqual(["c.srt"]);
  });

  it("brings sounds in with a single video, and as recordings otherwise", () => {
    expect(told("talk.mp4", "mic.WAV").recordings).toEqual([["talk.mp4", undefined, "mic.WAV"]]);
    expect(told("a.mp4", "b.mov", "mic.wav").recordings.length).toBe(3);
    expect(told("one.m4a", "two.wav").recordings.length).toBe(2);
  });
});
