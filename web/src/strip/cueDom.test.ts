// @vitest-environment happy-dom
import { describe, expect, it } from "vitest";
import { letterAt, pointOf, wordsBefore } from "./cueDom";

function box(html: string): HTMLElement {
  const element = document.createElement("div");
  element.innerHTML = html;
  return element;
}

describe("words before the caret", () => {
  const words = (texts: string[], tight = false) => texts.map((text) => ({ text, tight }));

  it("counts whole words; inside a word is before it", () => {
    const plain = words(["open", "the", "plug"]);
    for (const [letter, count] of [
      [0, 0],
      [3, 0],
      [4, 1],
      [5, 1],
      [6, 1],
      [8, 2],
      [13, 3],
    ] as const) {
      expect(wordsBefore(plain, letter)).toBe(count);
    }
  });

  it("counts words without spaces between them", () => {
    expect(wordsBefore(words(["水壶", "坏了"], true), 2)).toBe(1);
    expect(wordsBefore(words(["水壶", "坏了"], true), 3)).toBe(1);
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
