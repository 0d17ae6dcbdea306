// @vitest-environment happy-dom
import { describe, expect, it, vi } from "vitest";
import { followPointer } from "./pointer";

function followed() {
  const seen = { move: vi.fn(), drop: vi.fn(), giveUp: vi.fn() };
  followPointer(seen);
  return seen;
}

const send = (name: string) => window.dispatchEvent(new Event(name));

describe("a followed pointer", () => {
  it("counts when it is let go, once", () => {
    const seen = followed();
    send("pointermove");
    send("pointerup");
    send("pointermove");
    send("pointerup");
    expect(seen.move).toHaveBeenCalledTimes(1);
    expect(seen.drop).toHaveBeenCalledTimes(1);
    expect(seen.giveUp).not.toHaveBeenCalled();
  });

  it.each(["pointercancel", "blur"])("counts for nothing after %s", (name) => {
    const seen = followed();
    send(name);
    send("pointermove");
    send("pointerup");
    expect(seen.giveUp).toHaveBeenCalledTimes(1);
    expect(seen.move).not.toHaveBeenCalled();
    expect(seen.drop).not.toHaveBeenCalled();
  });

  it("is given up with Escape", () => {
    const seen = followed();
    window.dispatchEvent(new KeyboardEvent("keydown", { key: "a" }));
    expect(seen.giveUp).not.toHaveBeenCalled();
    window.dispatchEvent(new KeyboardEvent("keydown", { key: "Escape" }));
    expect(seen.giveUp).toHaveBeenCalledTimes(1);
  });
});
