import { describe, expect, it } from "vitest";
import type { Cue } from "../api/client";
import { buildRows, END, topOf } from "./rows";

const cue = (id: number, start_us: number, end_us: number): Cue => ({
  id,
  start_us,
  end_us,
  piece_id: 1,
  start_pinned: false,
  end_pinned: false,
  look: {},
  words: [],
});

describe("rows of the Strip", () => {
  const cues = [
    cue(1, 500_000, 1_500_000),
    cue(2, 1_500_000, 2_500_000),
    cue(3, 6_000_000, 7_000_000),
  ];
  const rows = buildRows(cues, 9_000_000);

  it("cover every moment once, quiet stretches too", () => {
    expect(rows.map((row) => row.key)).toEqual([
      "quiet-1",
      "cue-1",
      "cue-2",
      "quiet-3",
      "cue-3",
      END,
    ]);
    for (const [index, row] of rows.slice(1).entries()) expect(row.fromUs).toBe(rows[index]?.toUs);
    expect(rows.at(-1)?.toUs).toBe(9_000_000);
  });

  it("stand one below the other, their height from their time alone", () => {
    let top = 0;
    for (const row of rows) {
      expect(row.top).toBe(top);
      top += row.height;
    }
    expect(topOf(rows, 6_500_000)).toBeGreaterThan(rows[4]?.top ?? 0);
  });

  it("are none without captions", () => {
    expect(buildRows([], 9_000_000)).toEqual([]);
  });
});
