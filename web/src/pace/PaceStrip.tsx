/** The Strip at time scale: captions as blocks beside the sound, edges to drag. */

import { useCallback, useEffect, useLayoutEffect, useMemo, useRef, useState } from "react";
import type { Cue, Piece } from "../api/client";
import { byMouse } from "../focus/page";
import type { Player } from "../playback/player";
import { speakerOf } from "../state/document";
import { pick } from "../state/picks";
import { useProject } from "../state/store";
import { useVisibleCues } from "../state/visible";
import { beginPicking } from "../strip/picking";
import { RIBBON_WIDTH, Ribbon } from "../strip/Ribbon";
import { sharpCanvas } from "../ui/canvas";
import { clock } from "../ui/format";
import { Tip } from "../ui/Tip";
import { useDrag } from "./drag";
import { PaceBlock } from "./PaceBlock";
import { nearestCue, scaleRange, TOP, toMoment, toPixels, visibleRange } from "./scale";
import { setZoomRange, useZoom, zoomBy } from "./zoom";

const TILE_PX = 600;
const MARGIN_PX = 300;
/** More blocks than this in view are drawn, not built: they are too thin to read anyway. */
const MOST_BLOCKS = 160;
const QUIET_US = 300_000;

export function PaceStrip({ piece, player }: { piece: Piece; player: Player | null }) {
  const cues = useVisibleCues();
  const selected = useProject((state) => state.selected);
  const only = useProject((state) => state.onlySpeaker);
  const picked = useProject((state) => state.picked);
  const typing = useProject((state) => state.typing);
  const checks = useProject((state) => state.checks);
  const scale = useZoom((state) => state.scale);
  const scroller = useRef<HTMLDivElement>(null);
  const head = useRef<HTMLDivElement>(null);
  const view = useView(scroller, piece.duration_us);
  const { frame_rate, first_frame_us } = piece;
  const frames = useMemo(
    () => ({ us: frame_rate ? 1e6 / frame_rate : 0, originUs: first_frame_us }),
    [frame_rate, first_frame_us],
  );
  const wrong = useMemo(() => new Set(checks?.map((check) => check.cue_id)), [checks]);
  const total = toPixels(piece.duration_us, scale) + 120;
  const [fromUs, toUs] = [
    toMoment(view.top - MARGIN_PX, scale),
    toMoment(view.top + view.height + MARGIN_PX, scale),
  ];
  const [first, last] = visibleRange(cues, fromUs, toUs);
  const seek = useCallback((at: number) => player?.seek(at), [player]);
  const type = useCallback((id: number | null) => useProject.setState({ typing: id }), []);
  useKeepPlace(scroller, scale, player);

  useEffect(() => {
    if (!player) return;
    return player.listen((at) => {
      const y = Math.round(toPixels(at, useZoom.getState().scale));
      if (head.current) head.current.style.transform = `translateY(${y}px)`;
      const box = scroller.current;
      if (!player.playing || !box) return;
      const low = box.scrollTop + box.clientHeight * 0.15;
      if (y < low || y > box.scrollTop + box.clientHeight * 0.75) {
        box.scrollTo({ top: Math.max(0, y - box.clientHeight * 0.3) });
      }
    });
  }, [player]);

  useLayoutEffect(() => {
    if (head.current)
      head.current.style.transform = `translateY(${Math.round(toPixels(player?.at ?? 0, scale))}px)`;
  }, [player, scale]);

  useEffect(() => {
    const box = scroller.current;
    const cue = useProject.getState().cues.find((c) => c.id === selected);
    if (!box || !cue || player?.playing || useDrag.getState().drag) return;
    const now = useZoom.getState().scale;
    const [top, bottom] = [toPixels(cue.start_us, now), toPixels(cue.end_us, now)];
    // Nothing moves under the pointer: what the mouse chose stays, as long as some of it shows.
    const [low, high] = [box.scrollTop, box.scrollTop + box.clientHeight];
    const hidden = byMouse() ? bottom < low || top > high : top < low || bottom > high;
    if (hidden) {
      box.scrollTo({ top: Math.max(0, top - box.clientHeight / 3) });
    }
  }, [selected, player]);

  useEffect(() => {
    const box = scroller.current;
    const onWheel = (event: WheelEvent) => {
      if (!event.ctrlKey) return;
      event.preventDefault();
      zoomBy(Math.exp(-event.deltaY / 400));
    };
    box?.addEventListener("wheel", onWheel, { passive: false });
    return () => box?.removeEventListener("wheel", onWheel);
  }, []);

  const drawn = last - first > MOST_BLOCKS;
  return (
    <div
      ref={scroller}
      id="page"
      data-stop="page"
      role="listbox"
      aria-label="Captions at time scale"
      aria-multiselectable
      aria-activedescendant={selected === null ? undefined : `block-${selected}`}
      tabIndex={0}
      className="page relative min-h-0 flex-1 overflow-y-auto overflow-x-hidden outline-none"
    >
      <div style={{ height: total }} className="relative">
        <Ruler
          cues={cues}
          scale={scale}
          fromUs={fromUs}
          toUs={Math.min(toUs, piece.duration_us)}
          onSeek={seek}
        />
        <Tiles piece={piece} scale={scale} top={view.top} height={view.height} />
        {drawn ? (
          <Bars cues={cues.slice(first, last)} scale={scale} top={view.top} height={view.height} />
        ) : (
          cues
            .slice(first, last)
            .map((cue, index) => (
              <PaceBlock
                key={cue.id}
                cue={cue}
                speaker={turn(cues, first + index)}
                scale={scale}
                frames={frames}
                selected={cue.id === selected}
                picked={picked.has(cue.id)}
                typing={cue.id === typing}
                wrong={wrong.has(cue.id)}
                onSeek={seek}
                onType={type}
              />
            ))
        )}
        {!drawn && (
          <Quiets
            cues={cues}
            first={first}
            last={last}
            scale={scale}
            piece={piece}
            others={only !== null}
          />
        )}
        <div ref={head} className="pointer-events-none absolute top-0 left-0 z-30 h-0 w-full">
          <span className="absolute top-[-4px] left-[68px] block size-[9px] rounded-full bg-chalk" />
          <span className="absolute right-0 left-[68px] block h-px bg-chalk" />
        </div>
      </div>
    </div>
  );
}

/** Who begins to speak in a caption, where somebody else spoke before. */
function turn(cues: Cue[], index: number): string | null {
  const [cue, before] = [cues[index], cues[index - 1]];
  const name = cue ? speakerOf(cue) : null;
  return before && speakerOf(before) === name ? null : name;
}

/** What of the page is in view, and the zoom that its height allows. */
function useView(scroller: React.RefObject<HTMLDivElement | null>, durationUs: number) {
  const [view, setView] = useState({ top: 0, height: 700 });
  useEffect(() => {
    const box = scroller.current;
    if (!box) return;
    const read = () => {
      const { scrollTop: top, clientHeight: height } = box;
      setView((now) => (now.top === top && now.height === height ? now : { top, height }));
    };
    const observer = new ResizeObserver(() => {
      setZoomRange(scaleRange(box.clientHeight, durationUs));
      read();
    });
    observer.observe(box);
    box.addEventListener("scroll", read, { passive: true });
    return () => {
      observer.disconnect();
      box.removeEventListener("scroll", read);
    };
  }, [scroller, durationUs]);
  return view;
}

/** When the zoom changes, the playhead (or else the middle) stays where it is on the screen. */
function useKeepPlace(
  scroller: React.RefObject<HTMLDivElement | null>,
  scale: number,
  player: Player | null,
): void {
  const before = useRef(scale);
  useLayoutEffect(() => {
    const box = scroller.current;
    const old = before.current;
    before.current = scale;
    if (!box || old === scale) return;
    const at = player?.at ?? 0;
    const shown = toPixels(at, old) - box.scrollTop;
    const held = shown >= 0 && shown <= box.clientHeight;
    const fixed = held ? at : toMoment(box.scrollTop + box.clientHeight / 2, old);
    box.scrollTop = toPixels(fixed, scale) - (held ? shown : box.clientHeight / 2);
  }, [scroller, scale, player]);
}

function Tiles(props: { piece: Piece; scale: number; top: number; height: number }) {
  const { piece, scale, top, height } = props;
  const end = toPixels(piece.duration_us, scale);
  const first = Math.max(0, Math.floor((top - TOP) / TILE_PX));
  const last = Math.floor((Math.min(top + height, end) - TOP) / TILE_PX);
  return Array.from({ length: Math.max(0, last - first + 1) }, (_, i) => first + i).map((tile) => {
    const y = TOP + tile * TILE_PX;
    const tall = Math.min(TILE_PX, Math.round(end - y));
    return tall < 1 ? null : (
      <div
        key={`${tile}-${scale}`}
        className="pointer-events-none absolute left-[76px]"
        style={{ top: y, width: RIBBON_WIDTH }}
      >
        <Ribbon
          fromUs={toMoment(y, scale)}
          toUs={toMoment(y + tall, scale)}
          height={tall}
          marked={false}
        />
      </div>
    );
  });
}

const STEPS_S = [0.1, 0.2, 0.5, 1, 2, 5, 10, 30, 60, 120, 300, 600];

function Ruler(props: {
  cues: Cue[];
  scale: number;
  fromUs: number;
  toUs: number;
  onSeek: (at: number) => void;
}) {
  const { cues, scale, fromUs, toUs, onSeek } = props;
  const step = (STEPS_S.find((s) => s * scale >= 56) ?? 1_200) * 1e6;
  const marks: number[] = [];
  for (let at = Math.ceil(fromUs / step) * step; at <= toUs; at += step) marks.push(at);
  return (
    <>
      <div
        className="absolute inset-y-0 left-0 w-[146px]"
        onPointerDown={(event) => {
          const { top } = event.currentTarget.getBoundingClientRect();
          const { clientY } = event;
          const momentAt = (y: number) => toMoment(y - top, scale);
          const cue = nearestCue(cues, momentAt(clientY));
          if (!cue) onSeek(momentAt(clientY));
          else {
            const idAt = (y: number) => nearestCue(cues, momentAt(y))?.id ?? null;
            beginPicking(event, cue.id, idAt, () => onSeek(momentAt(clientY)));
          }
        }}
      />
      {marks.map((at) => (
        <div
          key={at}
          className="pointer-events-none absolute left-0 w-[72px]"
          style={{ top: toPixels(at, scale) }}
        >
          <span className="tabular absolute -top-[9px] right-2 text-dim">{clock(at)}</span>
          <span className="absolute right-0 w-1.5 border-t border-line" />
        </div>
      ))}
    </>
  );
}

function Quiets(props: {
  cues: Cue[];
  first: number;
  last: number;
  scale: number;
  piece: Piece;
  others: boolean;
}) {
  const { cues, first, last, scale, piece } = props;
  const edges = cues.slice(Math.max(0, first - 1), last);
  return edges.map((cue, index) => {
    const next = edges[index + 1]?.start_us ?? (last === cues.length ? piece.duration_us : null);
    const gap = next === null ? 0 : next - cue.end_us;
    if (gap < QUIET_US || (gap / 1e6) * scale < 18 || next === null) return null;
    return (
      <span
        key={cue.id}
        className="pointer-events-none absolute left-[160px] text-small text-dim"
        style={{ top: toPixels(cue.end_us + gap / 2, scale) - 9 }}
      >
        {(gap / 1e6).toFixed(1)} s {props.others ? "without them" : "without a caption"}
      </span>
    );
  });
}

/** Captions too thin to be blocks, drawn as bars; a click picks the nearest. */
function Bars(props: { cues: Cue[]; scale: number; top: number; height: number }) {
  const { cues, scale, top, height } = props;
  const picked = useProject((state) => state.picked);
  const canvas = useRef<HTMLCanvasElement>(null);
  const tall = height + 2 * MARGIN_PX;
  const from = Math.max(0, top - MARGIN_PX);
  useEffect(() => {
    const width = canvas.current?.clientWidth ?? 0;
    const context = sharpCanvas(canvas.current, width, tall);
    if (!context) return;
    const style = getComputedStyle(document.documentElement);
    for (const cue of cues) {
      const y = toPixels(cue.start_us, scale) - from;
      const high = Math.max(1, ((cue.end_us - cue.start_us) / 1e6) * scale - 0.5);
      context.fillStyle = style.getPropertyValue(picked.has(cue.id) ? "--chalk" : "--line");
      context.fillRect(0, y, width, high);
    }
  }, [cues, scale, from, tall, picked]);
  return (
    <Tip text="Zoom in to read the captions">
      <canvas
        ref={canvas}
        className="absolute left-[152px]"
        style={{ top: from, height: tall, width: "calc(100% - 164px)" }}
        onClick={(event) => {
          const y = event.clientY - event.currentTarget.getBoundingClientRect().top + from;
          const cue = nearestCue(cues, toMoment(y, scale));
          if (cue) pick(cue.id, event.shiftKey ? "range" : "only");
        }}
      />
    </Tip>
  );
}
