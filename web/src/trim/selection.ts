/** What is selected of the talk: from one item to another, kept by their keys. No state of its own. */
import type { Schemas } from "../api/client";

export type Row = Schemas["TalkRowView"];
export type TalkItem = Schemas["TalkItemView"];

/** A word or a quiet stretch of the talk, where it stands. */
export interface Item extends TalkItem {
  key: string;
  strand: number;
  row: number;
}

export interface Selection {
  anchor: string;
  focus: string;
}

const keyOf = (strand: number, item: TalkItem): string =>
  item.id ? `${strand}.${item.id}` : `${strand}.quiet.${item.start_us}`;

/** All items in their order. */
export function itemsOf(rows: readonly Row[]): Item[] {
  return rows.flatMap((row, number) =>
    row.items.map((item) => ({
      ...item,
      key: keyOf(row.strand_id, item),
      strand: row.strand_id,
      row: number,
    })),
  );
}

/** The first and the last place of a selection among the items; null where it is not there. */
export function rangeOf(
  items: readonly Item[],
  selection: Selection | null,
): [number, number] | null {
  if (!selection) return null;
  const a = items.findIndex((item) => item.key === selection.anchor);
  const b = items.findIndex((item) => item.key === selection.focus);
  return a < 0 || b < 0 ? null : [Math.min(a, b), Math.max(a, b)];
}

/** Words of each strand in a range, as edits name them. */
export function passagesOf(items: readonly Item[]): Schemas["Passage"][] {
  const found: Schemas["Passage"][] = [];
  for (const item of items) {
    if (!item.id) continue;
    const last = found.at(-1);
    if (last?.strand_id === item.strand) last.last_word = item.id;
    else found.push({ strand_id: item.strand, first_word: item.id, last_word: item.id });
  }
  return found;
}

/** The words of a range that play, as edits name them: runs without a struck word between. */
export function keptPassages(items: readonly Item[]): Schemas["Passage"][] {
  const runs: Item[][] = [[]];
  for (const item of items) {
    if (item.id && item.struck) runs.push([]);
    else runs.at(-1)?.push(item);
  }
  return runs.flatMap(passagesOf);
}

/** The sentence (or row) that an item is in. */
export function sentenceAt(items: readonly Item[], key: string): Selection | null {
  const at = items.findIndex((item) => item.key === key);
  const here = items[at];
  if (!here) return null;
  const words = items.filter((item) => item.row === here.row && item.id);
  const [first, last] = [words[0], words.at(-1)];
  return first && last ? { anchor: first.key, focus: last.key } : null;
}

/** The word so many words on from an item. */
export function wordFrom(items: readonly Item[], key: string | null, by: number): Item | undefined {
  const words = items.filter((item) => item.id);
  const at = items.findIndex((item) => item.key === key);
  if (at < 0) return words[0];
  const here = words.findIndex((word) => items.indexOf(word) >= at);
  const onWord = words[here]?.key === key;
  const from = here < 0 ? words.length : here;
  const wanted = from + by - (!onWord && by > 0 ? 1 : 0);
  return words[Math.max(0, Math.min(words.length - 1, wanted))];
}

/** The first word of the row so many rows on. */
export function rowFrom(items: readonly Item[], key: string | null, by: number): Item | undefined {
  const here = items.find((item) => item.key === key);
  if (!here) return items.find((item) => item.id);
  const rows = [...new Set(items.filter((item) => item.id).map((item) => item.row))];
  const at = rows.indexOf(here.row);
  const wanted = rows[Math.max(0, Math.min(rows.length - 1, at + by))];
  return items.find((item) => item.row === wanted && item.id);
}
