/** A selection of text over several captions, kept by caption and letter, not by page elements. */
import { flushSync } from "react-dom";
import type { Cue } from "../api/client";
import { textOf } from "../drafts/draft";
import { holdTyping } from "../focus/held";
import { focusPage } from "../focus/page";
import { edit } from "../state/commands";
import { projectStore } from "../state/projectSession";
import { useProject } from "../state/store";
import { visibleCues } from "../state/visible";
import { letterAt, pointOf, selectLetters } from "./cueDom";
import { focusCue } from "./focus";

export { textOf } from "../drafts/draft";

export interface Place {
  cue: number;
  letter: number;
}

interface State {
  /** Where the selection began and where it has got to; null when it stays in one caption. */
  passage: { anchor: Place; focus: Place } | null;
  /** While the mouse selects, captions are plain text: editable ones cannot be selected across. */
  selecting: boolean;
}

export const usePassage = projectStore<State>(() => ({ passage: null, selecting: false }));

export function clearPassage(): void {
  if (!usePassage.getState().passage) return;
  usePassage.setState({ passage: null });
  window.getSelection()?.removeAllRanges();
}

/** The selected captions in order with the first and last place, or null; hidden ones are not. */
export function passageCues(): { cues: Cue[]; from: Place; to: Place } | null {
  const { passage } = usePassage.getState();
  const cues = visibleCues();
  if (!passage) return null;
  const at = (place: Place) => cues.findIndex((cue) => cue.id === place.cue);
  let [from, to] = [passage.anchor, passage.focus];
  if (at(from) < 0 || at(to) < 0) return null;
  const backwards = at(to) < at(from) || (at(to) === at(from) && to.letter < from.letter);
  if (backwards) [from, to] = [to, from];
  return { cues: cues.slice(at(from), at(to) + 1), from, to };
}

/** Whether a caption lies wholly inside the selection. */
export function isPicked(cue: Cue): boolean {
  const found = passageCues();
  if (!found?.cues.some((c) => c.id === cue.id)) return false;
  const whole = found.to.cue !== cue.id || found.to.letter >= textOf(cue).length;
  return whole && (found.from.cue !== cue.id || found.from.letter === 0);
}

/** What a copy takes: a line a caption. */
export function passageText(): string {
  const found = passageCues();
  if (!found) return "";
  return found.cues
    .map((cue) => {
      const end = cue.id === found.to.cue ? found.to.letter : undefined;
      return textOf(cue).slice(cue.id === found.from.cue ? found.from.letter : 0, end);
    })
    .join("\n");
}

type Doing = "type" | "cut" | "delete" | "paste";

/** Put a text in the place of the selection and the caret behind it. */
export async function retypePassage(text: string, doing: Doing): Promise<void> {
  const found = passageCues();
  clearPassage();
  if (found) await holdTyping(() => retype(found.from, found.to, text, doing));
}

/** Put a text between two places; each of its lines becomes a caption. */
export async function retype(from: Place, to: Place, text: string, doing: Doing): Promise<void> {
  const shown = visibleCues();
  const index = (place: Place) => shown.findIndex((cue) => cue.id === place.cue);
  const first = index(from);
  const hidden = shown.length < useProject.getState().cues.length;
  const meant = hidden ? shown.slice(first, index(to) + 1).map((cue) => cue.id) : null;
  const taken = await edit({
    kind: "retype_run",
    from_cue: from.cue,
    from_letter: from.letter,
    to_cue: to.cue,
    to_letter: to.letter,
    text,
    cue_ids: meant,
    doing,
  });
  if (!taken) return;
  const cues = visibleCues();
  const lines = text.split("\n");
  const at = cues.findIndex((cue) => cue.id === from.cue);
  // Where the caption is gone, the one that stands in its place now is next.
  const last = at < 0 ? cues[Math.min(first, cues.length - 1)] : cues[at + lines.length - 1];
  if (!last) return focusPage();
  const before = at < 0 || lines.length > 1 ? 0 : from.letter;
  await focusCue(last.id, before + (at < 0 ? 0 : (lines.at(-1) ?? "").length));
}

/** Extend the selection by a letter or a caption, beginning it where the caret is. */
export function extend(anchor: Place, focus: Place, by: "letter" | "caption", way: 1 | -1): void {
  const cues = visibleCues();
  const at = cues.findIndex((cue) => cue.id === focus.cue);
  const cue = cues[at];
  if (!cue) return;
  const next = cues[at + way];
  let moved: Place = { cue: cue.id, letter: focus.letter + way };
  const leaves = moved.letter < 0 || moved.letter > textOf(cue).length;
  if (by === "caption" && next) {
    moved = { cue: next.id, letter: Math.min(focus.letter, textOf(next).length) };
  } else if (leaves && next) {
    moved = { cue: next.id, letter: way > 0 ? 0 : textOf(next).length };
  } else if (by === "caption" || leaves) {
    moved = { cue: cue.id, letter: way > 0 ? textOf(cue).length : 0 };
  }
  show(anchor, moved);
}

export function selectAll(): void {
  const cues = visibleCues();
  const [first, last] = [cues[0], cues.at(-1)];
  if (!first || !last) return;
  const anchor = { cue: first.id, letter: 0 };
  const focus = { cue: last.id, letter: textOf(last).length };
  show(anchor, focus);
}

/** Hold a selection and show it on the page, as far as its captions are there. */
function show(anchor: Place, focus: Place): void {
  focusPage();
  // At once, since a selection inside captions that can still be typed in would give them the focus.
  flushSync(() => usePassage.setState({ passage: { anchor, focus } }));
  const [a, b] = [pointAt(anchor), pointAt(focus)];
  if (a && b) window.getSelection()?.setBaseAndExtent(a.node, a.offset, b.node, b.offset);
}

function pointAt(place: Place): { node: Node; offset: number } | null {
  const box = document.querySelector<HTMLElement>(`[data-cue-text="${place.cue}"]`);
  return box && pointOf(box, place.letter);
}

/** The caption and letter of a point on the page; the nearest caption when it lies between. */
export function placeAt(node: Node | null, offset: number): Place | null {
  if (!node) return null;
  const element = node instanceof Element ? node : node.parentElement;
  const box = element?.closest<HTMLElement>("[data-cue-text]");
  if (box) {
    return { cue: Number(box.dataset.cueText), letter: letterAt(box, node, offset) };
  }
  const point = document.createRange();
  point.setStart(node, offset);
  const boxes = [...document.querySelectorAll<HTMLElement>("[data-cue-text]")];
  const before = boxes.filter((b) => point.comparePoint(b, 0) < 0).at(-1);
  if (before) {
    return { cue: Number(before.dataset.cueText), letter: before.textContent?.length ?? 0 };
  }
  const first = boxes[0];
  return first ? { cue: Number(first.dataset.cueText), letter: 0 } : null;
}

function follows(first: number, second: number): boolean {
  const cues = visibleCues();
  return cues[cues.findIndex((cue) => cue.id === first) + 1]?.id === second;
}

/** Take a selection over from the page when it goes over several captions. */
export function adoptSelection(): boolean {
  const selection = window.getSelection();
  if (!selection || selection.isCollapsed) return false;
  const anchor = placeAt(selection.anchorNode, selection.anchorOffset);
  const focus = placeAt(selection.focusNode, selection.focusOffset);
  if (!anchor || !focus || anchor.cue === focus.cue) return false;
  // A double click takes the end of the line along, up to where the next caption begins.
  const box = document.querySelector<HTMLElement>(`[data-cue-text="${anchor.cue}"]`);
  if (box && focus.letter === 0 && follows(anchor.cue, focus.cue)) {
    selectLetters(box, anchor.letter, box.textContent?.length ?? 0);
    return false;
  }
  usePassage.setState({ passage: { anchor, focus } });
  focusPage();
  return true;
}

/** Keys while text over several captions is selected; whether the key was used. */
export function passageKey(event: KeyboardEvent): boolean {
  const { passage } = usePassage.getState();
  if (!passage) return false;
  const control = event.ctrlKey || event.metaKey;
  const way = { ArrowRight: 1, ArrowLeft: -1, ArrowDown: 1, ArrowUp: -1 }[event.key] as
    | 1
    | -1
    | undefined;
  if (event.shiftKey && way) {
    const by = event.key === "ArrowDown" || event.key === "ArrowUp" ? "caption" : "letter";
    extend(passage.anchor, passage.focus, by, way);
  } else if (way) {
    const found = passageCues();
    clearPassage();
    const end = way > 0 ? found?.to : found?.from;
    if (end) void holdTyping(() => focusCue(end.cue, end.letter));
  } else if (event.key === "Escape") {
    clearPassage();
    focusPage();
  } else if (event.key === "Backspace" || event.key === "Delete") void retypePassage("", "delete");
  else if (event.key === "Enter") void retypePassage("\n", "type");
  else if (control && event.key.toLowerCase() === "a") selectAll();
  else if (event.key.length === 1 && !control && !event.altKey)
    void retypePassage(event.key, "type");
  else return false;
  event.preventDefault();
  return true;
}

/** Copy, cut and paste of a selection over several captions. */
export function listenToClipboard(): () => void {
  const over = new AbortController();
  const take = (event: ClipboardEvent, doing: "copy" | "cut") => {
    if (!usePassage.getState().passage) return;
    event.preventDefault();
    event.clipboardData?.setData("text/plain", passageText());
    if (doing === "cut") void retypePassage("", "cut");
  };
  const { signal } = over;
  document.addEventListener("copy", (event) => take(event, "copy"), { signal });
  document.addEventListener("cut", (event) => take(event, "cut"), { signal });
  document.addEventListener(
    "paste",
    (event) => {
      if (!usePassage.getState().passage) return;
      event.preventDefault();
      void retypePassage(pasted(event.clipboardData), "paste");
    },
    { signal },
  );
  return () => over.abort();
}

/** Text from the clipboard with plain line ends and no empty lines. */
export function pasted(data: DataTransfer | null): string {
  const text = data?.getData("text/plain") ?? "";
  return text
    .split(/[\r\n\u2028\u2029]+/)
    .filter((line) => line.trim())
    .join("\n");
}
