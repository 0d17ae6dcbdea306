import { describe, expect, it } from "vitest";
import {
  itemsOf,
  keptPassages,
  passagesOf,
  type Row,
  rangeOf,
  rowFrom,
  sentenceAt,
  wordFrom,
} from "./selection";

const item = (id: number, start: number, struck = false) => ({
  id,
  text: id ? `word${id}` : "",
  start_us: start,
  end_us: start + 10,
  at_us: struck ? null : start,
  kept_us: 0,
  struck,
  sounds: false,
  cut_from_us: start,
  cut_to_us: start + 10,
});
const ROWS: Row[] = [
  { strand_id: 1, speaker: null, film: null, items: [item(0, 0), item(1, 100), item(2, 200)] },
  {
    strand_id: 1,
    speaker: null,
    film: null,
    items: [item(3, 300, true), item(0, 400), item(4, 500)],
  },
  { strand_id: 7, speaker: null, film: null, items: [item(3, 300), item(5, 600)] },
];
const ITEMS = itemsOf(ROWS);
const key = (at: number) => ITEMS[at]?.key ?? "";

describe("a selection of the talk", () => {
  it("knows a word of two strands apart, and quiet by where it begins", () => {
    expect(new Set(ITEMS.map((one) => one.key)).size).toBe(ITEMS.length);
    expect(key(0)).toBe("1.quiet.0");
  });

  it("goes either way, and is nothing where its ends are gone", () => {
    expect(rangeOf(ITEMS, { anchor: key(4), focus: key(1) })).toEqual([1, 4]);
    expect(rangeOf(ITEMS, { anchor: "9.9", focus: key(1) })).toBeNull();
    expect(rangeOf(ITEMS, null)).toBeNull();
  });

  it("names words by strand", () => {
    expect(passagesOf(ITEMS.slice(2))).toEqual([
      { strand_id: 1, first_word: 2, last_word: 4 },
      { strand_id: 7, first_word: 3, last_word: 5 },
    ]);
    expect(passagesOf(ITEMS.slice(0, 1))).toEqual([]);
  });

  it("leaves out what is struck where it is to play again", () => {
    expect(keptPassages(ITEMS.slice(1))).toEqual([
      { strand_id: 1, first_word: 1, last_word: 2 },
      { strand_id: 1, first_word: 4, last_word: 4 },
      { strand_id: 7, first_word: 3, last_word: 5 },
    ]);
  });

  it("takes a sentence by its row", () => {
    expect(sentenceAt(ITEMS, key(4))).toEqual({ anchor: key(3), focus: key(5) });
    expect(sentenceAt(ITEMS, "gone")).toBeNull();
  });
});

describe("steps from word to word", () => {
  it("pass over quiet and stop at the ends", () => {
    expect(wordFrom(ITEMS, null, 1)?.id).toBe(1);
    expect(wordFrom(ITEMS, key(1), 1)?.id).toBe(2);
    expect(wordFrom(ITEMS, key(3), 1)?.id).toBe(4);
    expect(wordFrom(ITEMS, key(4), 1)?.id).toBe(4);
    expect(wordFrom(ITEMS, key(4), -1)?.id).toBe(3);
    expect(wordFrom(ITEMS, key(7), 5)?.id).toBe(5);
    expect(wordFrom(ITEMS, key(1), -1)?.id).toBe(1);
  });

  it("go from row to row", () => {
    expect(rowFrom(ITEMS, null, 1)?.id).toBe(1);
    expect(rowFrom(ITEMS, key(2), 1)?.key).toBe(key(3));
    expect(rowFrom(ITEMS, key(5), -1)?.key).toBe(key(1));
    expect(rowFrom(ITEMS, key(6), 1)?.key).toBe(key(6));
  });
});
