// @vitest-environment happy-dom
import { describe, expect, it } from "vitest";
import { STAGES } from "../stages/stage";
import { actionFor, chordOf } from "./action";
import { ACTIONS } from "./index";
import { keeps } from "./keyboard";

const press = (key: string, code: string, held: Partial<KeyboardEventInit> = {}) =>
  chordOf(new KeyboardEvent("keydown", { key, code, ...held }));

describe("chords", () => {
  it("name keys as the sheet shows them", () => {
    expect(press(" ", "Space")).toBe("Space");
    expect(press("ArrowLeft", "ArrowLeft", { shiftKey: true })).toBe("Shift ←");
    expect(press("z", "KeyZ", { ctrlKey: true, shiftKey: true })).toBe("Ctrl Shift Z");
    expect(press("O", "KeyO", { shiftKey: true })).toBe("Shift O");
    expect(press("Escape", "Escape")).toBe("Esc");
  });

  it("name signs by themselves and digits with Shift by their key", () => {
    expect(press("?", "Slash", { shiftKey: true })).toBe("?");
    expect(press("{", "BracketLeft", { shiftKey: true })).toBe("{");
    expect(press("!", "Digit1", { shiftKey: true })).toBe("Shift 1");
    expect(press("1", "Digit1")).toBe("1");
  });

  it("know letters of another script by their place", () => {
    expect(press("в", "KeyD")).toBe("D");
  });
});

describe("the list of actions", () => {
  it("has no two actions for one key on one stage", () => {
    for (const stage of STAGES) {
      const chords = ACTIONS.filter((one) => !one.where || one.where.includes(stage)).flatMap(
        (one) => [one.keys, ...(one.also ?? [])].filter(Boolean),
      );
      expect(chords.filter((chord, index) => chords.indexOf(chord) !== index)).toEqual([]);
    }
  });

  it("keeps the keys of a stage to that stage", () => {
    expect(actionFor(ACTIONS, "A", "Proof", false)?.id).toBe("doubt-keep");
    expect(actionFor(ACTIONS, "A", "Dress", false)).toBeUndefined();
    expect(actionFor(ACTIONS, "1", "Dress", false)?.id).toBe("mark-1");
    expect(actionFor(ACTIONS, "X", "Pace", false)).toBeUndefined();
  });

  it("runs nothing from typed letters but what says so", () => {
    for (const action of ACTIONS.filter((one) => one.typing)) {
      expect(action.keys).toMatch(/^(F\d+|Ctrl .)$/);
    }
    expect(actionFor(ACTIONS, "D", "Proof", true)).toBeUndefined();
  });
});

describe("whose a key is", () => {
  it("leaves Space and Enter to a button that was gone to by key", () => {
    expect(keeps("button", "Space", null)).toBe(true);
    expect(keeps("button", "J", null)).toBe(false);
  });

  it("leaves arrows to lists, but undo to the piece", () => {
    expect(keeps("list", "↓", null)).toBe(true);
    expect(keeps("list", "Ctrl Z", null)).toBe(false);
    expect(keeps("page", "↓", null)).toBe(false);
  });

  it("lets Space play beside a slider", () => {
    const slider = document.createElement("span");
    slider.setAttribute("role", "slider");
    expect(keeps("list", "Space", slider)).toBe(false);
    expect(keeps("list", "→", slider)).toBe(true);
  });
});
