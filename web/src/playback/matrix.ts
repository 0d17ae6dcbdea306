/** Where things stand at a moment: layers of motion as matrices, as in paint/state.py. */
import type { Layer } from "../api/client";
import { valueAt } from "./track";

/** (a, b, c, d, e, f), as a canvas takes them. */
export type Matrix = readonly [number, number, number, number, number, number];
/** Left, top, right, bottom on whole pixels. */
export type Bounds = [number, number, number, number];

export const STILL: Matrix = [1, 0, 0, 1, 0, 0];

export function opacityAt(layers: readonly Layer[], at: number): number {
  let opacity = 1;
  for (const { opacity: track } of layers) {
    if (track) opacity *= valueAt(track, at)[0] as number;
  }
  return opacity;
}

export function layered(outer: Matrix, layers: readonly Layer[], at: number): Matrix {
  let matrix = outer;
  for (const layer of layers) {
    const [dx, dy] = (layer.move ? valueAt(layer.move, at) : [0, 0]) as [number, number];
    const scale = layer.scale ? (valueAt(layer.scale, at)[0] as number) : 1;
    const turn = layer.turn ? ((valueAt(layer.turn, at)[0] as number) * Math.PI) / 180 : 0;
    if (turn === 0 && scale === 1) {
      matrix = moved(matrix, dx, dy);
      continue;
    }
    const [px, py] = layer.pivot;
    const a = scale * Math.cos(turn);
    const b = scale * Math.sin(turn);
    matrix = times(matrix, [a, b, -b, a, px + dx - a * px + b * py, py + dy - b * px - a * py]);
  }
  return matrix;
}

/** Whether nothing moves at the moment. */
export function steady(layers: readonly Layer[], at: number): boolean {
  return layers.every((layer) =>
    [layer.move, layer.scale, layer.turn].every((track) => {
      if (!track) return true;
      const first = track[0]?.[0] as number;
      const last = track.at(-1)?.[0] as number;
      return at <= first || at >= last;
    }),
  );
}

function times(m: Matrix, n: Matrix): Matrix {
  return [
    m[0] * n[0] + m[2] * n[1],
    m[1] * n[0] + m[3] * n[1],
    m[0] * n[2] + m[2] * n[3],
    m[1] * n[2] + m[3] * n[3],
    m[0] * n[4] + m[2] * n[5] + m[4],
    m[1] * n[4] + m[3] * n[5] + m[5],
  ];
}

export function moved(m: Matrix, x: number, y: number): Matrix {
  return [m[0], m[1], m[2], m[3], m[0] * x + m[2] * y + m[4], m[1] * x + m[3] * y + m[5]];
}

/**
 * An item's own matrix: where nothing scales or turns it, it stands on quarters of a pixel. `zoom`
 * is that of the whole picture.
 */
export function placed(m: Matrix, x: number, y: number, zoom: number): Matrix {
  const [a, b, c, d, e, f] = moved(m, x, y);
  if (a !== zoom || b !== 0 || c !== 0 || d !== zoom) return [a, b, c, d, e, f];
  return [a, b, c, d, Math.floor(4 * e + 0.5) / 4, Math.floor(4 * f + 0.5) / 4];
}

export function zoomed(m: Matrix, zoom: number): Matrix {
  return m.map((value) => value * zoom) as unknown as Matrix;
}

/** The whole pixels that a box in an item's own pixels covers. */
export function reachOf(m: Matrix, [x0, y0, x1, y1]: readonly number[]): Bounds {
  const corners = [
    [x0, y0],
    [x1, y0],
    [x0, y1],
    [x1, y1],
  ] as [number, number][];
  const xs = corners.map(([x, y]) => m[0] * x + m[2] * y + m[4]);
  const ys = corners.map(([x, y]) => m[1] * x + m[3] * y + m[5]);
  return [
    Math.floor(Math.min(...xs)),
    Math.floor(Math.min(...ys)),
    Math.ceil(Math.max(...xs)),
    Math.ceil(Math.max(...ys)),
  ];
}

export function around(a: Bounds | null, b: Bounds): Bounds {
  if (!a) return b;
  return [Math.min(a[0], b[0]), Math.min(a[1], b[1]), Math.max(a[2], b[2]), Math.max(a[3], b[3])];
}
