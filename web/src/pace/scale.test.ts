import { describe, expect, it } from "vitest";
import type { Cue } from "../api/client";
import { nearestCue, scaleRange, stick, toMoment, toPixels, visibleRange } from "./scale";

const cue = (
  id: number,
  start_us: number,
  end_us: number,
  words: [string, number, number][] = [],
) =>
  ({
    id,
    start_us,
    end_us,
    words: words.map(([text, a, b]) => ({ text, start_us: a, end_us: b })),
  }) as unknown as Cue;

describe("the Strip at time scale", () => {
  it("has pixels and moments that map to each other", () => {
    for (const scale of [3, 40.5, 180]) {
      for (const us of [0, 1_234_567, 3_600_000_000]) {
        expect(Math.abs(toMoment(toPixels(us, scale), scale) - us)).toBeLessThan(2);
      }
    }
    expect(toMoment(-50, 40)).toBe(0);
  });

  it("goes from the whole piece to five seconds in a window", () => {
    const [whole, near] = scaleRange(600, 60e6);
    expect(toPixels(60e6, whole)).toBeCloseTo(600 - 12);
    expect(toPixels(5e6, near)).toBeCloseTo(600 - 12);
    const [a, b] = scaleRange(600, 2e6);
    expect(a).toBe(b);
  });

  it("finds what lies between two moments, long captions from before too", () => {
    const cues = [cue(1, 0, 9e6), ...[2, 3, 4, 5].map((n) => cue(n, n * 1e6, n * 1e6 + 5e5))];
    expect(visibleRange(cues, 4e6, 4.2e6)).toEqual([0, 4]);
    expect(visibleRange(cues, 20e6, 21e6)[1]).toBe(5);
  });

  it("sticks to the nearest edge within reach, else to a frame, else to nothing", () => {
    const cues = [cue(1, 0, 1e6, [["tea", 100_000, 900_000]]), cue(2, 1.2e6, 2e6)];
    expect(stick(1_010_000, 100, cues, 2, { us: 40_000, originUs: 0 })).toEqual({
      atUs: 1e6,
      to: "caption before",
    });
    expect(stick(930_000, 100, cues, 1, { us: 40_000, originUs: 0 })).toEqual({
      atUs: 900_000,
      to: "“tea” ends",
    });
    expect(stick(1_090_000, 100, cues, 2, { us: 40_000, originUs: 0 })).toEqual({
      atUs: 1_080_000,
      to: "frame",
    });
    expect(stick(1_090_000, 100, cues, 2, { us: 0, originUs: 0 })).toEqual({
      atUs: 1_090_000,
      to: null,
    });
    const late = { us: 40_000, originUs: 15_000 };
    expect(stick(1_090_000, 100, cues, 2, late)).toEqual({ atUs: 1_095_000, to: "frame" });
  });

  it("knows the caption nearest to a moment", () => {
    const cues = [cue(1, 0, 1e6), cue(2, 3e6, 4e6)];
    expect(nearestCue(cues, 1.4e6)?.id).toBe(1);
    expect(nearestCue(cues, 2.6e6)?.id).toBe(2);
    expect(nearestCue([], 0)).toBeUndefined();
  });
});
