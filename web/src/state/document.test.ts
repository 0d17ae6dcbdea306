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
    const after = merged(known, { cues: [cue(2, 300), cue(4, 150)], gone: [1], moved: [] }, 1);
    expect(ids(after)).toEqual([4, 3, 2]);
  });

  it("are the same array where an answer is about another piece", () => {
    expect(merged(known, { cues: [cue(9, 0, 2)], gone: [77], moved: [] }, 1)).toBe(known);
    expect(ids(merged(known, { cues: [cue(9, 0, 2)], gone: [2], moved: [] }, 1))).toEqual([1, 3]);
  });

  it("go where a cut has moved them, with their words", () => {
    const word = { start_us: 210, end_us: 240 } as Cue["words"][number];
    const cues = [cue(1, 0), { ...cue(3, 200), words: [word] }, cue(4, 400)];
    const moved = [
      { piece_id: 1, from_us: 150, to_us: 400, by_us: -50 },
      { piece_id: 1, from_us: 400, to_us: 900, by_us: -90 },
      { piece_id: 2, from_us: 0, to_us: 900, by_us: 7 },
    ];
    const after = merged(cues, { cues: [], gone: [], moved }, 1);
    expect(after.map((one) => one.start_us)).toEqual([0, 150, 310]);
    expect(after[1]?.words[0]).toEqual({ start_us: 160, end_us: 190 });
    expect(after[0]).toBe(cues[0]);
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
