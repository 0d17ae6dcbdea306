import { describe, expect, it } from "vitest";
import { saidLast, stretchesOf } from "./doubtRun";
import type { Doubt } from "./doubts";

const word = (start: number, end = start + 200_000) => ({ start_us: start, end_us: end });

describe("listening through doubts", () => {
  it("plays each with room around it, and near ones as one", () => {
    expect(stretchesOf([word(300_000), word(1_200_000), word(9_000_000)])).toEqual([
      { fromUs: 0, toUs: 2_300_000 },
      { fromUs: 8_300_000, toUs: 10_100_000 },
    ]);
    expect(stretchesOf([])).toEqual([]);
  });

  it("is about the doubt that was said last", () => {
    const doubts = [1_000_000, 2_000_000].map((at) => ({ word: word(at) }) as unknown as Doubt);
    expect(saidLast(doubts, 500_000)).toBeUndefined();
    expect(saidLast(doubts, 1_900_000)).toBe(doubts[0]);
    expect(saidLast(doubts, 2_400_000)).toBe(doubts[1]);
  });
});
