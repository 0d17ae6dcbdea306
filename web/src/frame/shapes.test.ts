import { describe, expect, it } from "vitest";
import { backdropOf, clipAt, shapeName } from "./shapes";

const backdrop = (kind: "blur" | "colour" | "gradient") => ({
  backdrop: {
    kind,
    dark: 0.5,
    first: [1, 2, 3, 255] as [number, number, number, number],
    last: [4, 5, 6, 255] as [number, number, number, number],
    soft: 0,
  },
});

describe("shapes", () => {
  it("are called by their names where they have one", () => {
    expect(shapeName({ width: 1080, height: 1920 })).toBe("Tall 9:16");
    expect(shapeName({ width: 720, height: 1280 })).toBe("Tall 9:16");
    expect(shapeName({ width: 1080, height: 1440 })).toBe("1080 × 1440");
  });
  it("show what lies behind, also without a picture", () => {
    expect(backdropOf(backdrop("blur"))).toBe("#2e3c40");
    expect(backdropOf(backdrop("colour"))).toBe("rgb(1, 2, 3)");
    expect(backdropOf(backdrop("gradient"))).toBe("linear-gradient(rgb(1, 2, 3), rgb(4, 5, 6))");
  });
  it("have the clip that plays at a moment", () => {
    const clips = [0, 100, 250].map((at_us) => ({ at_us }) as Parameters<typeof clipAt>[0][0]);
    expect(clipAt(clips, 0)?.at_us).toBe(0);
    expect(clipAt(clips, 249)?.at_us).toBe(100);
    expect(clipAt(clips, 900)?.at_us).toBe(250);
  });
});
