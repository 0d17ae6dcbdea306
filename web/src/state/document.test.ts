import { describe, expect, it } from "vitest";
import type { Cue } from "../api/client";
import { cueAt, merged, sorted, withTail } from "./document";

const cue = (id: number, start_us: number, piece_id = 1, end_us = start_us + 100): Cue => ({
  id,
  piece_id,
  start_us,
  end_us,
  start_pinned: false,
  end_pinned: false,
  look: {},
  words: [],
});
const ids = (cues: Cue[]) => cues.map((one) => one.id);

describe("captions of the open piece", () => {
  const known = [cue(1, 0), cue(2, 100), cue(3, 200)];

  it("take in what an answer changed, in time order", () => {
    const after = merged(known, { cues: [cue(2, 300), cue(4, 150)], gone: [1] }, 1);
    expect(ids(after)).toEqual([4, 3, 2]);
  });

  it("are the same array where an answer is about another piece", () => {
    expect(merged(known, { cues: [cue(9, 0, 2)], gone: [77] }, 1)).toBe(known);
    expect(ids(merged(known, { cues: [cue(9, 0, 2)], gone: [2] }, 1))).toEqual([1, 3]);
  });

  it("keep what ended before a tail that was read anew", () => {
    expect(ids(withTail(known, [cue(5, 210), cue(2, 120)], 150))).toEqual([1, 2, 5]);
  });

  it("are each there once, the newer one", () => {
    expect(sorted([cue(1, 0), cue(1, 50)]).map((one) => one.start_us)).toEqual([50]);
  });

  it("show at their moments", () => {
    expect(cueAt(known, 150)?.id).toBe(2);
    expect(cueAt([cue(1, 0, 1, 50), cue(2, 100)], 70)).toBeUndefined();
  });
});
