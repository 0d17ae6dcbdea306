/** A caption at time scale: its height is how long it shows. */

import { memo } from "react";
import type { Cue } from "../api/client";
import { focusPage } from "../focus/page";
import { pick } from "../state/picks";
import { CueText } from "../strip/CueText";
import { lineEnd } from "../strip/cueDom";
import { focusCue } from "../strip/focus";
import { textOf } from "../strip/passage";
import { clock } from "../ui/format";
import { Tip } from "../ui/Tip";
import { beginDrag, draggedTimes, type Part, useDrag } from "./drag";
import { type Frames, toPixels } from "./scale";

interface Props {
  cue: Cue;
  /** Who begins to speak here. */
  speaker: string | null;
  scale: number;
  frames: Frames;
  selected: boolean;
  picked: boolean;
  typing: boolean;
  wrong: boolean;
  onSeek: (atUs: number) => void;
  onType: (cueId: number | null) => void;
}

const ONE_LINE = 17;
const SMALL = 10;

export const PaceBlock = memo(function PaceBlock(props: Props) {
  const { cue, speaker, scale, frames, selected, picked, typing, wrong, onSeek, onType } = props;
  const drag = useDrag((state) => (state.drag?.cue.id === cue.id ? state.drag : null));
  const [start, end] = draggedTimes(cue, drag);
  const height = Math.max(3, ((end - start) / 1e6) * scale - 1);
  const grip = (part: Part) => (
    <div
      data-edge={part}
      className={`absolute right-0 left-0 z-10 h-[7px] cursor-ns-resize ${part === "start" ? "-top-[3px]" : "-bottom-[3px]"}`}
      onPointerDown={(event) => {
        event.stopPropagation();
        pick(cue.id);
        beginDrag(event, cue, part, scale, frames);
      }}
    >
      {selected && <span className="mx-auto mt-[2px] block h-[3px] w-7 rounded-full bg-chalk" />}
    </div>
  );
  return (
    <div
      data-block={cue.id}
      className={`absolute right-3 left-[152px] rounded-sm border ${
        selected || picked ? "border-chalk bg-chalk-wash" : "border-line bg-card hover:border-dim"
      } ${drag ? "z-20 opacity-90" : ""} ${selected ? "z-10" : ""}`}
      style={{
        top: 0,
        height: typing ? Math.max(height, 34) : height,
        transform: `translateY(${toPixels(start, scale)}px)`,
      }}
    >
      {height >= 8 && grip("start")}
      {grip("end")}
      {typing ? (
        <Typing cue={cue} onSeek={onSeek} onDone={() => onType(null)} />
      ) : (
        // biome-ignore lint/a11y/useKeyWithClickEvents: keys work on the picked caption, see the key sheet
        <div
          id={`block-${cue.id}`}
          role="option"
          aria-selected={picked}
          aria-label={textOf(cue)}
          tabIndex={-1}
          className="relative h-full cursor-grab select-none overflow-hidden px-2 active:cursor-grabbing"
          onPointerDown={(event) => {
            focusPage();
            if (event.shiftKey || event.ctrlKey || event.metaKey) return;
            if (!picked) pick(cue.id);
            beginDrag(event, cue, "whole", scale, frames);
          }}
          onClick={(event) => {
            if (useDrag.getState().drag) return;
            if (event.shiftKey) pick(cue.id, "range");
            else if (event.ctrlKey || event.metaKey) pick(cue.id, "toggle");
            else {
              pick(cue.id);
              onSeek(Math.max(cue.start_us, cue.words[0]?.start_us ?? 0));
            }
          }}
          onDoubleClick={() => void focusCue(cue.id)}
        >
          {speaker && height >= ONE_LINE && (
            <span className="float-right ml-2 rounded bg-tint px-1.5 text-small text-dim">
              {speaker}
            </span>
          )}
          {height >= SMALL && <Words cue={cue} height={height} />}
          {height >= ONE_LINE && (cue.start_pinned || cue.end_pinned) && (
            <Tip text="Pinned: no rule moves this time">
              <span
                className={`absolute right-1.5 size-[7px] rounded-full bg-chalk ${
                  cue.start_pinned ? "top-1.5" : "bottom-1.5"
                }`}
              />
            </Tip>
          )}
          {wrong && <span className="absolute top-0 bottom-0 left-0 w-[3px] bg-clay" />}
        </div>
      )}
      {drag && (
        <span
          className={`tabular pointer-events-none absolute right-1 rounded bg-ink px-1.5 text-page ${
            drag.part === "end" ? "-bottom-6" : "-top-6"
          }`}
        >
          {clock(drag.part === "end" ? end : start, true)}
          {drag.at.to && ` · ${drag.at.to}`}
        </span>
      )}
    </div>
  );
});

function Words({ cue, height }: { cue: Cue; height: number }) {
  const look =
    height >= 40
      ? "pt-1 text-[14px] leading-[19px]"
      : height >= ONE_LINE
        ? "truncate text-[14px] leading-4"
        : "truncate text-[10px] leading-[1] pt-px";
  return (
    <p className={look}>
      {cue.words.map((word, index) => (
        <span key={word.id}>
          {index > 0 && !word.tight && " "}
          <span
            data-word={word.id}
            className={`${lineEnd(cue, index)} ${word.accent ? "accented" : ""}`}
          >
            {word.text}
          </span>
        </span>
      ))}
    </p>
  );
}

/** The text of a block while it is typed in; the box goes when the caret leaves it. */
function Typing(props: { cue: Cue; onSeek: (atUs: number) => void; onDone: () => void }) {
  return (
    // biome-ignore lint/a11y/noStaticElementInteractions: it only notices that the text inside is left
    <div
      className="relative z-20 bg-card"
      onBlur={(event) => {
        if (event.currentTarget.contains(event.relatedTarget)) return;
        if (event.relatedTarget === null) focusPage();
        props.onDone();
      }}
    >
      <CueText cue={props.cue} onSeek={props.onSeek} />
    </div>
  );
}
