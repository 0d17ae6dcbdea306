// @vitest-environment happy-dom
import { describe, expect, it } from "vitest";
import { letterAt, pointOf, wordsBefore } from "./cueDom";

function box(html: string): HTMLElement {
  const element = document.createElement("div");
  element.innerHTML = html;
  return element;
}

describe("words before the caret", () => {
  it("counts whole words; inside a word is before it", () => {
    expect(wordsBefore("open the plug", 0)).toBe(0);
    expect(wordsBefore("open the plug", 4)).toBe(1);
    expect(wordsBefore("open the plug", 5)).toBe(1);
    expect(wordsBefore("open the plug", 6)).toBe(1);
    expect(wordsBefore("open the plug", 13)).toBe(3);
    expect(wordsBefore("  open", 1)).toBe(0);
  });
});

describe("letters and points", () => {
  it("are found over the words' elements, there and back", () => {
    const words = box("<span>open</span> <span>the</span> <span>plug</span>");
    for (let letter = 0; letter <= 13; letter += 1) {
      const { node, offset } = pointOf(words, letter);
      expect(letterAt(words, node, offset)).toBe(letter);
    }
  });

  it("end where the text ends", () => {
    const words = box("<span>tea</span>");
    const { node, offset } = pointOf(words, 99);
    expect(letterAt(words, node, offset)).toBe(3);
    expect(pointOf(box(""), 3).offset).toBe(0);
  });
});
