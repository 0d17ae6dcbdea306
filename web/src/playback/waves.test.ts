import { expect, test } from "vitest";
import { levelAt } from "./waves";

const wave = { levels: [0.2, 0.6, 1], from_us: 10_000, step_us: 20_000 };

test.each([
  [0, 0.2],
  [10_000, 0.2],
  [20_000, 0.4],
  [30_000, 0.6],
  [45_000, 0.9],
  [50_000, 1],
  [90_000, 1],
])("the level of a wave at %i µs is %f", (at, level) => {
  expect(levelAt(wave, at)).toBeCloseTo(level, 9);
});
