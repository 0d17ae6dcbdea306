/** A caption's words as text to type in. What was typed is sent when the caret leaves. */
import { type KeyboardEvent, type MouseEvent, useRef, useState } from "react";
import type { Cue, Word } from "../api/client";
import { nextDoubt } from "../state/doubts";
import { edit, select, useProject } from "../state/project";

export function CueText({ cue, onSeek }: { cue: Cue; onSeek: (atUs: number) => void }) {
  const box = useRef<HTMLDivElement>(null);
  // Typing changes the page behind React's back: to go back, the element is made anew.
  const [turn, setTurn] = useState(0);
  const found = useProject((state) => state.found);
  const restore = () => setTurn((before) => before + 1);
  const stored = cue.words.map((word) => word.text).join(" ");
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
    if (event.key === "Enter") {
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
    } else if (event.key === "Backspace" && caretAtStart(box.current)) {
      event.preventDefault();
      void commit().then((taken) => taken && edit({ kind: "join_cue", cue_id: cue.id }));
    } else if (event.key === "Tab" && !event.shiftKey) {
      const doubt = nextDoubt(useProject.getState().cues, cue.words.at(-1)?.start_us ?? 0);
      if (!doubt) return;
      event.preventDefault();
      useProject.setState({ selected: doubt.cue.id, doubt: doubt.word.id });
      onSeek(doubt.word.start_us);
      focusCue(doubt.cue.id);
    }
  };

  const onMouseUp = (event: MouseEvent<HTMLDivElement>) => {
    select(cue.id);
    const id = (event.target as HTMLElement).closest<HTMLElement>("[data-word]")?.dataset.word;
    const word = cue.words.find((w) => String(w.id) === id);
    // Beside the words the caption itself is meant: it is gone to from its beginning.
    if (window.getSelection()?.isCollapsed)
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
      contentEditable="plaintext-only"
      suppressContentEditableWarning
      spellCheck={false}
      className="cursor-text rounded px-1 py-0.5 text-[15px] leading-6 outline-none focus:bg-card"
      onFocus={() => select(cue.id)}
      onBlur={() => void commit()}
      onKeyDown={onKeyDown}
      onMouseUp={onMouseUp}
    >
      {cue.words.map((word, index) => (
        <span key={word.id}>
          {index > 0 && " "}
          <span data-word={word.id} className={marks(word, found)}>
            {word.text}
          </span>
        </span>
      ))}
    </div>
  );
}

function marks(word: Word, found: ReadonlySet<number>): string | undefined {
  const names = [word.doubt && "doubt", found.has(word.id) && "found"].filter(Boolean);
  return names.length ? names.join(" ") : undefined;
}

/** Put the caret into a caption's text once it is on the page. */
export function focusCue(cueId: number): void {
  window.setTimeout(() => {
    document.querySelector<HTMLElement>(`[data-cue-text="${cueId}"]`)?.focus();
  }, 60);
}

function textBeforeCaret(box: HTMLElement | null): string | null {
  const selection = window.getSelection();
  if (!box || !selection?.rangeCount || !selection.isCollapsed) return null;
  const range = selection.getRangeAt(0).cloneRange();
  range.setStart(box, 0);
  return range.toString();
}

function caretAtStart(box: HTMLElement | null): boolean {
  return textBeforeCaret(box) === "";
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
