import { describe, expect, it } from "vitest";
import { snapped } from "./snap";

describe("a layer that is dragged", () => {
  it("sticks to the middle of the frame", () => {
    expect(snapped(97, 400, 200, 1000, 8)).toEqual({ d: 100, line: 500 });
  });
  it("sticks to the safe edges with its own edges", () => {
    expect(snapped(-262, 400, 200, 1000, 8)).toEqual({ d: -265, line: 35 });
    expect(snapped(462, 400, 200, 1000, 8)).toEqual({ d: 465, line: 965 });
  });
  it("is free elsewhere", () => {
    expect(snapped(40, 400, 200, 1000, 8)).toEqual({ d: 40, line: null });
  });
});
