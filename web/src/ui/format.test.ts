import { describe, expect, it } from "vitest";
import { clock, length, timeTyped } from "./format";

describe("times", () => {
  it("read back what they show", () => {
    for (const us of [0, 12_345_000, 3_723_004_000]) expect(timeTyped(clock(us, true))).toBe(us);
    expect(length(3_723_004_000)).toBe("1:02:03");
  });

  it("take seconds, minutes and hours, a comma or a point", () => {
    expect(timeTyped("75")).toBe(75_000_000);
    expect(timeTyped(" 1:02,5 ")).toBe(62_500_000);
    expect(timeTyped("1:00:03")).toBe(3_603_000_000);
    for (const text of ["", "soon", "1:2:3:4", "-3", "1:"]) expect(timeTyped(text)).toBeNull();
  });
});
