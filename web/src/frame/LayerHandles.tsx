/** Layers taken hold of on the preview: dragged, scaled and turned, sticking to the middle and the safe edges. */
import { useEffect, useState } from "react";
import type { Piece, Schemas } from "../api/client";
import { PLACE_RANGE } from "../api/values";
import { make } from "../dress/scope";
import type { Bounds } from "../playback/matrix";
import type { Painter } from "../playback/painter";
import type { Player } from "../playback/player";
import { GripBox } from "../preview/GripBox";
import { type Grip, layerOf } from "../preview/grip";
import { useProject, useShape } from "../state/store";
import { type Layer, NAMES, titleOf } from "./layers";
import { snapped } from "./snap";

type Changes = Schemas["LayerPlaceChanges"];

const STEP = 0.005;
const NEAR_PX = 7;

const within = (value: number, [least, most]: readonly [number, number]): number =>
  Math.min(most, Math.max(least, value));

export function LayerHandles(props: {
  piece: Piece;
  player: Player;
  zoom: number;
  painter: () => Painter | undefined;
  repaint: () => void;
}) {
  const { piece, player, zoom, painter, repaint } = props;
  const shape = useShape(piece);
  const version = useProject((state) => state.sceneVersion);
  const [found, setFound] = useState<ReadonlyMap<number, Bounds>>(new Map());
  const [lines, setLines] = useState<{ x: number | null; y: number | null }>({ x: null, y: null });
  // biome-ignore lint/correctness/useExhaustiveDependencies: a new version is what to measure
  useEffect(() => {
    const measure = () => {
      const shown = painter();
      const next = new Map<number, Bounds>();
      for (const layer of piece.layers) {
        const bounds = shown?.boundsOf(-layer.id);
        if (bounds) next.set(layer.id, bounds);
      }
      setFound(next);
    };
    // The new scene comes a moment after the change.
    const timers = [0, 80, 200, 400, 800].map((wait) => window.setTimeout(measure, wait));
    const unlisten = player.listen(() => !player.playing && measure());
    return () => {
      timers.forEach(window.clearTimeout);
      unlisten();
    };
  }, [piece, player, version, zoom]);

  const box = (layer: Layer, bounds: Bounds) => {
    const place = shape.places[layer.id];
    if (!place) return null;
    const [left, top, right, bottom] = bounds;
    const middle: [number, number] = [(left + right) / 2, (top + bottom) / 2];
    const size: [number, number] = [right - left, bottom - top];
    const near = NEAR_PX / zoom;
    const held = (grip: Grip | null) => {
      const shown = painter();
      if (shown) {
        shown.held = grip && { cueId: -layer.id, word: null, layer: layerOf(grip, middle) };
      }
      if (!grip) setLines({ x: null, y: null });
      repaint();
    };
    const done = (grip: Grip) => {
      const changes: Changes = {
        ...(grip.dx && { x: place.x + grip.dx / shape.width }),
        ...(grip.dy && { y: place.y + grip.dy / shape.height }),
        ...(grip.turn && { turn: place.turn + grip.turn }),
        ...(grip.scale !== 1 && {
          size: within(place.size * grip.scale, PLACE_RANGE.size),
          width: within(place.width * grip.scale, PLACE_RANGE.width),
          height: within(place.height * grip.scale, PLACE_RANGE.height),
        }),
      };
      if (!Object.keys(changes).length) return;
      make({
        kind: "place_layer",
        piece_id: piece.id,
        shape_id: shape.id,
        layer_id: layer.id,
        changes,
      });
    };
    return (
      <GripBox
        key={layer.id}
        about={titleOf(layer).split("\n")[0] || NAMES[layer.kind]}
        {...{ middle, size, zoom }}
        leans={place.turn}
        step={[STEP * shape.width, STEP * shape.height]}
        snap={(grip) => {
          const x = snapped(grip.dx, middle[0], size[0], shape.width, near);
          const y = snapped(grip.dy, middle[1], size[1], shape.height, near);
          setLines({ x: x.line, y: y.line });
          return { ...grip, dx: x.d, dy: y.d };
        }}
        onGrip={held}
        onDone={done}
      />
    );
  };
  return (
    <>
      {piece.layers.map((layer) => {
        const bounds = found.get(layer.id);
        return bounds ? box(layer, bounds) : null;
      })}
      {lines.x !== null && (
        <span
          className="pointer-events-none absolute inset-y-0 w-px bg-chalk"
          style={{ left: lines.x * zoom }}
        />
      )}
      {lines.y !== null && (
        <span
          className="pointer-events-none absolute inset-x-0 h-px bg-chalk"
          style={{ top: lines.y * zoom }}
        />
      )}
    </>
  );
}
