/**
 * A caption's words as text to type in. What is typed is a draft from its first letter; it is sent
 * after a rest and when the caret leaves. The box's contents are written by hand, not by React,
 * so that answers that come while somebody types move neither text nor caret.
 */
import {
  type ClipboardEvent,
  type KeyboardEvent,
  type MouseEvent,
  useLayoutEffect,
  useRef,
} from "react";
import type { Cue } from "../api/client";
import { tidy } from "../drafts/draft";
import { TypedHistory } from "../drafts/history";
import {
  closeDraft,
  draftOf,
  holdDraft,
  openDraft,
  sendDraft,
  typeDraft,
  useDrafts,
} from "../drafts/store";
import { holdTyping, lettersHeld, wentElsewhere } from "../focus/held";
import { focusPage } from "../focus/page";
import { edit, step } from "../state/commands";
import { pick } from "../state/picks";
import { select } from "../state/session";
import { useProject } from "../state/store";
import { visibleCues } from "../state/visible";
import { say } from "../ui/notice";
import {
  caretIn,
  letterAt,
  selectLetters,
  showText,
  showWords,
  textBeforeCaret,
  wordsBefore,
} from "./cueDom";
import { focusCue } from "./focus";
import {
  clearPassage,
  extend,
  isPicked,
  pasted,
  retype,
  selectAll,
  textOf,
  usePassage,
} from "./passage";

export function CueText({ cue, onSeek }: { cue: Cue; onSeek: (atUs: number) => void }) {
  const box = useRef<HTMLDivElement>(null);
  const typed = useRef<TypedHistory | null>(null);
  const found = useProject((state) => state.found);
  const plain = usePassage((state) => state.selecting || state.passage !== null);
  const picked = usePassage((state) => state.passage !== null && isPicked(cue));
  const draft = useDrafts((state) => state.drafts.get(cue.id));
  const stored = textOf(cue);
  const draftText = draft?.text;

  useLayoutEffect(() => {
    const here = box.current;
    if (!here) return;
    const typing = document.activeElement === here;
    if (draftText !== undefined) showText(here, draftText);
    // A space just typed behind the last word is waited on, not taken away.
    else if (!typing || here.textContent === stored || tidy(here.textContent ?? "") !== stored) {
      showWords(here, cue, found);
    }
  }, [cue, stored, found, draftText]);

  // Once it is in the transcript (or somebody else's is) there is no typing to take back.
  // biome-ignore lint/correctness/useExhaustiveDependencies: another text is what ends a history
  useLayoutEffect(() => {
    typed.current = null;
  }, [stored]);

  // A row that scrolls away, or a block that is closed, takes no text with it.
  useLayoutEffect(() => () => closeDraft(cue.id), [cue.id]);

  const take = () => sendDraft(cue.id, true);
  const letters = () => {
    const caret = box.current && caretIn(box.current);
    return caret ?? { anchor: 0, focus: 0 };
  };

  const note = (kind: string, composing: boolean) => {
    const here = box.current;
    if (!here) return;
    const text = here.textContent ?? "";
    typed.current ??= new TypedHistory({ text: stored, caret: stored.length });
    typed.current.record({ text, caret: letters().focus }, kind, performance.now());
    typeDraft(cue, text, !composing);
  };

  const goBack = (way: "undo" | "redo") => {
    const here = box.current;
    const next = way === "undo" ? typed.current?.back() : typed.current?.forth();
    if (here && next) {
      showText(here, next.text);
      selectLetters(here, next.caret, next.caret);
      typeDraft(cue, next.text);
    } else if (!draftOf(cue.id)) {
      // What was typed before cannot be made again over another state of the piece.
      typed.current = null;
      void step(way);
    } else if (way === "undo") {
      // A draft of before: all of it is what was typed and not sent.
      typeDraft(cue, stored);
    }
  };

  const split = (line: boolean) =>
    void holdTyping(async () => {
      const letter = tidy((box.current?.textContent ?? "").slice(0, letters().focus)).length;
      if (!(await take())) return;
      const now = useProject.getState().cues.find((one) => one.id === cue.id);
      const before = wordsBefore(now?.words ?? [], letter);
      const second = now?.words[before];
      if (!now || !second || before < 1) {
        if (!line) await leave(letter);
        return;
      }
      const ids = { cue_id: cue.id, before_word: before };
      if (line) return void (await edit({ kind: "break_line", ...ids }));
      if (!(await edit({ kind: "split_cue", ...ids }))) return;
      const fresh = useProject
        .getState()
        .cues.find((one) => one.words.some((word) => word.id === second.id));
      if (fresh) await focusCue(fresh.id, 0);
    });

  const join = (to: "before" | "after") =>
    void holdTyping(async () => {
      if (!(await take())) return;
      const { cues } = useProject.getState();
      const at = cues.findIndex((one) => one.id === cue.id);
      const [now, near] = [cues[at], cues[at + (to === "before" ? -1 : 1)]];
      if (!now || !near) return;
      if (!visibleCues().includes(near)) {
        say("The caption beside it is somebody else's and is hidden. Show all to join them.");
        return;
      }
      const first = to === "before" ? near : now;
      const seam = textOf(first).length + (to === "before" ? 1 : 0);
      if (await edit({ kind: "join_cue", cue_id: cue.id, to })) await focusCue(first.id, seam);
    });

  const goOn = () =>
    void holdTyping(async () => {
      const at = visibleCues().findIndex((one) => one.id === cue.id);
      const next = visibleCues()[at + 1];
      if (!(await take())) return;
      if (next) await focusCue(next.id, 0);
      else await leave(stored.length);
    });

  /** Back to the page; but whoever typed on meanwhile goes on typing here. */
  const leave = async (letter: number) => {
    if (wentElsewhere()) return;
    if (!lettersHeld()) focusPage();
    else if (document.activeElement !== box.current) await focusCue(cue.id, letter);
  };

  const onKeyDown = (event: KeyboardEvent<HTMLDivElement>) => {
    if (event.nativeEvent.isComposing) return;
    const control = event.ctrlKey || event.metaKey;
    const key = event.key.toLowerCase();
    const move = arrow(event);
    if (move && caretLeaves(box.current, move)) {
      event.preventDefault();
      const { anchor, focus } = letters();
      // Another caption is entered only once what was typed here is safe.
      void holdTyping(async () => {
        if (!(await take())) return;
        const place = (letter: number) => ({ cue: cue.id, letter });
        if (event.shiftKey) {
          extend(place(anchor), place(focus), move.vertical ? "caption" : "letter", move.way);
        } else await enterNeighbour(cue.id, move.way, move.vertical ? focus : undefined);
      });
    } else if (event.key === "Enter" && control) goOn();
    else if (event.key === "Enter") split(event.shiftKey);
    else if (event.key === "Escape") {
      holdDraft(cue.id);
      focusPage();
    } else if (event.key === "Backspace" && textBeforeCaret(box.current) === "") join("before");
    else if (event.key === "Delete" && !control && atEnd(box.current)) join("after");
    else if (control && (key === "z" || key === "y")) {
      goBack(key === "y" || event.shiftKey ? "redo" : "undo");
    } else if (control && key === "a") {
      if (window.getSelection()?.toString() !== box.current?.textContent) return;
      void take().then((taken) => taken && selectAll());
    } else return;
    event.preventDefault();
  };

  const onPaste = (event: ClipboardEvent<HTMLDivElement>) => {
    const text = pasted(event.clipboardData);
    if (!text.includes("\n")) return;
    event.preventDefault();
    event.stopPropagation();
    const { anchor, focus } = letters();
    const place = (letter: number) => ({ cue: cue.id, letter });
    void holdTyping(async () => {
      if (!(await take())) return;
      const [from, to] = [Math.min(anchor, focus), Math.max(anchor, focus)].map(place);
      if (from && to) await retype(from, to, text, "paste");
    });
  };

  const onMouseUp = (event: MouseEvent<HTMLDivElement>) => {
    if (event.ctrlKey || event.metaKey) {
      pick(cue.id, "toggle");
      return;
    }
    if (!window.getSelection()?.isCollapsed) return;
    const id = (event.target as HTMLElement).closest<HTMLElement>("[data-word]")?.dataset.word;
    const word = cue.words.find((w) => String(w.id) === id);
    useProject.setState({ doubt: word?.id ?? null });
    // Beside the words the caption itself is meant: it is gone to from its beginning.
    onSeek((word ?? cue.words[0])?.start_us ?? cue.start_us);
  };

  return (
    // biome-ignore lint/a11y/useSemanticElements: words inside are marked one by one, which an input cannot show
    <div
      ref={box}
      role="textbox"
      tabIndex={-1}
      dir="auto"
      aria-label={`Caption: ${stored}`}
      aria-multiline="false"
      data-cue-text={cue.id}
      contentEditable={plain ? false : "plaintext-only"}
      suppressContentEditableWarning
      spellCheck={false}
      className={`cue-text cursor-text rounded px-1 py-0.5 text-[15px] leading-6 outline-none ${
        picked ? "picked" : ""
      } ${draft ? "drafted" : ""}`}
      onFocus={() => {
        if (usePassage.getState().selecting) return;
        clearPassage();
        openDraft(cue.id);
        if (useProject.getState().selected !== cue.id) select(cue.id);
      }}
      onBlur={() => {
        closeDraft(cue.id);
        typed.current = null;
        if (!draftOf(cue.id)?.held) void take();
        // Odd spaces that were waited on go now.
        if (box.current && !draftOf(cue.id)) showWords(box.current, cue, found);
      }}
      onInput={(event) => {
        const { inputType, isComposing } = event.nativeEvent as InputEvent;
        note(inputType, isComposing);
      }}
      onCompositionEnd={() => note("insertCompositionText", false)}
      onBeforeInput={(event) => {
        const { inputType } = event.nativeEvent as unknown as InputEvent;
        if (inputType?.startsWith("history")) event.preventDefault();
      }}
      onKeyDown={onKeyDown}
      onPaste={onPaste}
      onMouseUp={onMouseUp}
    />
  );
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
  const at = letterAt(box, selection.focusNode, selection.focusOffset);
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

function atEnd(box: HTMLElement | null): boolean {
  const before = textBeforeCaret(box);
  return before !== null && before.length === (box?.textContent ?? "").length;
}

async function enterNeighbour(cueId: number, way: 1 | -1, letter?: number): Promise<void> {
  const cues = visibleCues();
  const next = cues[cues.findIndex((cue) => cue.id === cueId) + way];
  if (next) await focusCue(next.id, letter ?? (way > 0 ? 0 : textOf(next).length));
}
