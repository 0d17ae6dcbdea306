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

  it("finds the cover of a song by its name, or the only one there is", () => {
    const { recordings, lonely } = paired(named("song.mp3", "front.png", "song.txt"));
    expect(
      recordings.map(({ file, words, cover }) => [file.name, words?.name, cover?.name]),
    ).toEqual([["song.mp3", "song.txt", "front.png"]]);
    expect(lonely).toEqual([]);
    const two = paired(named("a.mp3", "b.mp3", "b.jpg", "c.png"));
    expect(two.recordings.map((one) => one.cover?.name)).toEqual([undefined, "b.jpg"]);
    expect(two.lonely.map((file) => file.name)).toEqual(["c.png"]);
    expect(paired(named("talk.mp4", "still.png")).lonely.map((file) => file.name)).toEqual([
      "still.png",
    ]);
  });

  it("brings sounds in with a single video, and as recordings otherwise", () => {
    expect(told("talk.mp4", "mic.WAV").recordings).toEqual([["talk.mp4", undefined, "mic.WAV"]]);
    expect(told("a.mp4", "b.mov", "mic.wav").recordings.length).toBe(3);
    expect(told("one.m4a", "two.wav").recordings.length).toBe(2);
  });
});
