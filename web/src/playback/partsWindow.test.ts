import { describe, expect, it } from "vitest";
import { AHEAD_US, type Part, stale, wanted } from "./partsWindow";

const part = (at: number, url: string): Part => ({ at_us: at * 1e6, duration_us: 2e6, url });
const parts = [0, 2, 4, 6, 8, 10, 12, 14, 16, 18, 20].map((at) => part(at, `s${at}`));

describe("the window of a stream", () => {
  it("fetches the part that plays first, then on, and no farther than it must", () => {
    expect(wanted([], parts, 5e6)?.url).toBe("s4");
    const there: Part[] = [];
    for (;;) {
      const next = wanted(there, parts, 0);
      if (!next) break;
      there.push(next);
    }
    expect(there.at(-1)?.at_us).toBeLessThan(AHEAD_US);
    expect(there.length).toBe(6);
  });

  it("leaves alone what an edit did not change, and drops what moved", () => {
    const cut = [part(0, "s0"), part(2, "s4"), part(4, "s6")];
    expect(stale(parts.slice(0, 2), cut, 0)?.url).toBe("s2");
    expect(stale([part(0, "s0")], cut, 0)).toBeNull();
    expect(stale([part(6, "s6")], cut, 0)?.url).toBe("s6");
  });

  it("lets go of what is far away", () => {
    expect(stale([part(0, "s0")], parts, 60e6)?.url).toBe("s0");
    expect(stale([part(20, "s20")], parts, 0)).toBeNull();
  });
});
