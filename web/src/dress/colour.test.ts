// @vitest-environment happy-dom
import { beforeEach, describe, expect, it } from "vitest";
import { fromHex, hex, noteColour, recentColours } from "./colour";

describe("colours", () => {
  beforeEach(() => localStorage.clear());

  it("are read from three or six digits and written with six", () => {
    expect(fromHex("#fa0")).toEqual([255, 170, 0]);
    expect(fromHex("1e90FF")).toEqual([30, 144, 255]);
    expect(hex([30, 144, 255, 10])).toBe("#1e90ff");
    for (const text of ["", "#12", "#12345g", "blue"]) expect(fromHex(text)).toBeNull();
  });

  it("used last are kept newest first, each once, eight at most", () => {
    for (const one of ["#000001", "#000002", "#000001"]) noteColour(one);
    expect(recentColours()).toEqual(["#000001", "#000002"]);
    for (let i = 0; i < 20; i += 1) noteColour(`#0000${String(i).padStart(2, "0")}`);
    expect(recentColours()).toHaveLength(8);
    localStorage.setItem("mortiser.recent-colours", "{broken");
    expect(recentColours()).toEqual([]);
  });
});
