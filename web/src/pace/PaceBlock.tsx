/** A caption at time scale: its height is how long it shows. */
import { memo, useEffect, useRef } from "react";
import type { Cue } from "../api/client";
import { pick } from "../state/picks";
import { CueText, lineEnd } from "../strip/CueText";
import { textOf } from "../strip/passage";
import { clock } from "../ui/format";
import { beginDrag, draggedTimes, type Part, useDrag } from "./drag";
import { toPixels } from "./scale";

interface Props {
  cue: Cue;
  scale: number;
  frameUs: number;
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
  const { cue, scale, frameUs, selected, picked, typing, wrong, onSeek, onType } = props;
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
        beginDrag(event, cue, part, scale, frameUs);
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
          role="option"
          aria-selected={picked}
          aria-label={textOf(cue)}
          tabIndex={-1}
          className="relative h-full cursor-grab select-none overflow-hidden px-2 active:cursor-grabbing"
          onPointerDown={(event) => {
            if (event.shiftKey || event.ctrlKey || event.metaKey) return;
            if (!picked) pick(cue.id);
            beginDrag(event, cue, "whole", scale, frameUs);
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
          onDoubleClick={() => onType(cue.id)}
        >
          {height >= SMALL && <Words cue={cue} height={height} />}
          {height >= ONE_LINE && (cue.start_pinned || cue.end_pinned) && (
            <span
              title="Pinned: no rule moves this time"
              className={`absolute right-1.5 size-[7px] rounded-full bg-chalk ${
                cue.start_pinned ? "top-1.5" : "bottom-1.5"
              }`}
            />
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
          {index > 0 && " "}
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

function Typing(props: { cue: Cue; onSeek: (atUs: number) => void; onDone: () => void }) {
  const box = useRef<HTMLDivElement>(null);
  useEffect(() => box.current?.querySelector<HTMLElement>("[data-cue-text]")?.focus(), []);
  return (
    // biome-ignore lint/a11y/noStaticElementInteractions: it only notices that the text inside is left
    <div
      ref={box}
      className="relative z-20 bg-card"
      onBlur={(event) => {
        if (!event.currentTarget.contains(event.relatedTarget)) props.onDone();
      }}
    >
      <CueText
        key={props.cue.words.map((w) => `${w.id}${w.text}`).join()}
        cue={props.cue}
        onSeek={props.onSeek}
      />
    </div>
  );
}
