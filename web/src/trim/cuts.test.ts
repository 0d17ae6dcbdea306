import { expect, it } from "vitest";
import { cutsOf, nearestCut } from "./cuts";

const clip = (id: number, start_us: number, end_us: number, at_us: number) => ({
  id,
  strand_id: 1,
  source_id: 1,
  start_us,
  end_us,
  at_us,
});
const CLIPS = [clip(1, 100, 300, 0), clip(2, 500, 600, 200)];

it("has a beginning, a cut between clips, and an end", () => {
  const cuts = cutsOf(CLIPS);
  expect(cuts.map((cut) => [cut.atUs, cut.left?.id, cut.right?.id])).toEqual([
    [0, undefined, 1],
    [200, 1, 2],
    [300, 2, undefined],
  ]);
  expect(cutsOf([])).toEqual([]);
});

it("shows the cut nearest to a moment", () => {
  const cuts = cutsOf(CLIPS);
  expect(nearestCut(cuts, 90)?.atUs).toBe(0);
  expect(nearestCut(cuts, 120)?.atUs).toBe(200);
  expect(nearestCut(cuts, 900)?.atUs).toBe(300);
  expect(nearestCut([], 5)).toBeNull();
});
