/**
 * A frame around the caption in the preview: drag it to move, a corner to scale, the knob to turn.
 * The same with keys: arrows move, + and - scale, Shift with an arrow turns.
 */
import { useEffect, useState } from "react";
import type { Layer, Piece } from "../api/client";
import { type Changes, useDress, useTarget } from "../dress/scope";
import type { Bounds } from "../playback/matrix";
import type { Painter } from "../playback/painter";
import type { Player } from "../playback/player";
import { cueAt, useProject } from "../state/project";

/** What is done with the handles until they are let go: frame pixels, a factor, degrees. */
interface Grip {
  dx: number;
  dy: number;
  scale: number;
  turn: number;
}

const REST: Grip = { dx: 0, dy: 0, scale: 1, turn: 0 };
const STEP = 0.005;

export function Handles(props: {
  piece: Piece;
  player: Player;
  /** Screen pixels per frame pixel. */
  zoom: number;
  painter: () => Painter | undefined;
  repaint: () => void;
}) {
  const { piece, player, zoom, painter, repaint } = props;
  const scope = useDress((state) => state.scope);
  const target = useTarget(piece);
  const shown = useShown(player);
  const picked = useProject((state) => state.picked);
  const version = useProject((state) => state.sceneVersion);
  const [bounds, setBounds] = useState<Bounds | null>(null);
  const [grip, setGrip] = useState<Grip | null>(null);

  // biome-ignore lint/correctness/useExhaustiveDependencies: a new version is what to measure
  useEffect(() => {
    let tries = 0;
    const measure = () => {
      setBounds(shown === null ? null : (painter()?.boundsOf(shown) ?? null));
      // The new scene comes a moment after the change.
      if (tries++ < 6) handle = window.setTimeout(measure, 80);
    };
    let handle = window.setTimeout(measure, 0);
    return () => window.clearTimeout(handle);
  }, [shown, version, zoom]);

  if (shown === null || !bounds) return null;
  const middle: [number, number] = [(bounds[0] + bounds[2]) / 2, (bounds[1] + bounds[3]) / 2];
  const turned = Number(target.value("place.turn") ?? 0);

  const show = (next: Grip | null) => {
    setGrip(next);
    const held = painter();
    if (held) held.held = next ? { cueId: shown, layer: layerOf(next, middle) } : null;
    repaint();
  };
  const commit = (done: Grip) => {
    const changes: Changes = {};
    if (done.dx || done.dy) {
      changes["place.dx"] = within(Number(target.value("place.dx")) + done.dx / piece.width, 1);
      changes["place.dy"] = within(Number(target.value("place.dy")) + done.dy / piece.height, 1);
    }
    if (done.scale !== 1) {
      const size = Number(target.value("size")) * done.scale;
      changes.size = Math.min(0.5, Math.max(0.01, Number(size.toFixed(4))));
    }
    if (done.turn) changes["place.turn"] = within(turned + done.turn, 180);
    show(null);
    if (Object.keys(changes).length) target.set(changes);
  };

  const take = (event: React.PointerEvent, way: "move" | "scale" | "turn") => {
    event.preventDefault();
    event.stopPropagation();
    const box = event.currentTarget.closest("[data-handles]") as HTMLElement;
    const rect = box.getBoundingClientRect();
    const centre: [number, number] = [rect.left + rect.width / 2, rect.top + rect.height / 2];
    const start: [number, number] = [event.clientX, event.clientY];
    let now = REST;
    const move = (at: PointerEvent) => {
      now = gripped(way, start, [at.clientX, at.clientY], centre, zoom, at.shiftKey);
      show(now);
    };
    const over = new AbortController();
    window.addEventListener("pointermove", move, { signal: over.signal });
    window.addEventListener(
      "pointerup",
      () => {
        over.abort();
        commit(now);
      },
      { signal: over.signal },
    );
    window.addEventListener(
      "keydown",
      (key) => {
        if (key.key !== "Escape") return;
        over.abort();
        show(null);
      },
      { signal: over.signal },
    );
  };

  const onKey = (event: React.KeyboardEvent) => {
    const step = keyed(event, piece);
    if (!step) return;
    event.preventDefault();
    event.stopPropagation();
    commit(step);
  };

  const { dx, dy, scale, turn } = grip ?? REST;
  const some = picked.size === 1 ? "this caption" : `${picked.size} captions`;
  const about = scope === "piece" ? "whole piece" : some;
  const knob = "absolute size-3 rounded-full border-2 border-chalk bg-white";
  return (
    // biome-ignore lint/a11y/useSemanticElements: a frame that is dragged and moved by keys
    <div
      data-handles
      role="group"
      // biome-ignore lint/a11y/noNoninteractiveTabindex: it is moved by keys
      tabIndex={0}
      aria-label={`Place of ${about}: arrows move, plus and minus scale, Shift and arrows turn`}
      className="group absolute cursor-move border border-chalk/70 border-dashed outline-none hover:border-solid focus-visible:border-2 focus-visible:border-solid"
      style={{
        left: bounds[0] * zoom,
        top: bounds[1] * zoom,
        width: (bounds[2] - bounds[0]) * zoom,
        height: (bounds[3] - bounds[1]) * zoom,
        transform: `translate(${dx * zoom}px, ${dy * zoom}px) rotate(${turned + turn}deg) scale(${scale})`,
      }}
      onPointerDown={(event) => take(event, "move")}
      onKeyDown={onKey}
    >
      <span
        className={`${knob} -right-1.5 -bottom-1.5 cursor-nwse-resize`}
        title="Drag to scale"
        onPointerDown={(event) => take(event, "scale")}
      />
      <span
        className={`${knob} -top-6 left-1/2 -ml-1.5 cursor-grab`}
        title="Drag to turn"
        onPointerDown={(event) => take(event, "turn")}
      />
      <span className="-top-6 absolute left-0 hidden whitespace-nowrap rounded bg-chalk px-1.5 text-small text-white group-hover:block group-focus-visible:block">
        {about}
      </span>
    </div>
  );
}

function layerOf(grip: Grip, pivot: [number, number]): Layer {
  return {
    pivot,
    move: [[0, [grip.dx, grip.dy], "linear"]],
    scale: [[0, [grip.scale], "linear"]],
    turn: [[0, [grip.turn], "linear"]],
  };
}

function gripped(
  way: "move" | "scale" | "turn",
  start: readonly [number, number],
  now: readonly [number, number],
  centre: readonly [number, number],
  zoom: number,
  even: boolean,
): Grip {
  if (way === "move") {
    const [dx, dy] = [(now[0] - start[0]) / zoom, (now[1] - start[1]) / zoom];
    // Shift keeps to one direction.
    if (even) return Math.abs(dx) > Math.abs(dy) ? { ...REST, dx } : { ...REST, dy };
    return { ...REST, dx, dy };
  }
  const from = [start[0] - centre[0], start[1] - centre[1]] as const;
  const to = [now[0] - centre[0], now[1] - centre[1]] as const;
  if (way === "scale") {
    const factor = Math.hypot(...to) / Math.max(1, Math.hypot(...from));
    return { ...REST, scale: Math.min(4, Math.max(0.2, factor)) };
  }
  const degrees = ((Math.atan2(to[1], to[0]) - Math.atan2(from[1], from[0])) * 180) / Math.PI;
  return { ...REST, turn: Math.round(even ? Math.round(degrees / 15) * 15 : degrees) };
}

function keyed(event: React.KeyboardEvent, piece: Piece): Grip | null {
  const way = { ArrowLeft: [-1, 0], ArrowRight: [1, 0], ArrowUp: [0, -1], ArrowDown: [0, 1] }[
    event.key
  ];
  if (way && event.shiftKey) return { ...REST, turn: (way[0] as number) + (way[1] as number) };
  if (way) {
    return {
      ...REST,
      dx: (way[0] as number) * STEP * piece.width,
      dy: (way[1] as number) * STEP * piece.height,
    };
  }
  if (event.key === "+" || event.key === "=") return { ...REST, scale: 1.04 };
  if (event.key === "-") return { ...REST, scale: 1 / 1.04 };
  return null;
}

function within(value: number, most: number): number {
  return Number(Math.min(most, Math.max(-most, value)).toFixed(5));
}

/** The caption that shows while nothing plays. */
function useShown(player: Player): number | null {
  const cues = useProject((state) => state.cues);
  const [at, setAt] = useState(player.at);
  const [playing, setPlaying] = useState(player.playing);
  useEffect(() => {
    const over = new AbortController();
    const read = () => setPlaying(player.playing);
    player.media.addEventListener("play", read, { signal: over.signal });
    player.media.addEventListener("pause", read, { signal: over.signal });
    const stop = player.listen((moment) => {
      if (!player.playing) setAt(moment);
    });
    return () => {
      over.abort();
      stop();
    };
  }, [player]);
  return playing ? null : (cueAt(cues, at)?.id ?? null);
}
