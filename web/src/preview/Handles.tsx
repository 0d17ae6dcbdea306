/**
 * A frame around the caption in the preview, or around the word whose looks are open: drag it to
 * move, a corner to scale, the knob to turn. The same with keys: arrows, + and -, Shift with arrows.
 */

import { useEffect, useState } from "react";
import type { Piece } from "../api/client";
import { type Changes, type Target, useDress, useTarget } from "../dress/scope";
import { useWordTarget } from "../dress/wordTarget";
import type { Bounds } from "../playback/matrix";
import type { Painter } from "../playback/painter";
import type { Player } from "../playback/player";
import { useStage } from "../stages/stage";
import { cueAt } from "../state/document";
import { useProject, useShape } from "../state/store";
import { GripBox } from "./GripBox";
import { type Grip, layerOf, turnedAbout } from "./grip";

const STEP = 0.005;

/** What the handles hold. */
interface Held {
  cueId: number;
  /** The place of one word in its caption; null for the whole. */
  word: number | null;
  about: string;
  target: Target;
  /** Degrees: of the caption, and of the word in it. */
  turned: number;
  tilt: number;
  changes: (done: Grip, size: number) => Changes;
}

export function Handles(props: {
  piece: Piece;
  player: Player;
  /** Screen pixels per frame pixel. */
  zoom: number;
  painter: () => Painter | undefined;
  repaint: () => void;
}) {
  const { piece, player, zoom, painter, repaint } = props;
  const shape = useShape(piece);
  const held = useHeld(piece, player);
  const version = useProject((state) => state.sceneVersion);
  const [bounds, setBounds] = useState<{ whole: Bounds; own: Bounds } | null>(null);
  const cueId = held?.cueId ?? null;
  const word = held?.word ?? null;

  // biome-ignore lint/correctness/useExhaustiveDependencies: a new version is what to measure
  useEffect(() => {
    let tries = 0;
    const measure = () => {
      const whole = cueId === null ? null : painter()?.boundsOf(cueId);
      const own = cueId === null ? null : painter()?.boundsOf(cueId, word);
      setBounds(whole && own ? { whole, own } : null);
      // The new scene comes a moment after the change.
      if (tries++ < 6) handle = window.setTimeout(measure, 80);
    };
    let handle = window.setTimeout(measure, 0);
    return () => window.clearTimeout(handle);
  }, [cueId, word, version, zoom]);

  if (!held || !bounds) return null;
  const [left, top, right, bottom] = bounds.own;
  const middle: [number, number] = [(left + right) / 2, (top + bottom) / 2];
  const [x0, y0, x1, y1] = bounds.whole;
  const [cx, cy] = turnedAbout(middle, [(x0 + x1) / 2, (y0 + y1) / 2], held.turned);

  const show = (next: Grip | null) => {
    const shown = painter();
    if (shown) {
      const layer = next && layerOf(upright(next, held), middle);
      shown.held = layer && { cueId: held.cueId, word: held.word, layer };
    }
    repaint();
  };
  const commit = (done: Grip) => {
    const size = painter()?.scene.cues.find((one) => one.id === held.cueId)?.size ?? 1;
    const changes = held.changes(upright(done, held), size);
    show(null);
    if (Object.keys(changes).length) held.target.set(changes);
  };

  return (
    <GripBox
      about={held.about}
      middle={[cx, cy]}
      size={[right - left, bottom - top]}
      leans={held.turned + held.tilt}
      step={[STEP * shape.width, STEP * shape.height]}
      zoom={zoom}
      onGrip={show}
      onDone={commit}
    />
  );
}

/** A move on the screen as the caption sees it, where what is held is a part of a turned one. */
function upright(grip: Grip, held: Held): Grip {
  if (held.word === null || !held.turned) return grip;
  const [dx, dy] = turnedAbout([grip.dx, grip.dy], [0, 0], -held.turned);
  return { ...grip, dx, dy };
}

function useHeld(piece: Piece, player: Player): Held | null {
  const scope = useDress((state) => state.scope);
  const tab = useStage((state) => state.dressTab);
  const target = useTarget(piece);
  const word = useWordTarget(piece, player);
  const shown = useShown(player);
  const shape = useShape(piece);
  const picked = useProject((state) => state.picked);
  if (shown === null) return null;
  const number = (of: Target, path: string, fallback = 0) => Number(of.value(path) ?? fallback);
  const turned = number(target, "place.turn");
  if (tab === "Accents" && word?.cue.id === shown) {
    return {
      cueId: shown,
      word: word.cue.words.findIndex((one) => one.id === word.word.id),
      about: `this word: ${word.word.text}`,
      target: word,
      turned,
      tilt: number(word, "tilt"),
      changes: (done, size) => ({
        ...(done.dx && { dx: within(number(word, "dx") + done.dx / size, 5) }),
        ...(done.dy && { lift: within(number(word, "lift") - done.dy / size, 5) }),
        ...(done.scale !== 1 && { scale: between(number(word, "scale", 1) * done.scale, 0.5, 2) }),
        ...(done.turn && { tilt: within(number(word, "tilt") + done.turn, 45) }),
      }),
    };
  }
  const some = picked.size === 1 ? "this caption" : `${picked.size} captions`;
  return {
    cueId: shown,
    word: null,
    about: scope === "piece" ? "whole piece" : some,
    target,
    turned,
    tilt: 0,
    changes: (done) => ({
      ...((done.dx || done.dy) && {
        "place.dx": within(number(target, "place.dx") + done.dx / shape.width, 1),
        "place.dy": within(number(target, "place.dy") + done.dy / shape.height, 1),
      }),
      ...(done.scale !== 1 && { size: between(number(target, "size") * done.scale, 0.01, 0.5) }),
      ...(done.turn && { "place.turn": within(turned + done.turn, 180) }),
    }),
  };
}

function within(value: number, most: number): number {
  return between(value, -most, most);
}

function between(value: number, least: number, most: number): number {
  return Number(Math.min(most, Math.max(least, value)).toFixed(5));
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
