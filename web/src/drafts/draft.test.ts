import { describe, expect, it } from "vitest";
import type { Cue } from "../api/client";
import { type Draft, fateOf } from "./draft";

let nextWord = 1;

function cue(id: number, text: string, ids?: number[]): Cue {
  const words = text.split(" ").map((one, index) => ({
    id: ids?.[index] ?? nextWord++,
    text: one,
    start_us: id * 1_000_000 + index * 100_000,
    end_us: id * 1_000_000 + (index + 1) * 100_000,
    aligned: true,
    doubt: false,
    alternatives: [],
    seam: "free" as const,
    accent: 0,
    own: {},
    tight: false,
    heard_as: null,
    speaker: null,
  }));
  const start_us = words[0]?.start_us ?? 0;
  const end_us = words.at(-1)?.end_us ?? 0;
  return {
    id,
    start_us,
    end_us,
    piece_id: 1,
    start_pinned: false,
    end_pinned: false,
    look: {},
    words,
  };
}

function draft(of: Cue, text: string): Draft {
  const base = of.words.map((word) => word.text).join(" ");
  const wordIds = of.words.map((word) => word.id);
  return { cueId: of.id, base, wordIds, lastWordId: 30, text, startUs: of.start_us, held: false };
}

describe("what becomes of a draft", () => {
  const one = cue(1, "open the plug", [11, 12, 13]);
  const two = cue(2, "and look", [14, 15]);

  it("goes into its caption where that reads as before", () => {
    expect(fateOf(draft(one, "open a plug"), [one, two])).toEqual({ kind: "retype", cueId: 1 });
  });

  it("is done where the transcript reads the same, whatever the spaces", () => {
    expect(fateOf(draft(one, " open  the plug "), [one, two]).kind).toBe("same");
    const changed = cue(1, "open a plug", [11, 12, 13]);
    expect(fateOf(draft(one, "open a plug"), [changed]).kind).toBe("same");
  });

  it("follows its words into other captions", () => {
    const split = [cue(1, "open", [11]), cue(3, "the plug", [12, 13]), two];
    expect(fateOf(draft(one, "open a plug"), split)).toEqual({
      kind: "run",
      fromCue: 1,
      fromLetter: 0,
      toCue: 3,
      toLetter: 8,
    });
    const joined = [cue(9, "well open the plug and look", [10, 11, 12, 13, 14, 15])];
    expect(fateOf(draft(one, "open a plug"), joined)).toEqual({
      kind: "run",
      fromCue: 9,
      fromLetter: 5,
      toCue: 9,
      toLetter: 18,
    });
  });

  it("asks where the caption reads otherwise by now", () => {
    const theirs = cue(1, "shut the plug", [11, 12, 13]);
    expect(fateOf(draft(one, "open a plug"), [theirs, two])).toEqual({
      kind: "conflict",
      cueId: 1,
      theirs: "shut the plug",
    });
    const longer = cue(1, "open the plug now", [11, 12, 13, 31]);
    expect(fateOf(draft(one, "open a plug"), [longer]).kind).toBe("conflict");
    const moved = cue(7, "shut the plug", [21, 12, 13]);
    expect(fateOf(draft(one, "open a plug"), [moved]).kind).toBe("conflict");
  });

  it("is gone with its words", () => {
    expect(fateOf(draft(one, "open a plug"), [two]).kind).toBe("gone");
    expect(fateOf(draft(one, ""), [two]).kind).toBe("gone");
  });
});
