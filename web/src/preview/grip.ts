/** What is done with handles until they are let go, by the mouse or by keys. */
import type { Layer } from "../api/client";

/** Frame pixels, a factor, degrees. */
export interface Grip {
  dx: number;
  dy: number;
  scale: number;
  turn: number;
}

export type Way = "move" | "scale" | "turn";
type Point = readonly [number, number];

export const REST: Grip = { dx: 0, dy: 0, scale: 1, turn: 0 };
const EVEN_DEGREES = 15;

/** The layer of motion that shows a grip. */
export function layerOf(grip: Grip, pivot: [number, number]): Layer {
  return {
    pivot,
    move: [[0, [grip.dx, grip.dy], "linear"]],
    scale: [[0, [grip.scale], "linear"]],
    turn: [[0, [grip.turn], "linear"]],
  };
}

/** From where the mouse took hold to where it is; `even` keeps to one direction or whole steps. */
export function gripped(
  way: Way,
  start: Point,
  now: Point,
  centre: Point,
  zoom: number,
  even: boolean,
): Grip {
  if (way === "move") {
    const [dx, dy] = [(now[0] - start[0]) / zoom, (now[1] - start[1]) / zoom];
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
  const rounded = even ? Math.round(degrees / EVEN_DEGREES) * EVEN_DEGREES : degrees;
  return { ...REST, turn: Math.round(rounded) };
}

/** What a key does: arrows move by `step` frame pixels, + and - scale, Shift with an arrow turns. */
export function keyed(event: React.KeyboardEvent, step: Point): Grip | null {
  const way = { ArrowLeft: [-1, 0], ArrowRight: [1, 0], ArrowUp: [0, -1], ArrowDown: [0, 1] }[
    event.key
  ] as [number, number] | undefined;
  if (way && event.shiftKey) return { ...REST, turn: way[0] + way[1] };
  if (way) return { ...REST, dx: way[0] * step[0], dy: way[1] * step[1] };
  if (event.key === "+" || event.key === "=") return { ...REST, scale: 1.04 };
  if (event.key === "-") return { ...REST, scale: 1 / 1.04 };
  return null;
}

/** A point turned about another one, in degrees clockwise. */
export function turnedAbout([x, y]: Point, [cx, cy]: Point, degrees: number): [number, number] {
  const angle = (degrees * Math.PI) / 180;
  const [dx, dy] = [x - cx, y - cy];
  return [
    cx + dx * Math.cos(angle) - dy * Math.sin(angle),
    cy + dx * Math.sin(angle) + dy * Math.cos(angle),
  ];
}
