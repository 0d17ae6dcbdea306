/** A caption's words as text to type in. What was typed is sent when the caret leaves. */
import { type ClipboardEvent, type KeyboardEvent, type MouseEvent, useRef, useState } from "react";
import type { Cue, Word } from "../api/client";
import { nextDoubt } from "../state/doubts";
import { edit, select, useProject } from "../state/project";
import { focusCue } from "./focus";
import {
  clearPassage,
  extend,
  isPicked,
  type Place,
  pasted,
  placeAt,
  retype,
  selectAll,
  textOf,
  usePassage,
} from "./passage";

export function CueText({ cue, onSeek }: { cue: Cue; onSeek: (atUs: number) => void }) {
  const box = useRef<HTMLDivElement>(null);
  // Typing changes the page behind React's back: to go back, the element is made anew.
  const [turn, setTurn] = useState(0);
  const found = useProject((state) => state.found);
  const plain = usePassage((state) => state.selecting || state.passage !== null);
  const picked = usePassage((state) => state.passage !== null && isPicked(cue));
  const restore = () => setTurn((before) => before + 1);
  const stored = textOf(cue);
  const typed = () => (box.current?.textContent ?? "").replace(/\s+/g, " ").trim();

  const commit = async (): Promise<boolean> => {
    const text = typed();
    if (text === stored) return true;
    const taken = await edit({ kind: "retype_cue", cue_id: cue.id, text });
    if (!taken) restore();
    return taken;
  };

  const onKeyDown = (event: KeyboardEvent<HTMLDivElement>) => {
    if (event.nativeEvent.isComposing) return;
    const move = arrow(event);
    if (move && caretLeaves(box.current, move)) {
      event.preventDefault();
      // Another caption is entered only once what was typed here is safe.
      const [anchor, focus] = selectedPlaces();
      void commit().then((taken) => {
        if (!taken || !anchor || !focus) return;
        if (event.shiftKey) extend(anchor, focus, move.vertical ? "caption" : "letter", move.way);
        else enterNeighbour(cue.id, move.way, move.vertical ? focus.letter : undefined);
      });
    } else if (event.key === "Enter" && event.shiftKey) {
      event.preventDefault();
      const before = wordsBeforeCaret(box.current);
      void commit().then((taken) => {
        const words = useProject.getState().cues.find((c) => c.id === cue.id)?.words.length ?? 0;
        if (taken && before > 0 && before < words) {
          void edit({ kind: "break_line", cue_id: cue.id, before_word: before });
        }
      });
    } else if (event.key === "Enter") {
      event.preventDefault();
      const before = wordsBeforeCaret(box.current);
      void commit().then((taken) => {
        const words = useProject.getState().cues.find((c) => c.id === cue.id)?.words.length ?? 0;
        if (taken && before > 0 && before < words) {
          void edit({ kind: "split_cue", cue_id: cue.id, before_word: before });
        } else box.current?.blur();
      });
    } else if (event.key === "Escape") {
      if (box.current) box.current.textContent = stored;
      box.current?.blur();
      restore();
    } else if (event.key === "Backspace" && textBeforeCaret(box.current) === "") {
      event.preventDefault();
      void commit().then(
        (taken) => taken && edit({ kind: "join_cue", cue_id: cue.id, to: "before" }),
      );
    } else if (event.key.toLowerCase() === "a" && (event.ctrlKey || event.metaKey)) {
      if (window.getSelection()?.toString() !== box.current?.textContent) return;
      event.preventDefault();
      void commit().then((taken) => taken && selectAll());
    } else if (event.key === "Tab" && !event.shiftKey) {
      const doubt = nextDoubt(useProject.getState().cues, cue.words.at(-1)?.start_us ?? 0);
      if (!doubt) return;
      event.preventDefault();
      select(doubt.cue.id);
      useProject.setState({ doubt: doubt.word.id });
      // At time scale only the caption that is typed in has a text box.
      if (useProject.getState().typing !== null) useProject.setState({ typing: doubt.cue.id });
      onSeek(doubt.word.start_us);
      focusCue(doubt.cue.id);
    }
  };

  const onPaste = (event: ClipboardEvent<HTMLDivElement>) => {
    const text = pasted(event.clipboardData);
    if (!text.includes("\n")) return;
    event.preventDefault();
    event.stopPropagation();
    const [anchor, focus] = selectedPlaces();
    void commit().then((taken) => {
      if (!taken || !anchor || !focus) return;
      const [from, to] = anchor.letter <= focus.letter ? [anchor, focus] : [focus, anchor];
      void retype(from, to, text, "paste");
    });
  };

  const onMouseUp = (event: MouseEvent<HTMLDivElement>) => {
    if (!window.getSelection()?.isCollapsed) return;
    const id = (event.target as HTMLElement).closest<HTMLElement>("[data-word]")?.dataset.word;
    const word = cue.words.find((w) => String(w.id) === id);
    // Beside the words the caption itself is meant: it is gone to from its beginning.
    onSeek((word ?? cue.words[0])?.start_us ?? cue.start_us);
  };

  return (
    // biome-ignore lint/a11y/useSemanticElements: words inside are marked one by one, which an input cannot show
    <div
      key={turn}
      ref={box}
      role="textbox"
      tabIndex={0}
      aria-label={`Caption: ${stored}`}
      aria-multiline="false"
      data-cue-text={cue.id}
      contentEditable={plain ? false : "plaintext-only"}
      suppressContentEditableWarning
      spellCheck={false}
      className={`cursor-text rounded px-1 py-0.5 text-[15px] leading-6 outline-none focus:bg-card ${picked ? "picked" : ""}`}
      onFocus={() => {
        if (usePassage.getState().selecting) return;
        clearPassage();
        select(cue.id);
      }}
      onBlur={() => void commit()}
      onKeyDown={onKeyDown}
      onPaste={onPaste}
      onMouseUp={onMouseUp}
    >
      {cue.words.map((word, index) => (
        <span key={word.id}>
          {index > 0 && " "}
          <span
            data-word={word.id}
            className={[marks(word, found), lineEnd(cue, index)].filter(Boolean).join(" ")}
          >
            {word.text}
          </span>
        </span>
      ))}
    </div>
  );
}

/** How a word is shown behind which a line was ended by hand. */
export function lineEnd(cue: Cue, index: number): string {
  return cue.words[index]?.seam === "line" && index + 1 < cue.words.length ? "line-end" : "";
}

function marks(word: Word, found: ReadonlySet<number>): string | undefined {
  const names = [
    word.doubt && "doubt",
    word.heard_as !== null && "glossed",
    word.accent > 0 && "accented",
    found.has(word.id) && "found",
  ].filter(Boolean);
  return names.length ? names.join(" ") : undefined;
}

interface Move {
  way: 1 | -1;
  vertical: boolean;
}

function arrow(event: KeyboardEvent): Move | null {
  if (event.ctrlKey || event.altKey || event.metaKey) return null;
  switch (event.key) {
    case "ArrowLeft":
      return { way: -1, vertical: false };
    case "ArrowRight":
      return { way: 1, vertical: false };
    case "ArrowUp":
      return { way: -1, vertical: true };
    case "ArrowDown":
      return { way: 1, vertical: true };
    default:
      return null;
  }
}

/** Whether an arrow takes the caret out of the caption: over its first or last letter or line. */
function caretLeaves(box: HTMLElement | null, move: Move): boolean {
  const selection = window.getSelection();
  if (!box || !selection?.focusNode || !box.contains(selection.focusNode)) return false;
  const at = placeAt(selection.focusNode, selection.focusOffset)?.letter ?? 0;
  const length = box.textContent?.length ?? 0;
  if (!move.vertical) return move.way > 0 ? at >= length : at === 0;
  const caret = document.createRange();
  caret.setStart(selection.focusNode, selection.focusOffset);
  const line = caret.getBoundingClientRect();
  const whole = box.getBoundingClientRect();
  if (!line.height) return true;
  return move.way > 0
    ? whole.bottom - line.bottom < line.height
    : line.top - whole.top < line.height;
}

function selectedPlaces(): [Place | null, Place | null] {
  const selection = window.getSelection();
  if (!selection) return [null, null];
  return [
    placeAt(selection.anchorNode, selection.anchorOffset),
    placeAt(selection.focusNode, selection.focusOffset),
  ];
}

function enterNeighbour(cueId: number, way: 1 | -1, letter: number | undefined): void {
  const { cues } = useProject.getState();
  const next = cues[cues.findIndex((cue) => cue.id === cueId) + way];
  if (next) focusCue(next.id, letter ?? (way > 0 ? 0 : textOf(next).length));
}

function textBeforeCaret(box: HTMLElement | null): string | null {
  const selection = window.getSelection();
  if (!box || !selection?.rangeCount || !selection.isCollapsed) return null;
  const range = selection.getRangeAt(0).cloneRange();
  range.setStart(box, 0);
  return range.toString();
}

/** How many whole words stand before the caret; inside a word counts as before it. */
function wordsBeforeCaret(box: HTMLElement | null): number {
  const before = textBeforeCaret(box);
  if (before === null) return 0;
  const inside = before.trimStart().split(/\s+/).filter(Boolean).length;
  const rest = (box?.textContent ?? "").slice(before.length);
  const midWord = before !== "" && !/\s$/.test(before) && rest !== "" && !/^\s/.test(rest);
  return midWord ? inside - 1 : inside;
}
