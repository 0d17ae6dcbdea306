import { describe, expect, it } from "vitest";
import { TypedHistory } from "./history";

const typed = (text: string) => ({ text, caret: text.length });

describe("TypedHistory", () => {
  it("takes letters typed without a rest as one step, a new word as another", () => {
    const history = new TypedHistory(typed("a"));
    let text = "a";
    for (const [index, letter] of [..." kettle is"].entries()) {
      text += letter;
      history.record(typed(text), "insertText", index * 50);
    }
    expect(history.back()?.text).toBe("a kettle ");
    expect(history.back()?.text).toBe("a ");
    expect(history.back()?.text).toBe("a");
    expect(history.back()).toBeNull();
    expect(history.forth()?.text).toBe("a ");
  });

  it("begins a step after a rest and for another kind of change", () => {
    const history = new TypedHistory(typed(""));
    history.record(typed("a"), "insertText", 0);
    history.record(typed("ab"), "insertText", 5_000);
    history.record(typed("a"), "deleteContentBackward", 5_050);
    expect(history.back()?.text).toBe("ab");
    expect(history.back()?.text).toBe("a");
    expect(history.back()?.text).toBe("");
  });

  it("forgets what was taken back once something else is typed", () => {
    const history = new TypedHistory(typed(""));
    history.record(typed("a"), "insertText", 0);
    history.back();
    history.record(typed("b"), "insertText", 9_000);
    expect(history.forth()).toBeNull();
    expect(history.back()?.text).toBe("");
  });
});
