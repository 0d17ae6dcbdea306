/** The text box of a caption as page elements: its words, its caret, and where letters stand in it. */
import type { Cue, Word } from "../api/client";
import { joined } from "../drafts/draft";

/** How a word is shown behind which a line was ended by hand. */
export function lineEnd(cue: Cue, index: number): string {
  return cue.words[index]?.seam === "line" && index + 1 < cue.words.length ? "line-end" : "";
}

function marks(word: Word, found: ReadonlySet<number>): string[] {
  return [
    word.doubt && "doubt",
    word.heard_as !== null && "glossed",
    word.accent > 0 && "accented",
    found.has(word.id) && "found",
  ].filter((name): name is string => Boolean(name));
}

/** Show a caption's words, each an element of its own; the caret stays at its letter. */
export function showWords(box: HTMLElement, cue: Cue, found: ReadonlySet<number>): void {
  const signature = cue.words
    .map((word, i) => [word.id, word.text, ...marks(word, found), lineEnd(cue, i)].join("|"))
    .join(" ");
  const text = joined(cue.words);
  if (box.dataset.shown === signature && box.textContent === text) return;
  const live = box.querySelector<HTMLElement>(".live-word")?.dataset.word;
  const nodes = cue.words.flatMap((word, index) => {
    const span = document.createElement("span");
    span.dataset.word = String(word.id);
    span.textContent = word.text;
    const names = [...marks(word, found), lineEnd(cue, index)].filter(Boolean);
    if (String(word.id) === live) names.push("live-word");
    span.className = names.join(" ");
    return index && !word.tight ? [document.createTextNode(" "), span] : [span];
  });
  keepCaret(box, () => box.replaceChildren(...nodes));
  box.dataset.shown = signature;
}

/** Show text that is not in the transcript yet. */
export function showText(box: HTMLElement, text: string): void {
  if (box.textContent === text) return;
  keepCaret(box, () => {
    box.textContent = text;
  });
  box.dataset.shown = "";
}

function keepCaret(box: HTMLElement, change: () => void): void {
  const held = caretIn(box);
  change();
  if (held) selectLetters(box, held.anchor, held.focus);
}

/** The selection inside a text box, in letters; null when it is elsewhere. */
export function caretIn(box: HTMLElement): { anchor: number; focus: number } | null {
  // Asking for a selection lays the page out: only the box that has the focus is asked.
  if (document.activeElement !== box) return null;
  const selection = window.getSelection();
  if (!selection?.rangeCount) return null;
  const { anchorNode, anchorOffset, focusNode, focusOffset } = selection;
  if (!anchorNode || !focusNode || !box.contains(anchorNode) || !box.contains(focusNode)) {
    return null;
  }
  return {
    anchor: letterAt(box, anchorNode, anchorOffset),
    focus: letterAt(box, focusNode, focusOffset),
  };
}

/** How many letters of a box stand before a point in it. */
export function letterAt(box: HTMLElement, node: Node, offset: number): number {
  const range = document.createRange();
  range.setStart(box, 0);
  range.setEnd(node, offset);
  return range.toString().length;
}

/** The point of a letter in a box; its end when there are fewer. */
export function pointOf(box: HTMLElement, letter: number): { node: Node; offset: number } {
  const texts = document.createTreeWalker(box, NodeFilter.SHOW_TEXT);
  let left = letter;
  let last: Node | null = null;
  for (let node = texts.nextNode(); node; node = texts.nextNode()) {
    last = node;
    const size = node.textContent?.length ?? 0;
    if (left <= size) return { node, offset: left };
    left -= size;
  }
  if (last) return { node: last, offset: last.textContent?.length ?? 0 };
  return { node: box, offset: 0 };
}

export function selectLetters(box: HTMLElement, anchor: number, focus: number): void {
  const [a, b] = [pointOf(box, anchor), pointOf(box, focus)];
  window.getSelection()?.setBaseAndExtent(a.node, a.offset, b.node, b.offset);
}

/** The text before the caret; null when text is selected or the caret is elsewhere. */
export function textBeforeCaret(box: HTMLElement | null): string | null {
  const caret = box && caretIn(box);
  if (!box || !caret || caret.anchor !== caret.focus) return null;
  return (box.textContent ?? "").slice(0, caret.focus);
}

/** How many whole words of a caption stand before a letter; inside a word is before it. */
export function wordsBefore(
  words: readonly Pick<Word, "text" | "tight">[],
  letter: number,
): number {
  return words.filter((_, index) => joined(words.slice(0, index + 1)).length <= letter).length;
}
