/**
 * Paints a scene's moment on a 2D canvas by the steps written in core/scene/model.py. Decides
 * nothing: the delivery's painter plays the same scene, and a test compares them pixel by pixel.
 */
import type { Layer, Scene, SceneCue } from "../api/client";
import {
  around,
  type Bounds,
  layered,
  type Matrix,
  moved,
  opacityAt,
  placed,
  reachOf,
  STILL,
  steady,
  zoomed,
} from "./matrix";
import { alpha, type Context, css, Sheet, type Word } from "./sheet";
import { bitmapOf, loadBitmaps } from "./stamps";
import { valueAt } from "./track";
import { drawWave } from "./waves";

type PathItem = SceneCue["paths"][number];

/** Pictures of parts of words kept at most of each kind; they are as large as their words. */
const KEPT = 64;

interface Placed extends Word {
  item: PathItem;
  matrix: Matrix;
  opacity: number;
  resting: boolean;
}

/** A picture of a part of a word, what it depends on, and where its corner is. */
interface Picture {
  key: string;
  canvas: OffscreenCanvas;
  dx: number;
  dy: number;
}

export class Painter {
  private readonly paths: Path2D[];
  private readonly resting = new Map<PathItem, Picture>();
  private readonly fills = new Map<PathItem, { key: string; picture: Picture | null }>();
  private readonly moving = new Map<PathItem, Picture>();
  private zoom = 1;
  private readonly asides: OffscreenCanvas[] = [];
  /** A caption, or one word of it, held by its handles, and how it is moved until it is let go. */
  held: { cueId: number; word: number | null; layer: Layer } | null = null;
  /** Resolves when emoji and pictures are there; until then they are left out. */
  readonly ready: Promise<void>;

  constructor(readonly scene: Scene) {
    this.paths = scene.outlines.map((outline) => new Path2D(outline));
    this.ready = loadBitmaps(scene.cues.flatMap((cue) => [...cue.stamps, ...cue.pictures]));
  }

  /** Clear the canvas and paint the moment `at` (µs); `zoom` is canvas pixels per frame pixel. */
  paint(context: Context, at: number, zoom = 1): void {
    context.setTransform(1, 0, 0, 1, 0, 0);
    context.clearRect(0, 0, context.canvas.width, context.canvas.height);
    const sheet = new Sheet(context);
    this.zoom = zoom;
    for (const cue of this.scene.cues) {
      if (cue.start_us <= at && at < cue.end_us) this.paintCue(sheet, cue, at, zoom);
    }
    context.setTransform(1, 0, 0, 1, 0, 0);
  }

  /** Where a caption, or one word of it by its place, is at rest, not turned, in frame pixels. */
  boundsOf(cueId: number, word: number | null = null): Bounds | null {
    const cue = this.scene.cues.find((one) => one.id === cueId);
    const wanted = (item: { word: number }) => word === null || item.word === word;
    let found: Bounds | null = null;
    for (const item of [...(cue?.plates ?? []), ...(cue?.paths ?? [])].filter(wanted)) {
      found = around(found, reachOf(moved(STILL, item.x, item.y), item.reach));
    }
    // The first box of a layer is all of it; those of captions go from word to word.
    const box = cue && cue.id < 0 ? cue.rects[0] : undefined;
    if (cue && box) {
      const [x, y, w, h] = valueAt(box.box, cue.start_us) as [number, number, number, number];
      found = around(found, reachOf(STILL, [x, y, x + w, y + h]));
    }
    for (const one of (cue?.stamps ?? []).filter(wanted)) {
      found = around(found, reachOf(STILL, [one.x, one.y, one.x + one.side, one.y + one.side]));
    }
    for (const one of cue?.pictures ?? []) {
      found = around(found, reachOf(STILL, [one.x, one.y, one.x + one.width, one.y + one.height]));
    }
    for (const wave of cue?.waves ?? []) found = around(found, reachOf(STILL, wave.reach));
    return found;
  }

  private paintCue(sheet: Sheet, shown: SceneCue, at: number, zoom: number): void {
    const cue = this.held?.cueId === shown.id ? withHeld(shown, this.held) : shown;
    const opacity = opacityAt(cue.layers, at);
    if (opacity <= 0) return;
    const outer = zoomed(layered(STILL, cue.layers, at), zoom);
    const still = steady(cue.layers, at);
    const plates = cue.plates.flatMap((item) => this.place(item, outer, at, still));
    const words = cue.paths.flatMap((item) => this.place(item, outer, at, still));
    if (opacity >= 1) {
      this.paintParts(sheet, cue, plates, words, outer, at, 1);
      return;
    }
    let reach: Bounds | null = null;
    for (const one of [...plates, ...words])
      reach = around(reach, reachOf(one.matrix, one.item.reach));
    for (const rect of cue.rects) {
      const [x, y, w, h] = valueAt(rect.box, at) as [number, number, number, number];
      reach = around(reach, reachOf(outer, [x - 1, y - 1, x + w + 1, y + h + 1]));
    }
    for (const one of cue.stamps) {
      const [x, y] = [one.x, one.y];
      const matrix = layered(outer, one.layers, at);
      reach = around(reach, reachOf(matrix, [x - 1, y - 1, x + one.side + 1, y + one.side + 1]));
    }
    for (const one of cue.pictures) {
      const box: Bounds = [one.x - 1, one.y - 1, one.x + one.width + 1, one.y + one.height + 1];
      reach = around(reach, reachOf(outer, box));
    }
    for (const wave of cue.waves) reach = around(reach, reachOf(outer, wave.reach));
    if (!reach) return;
    this.aside(sheet, reach, opacity, 0, (inner) =>
      this.paintParts(inner, cue, plates, words, outer, at, 1),
    );
  }

  private paintParts(
    sheet: Sheet,
    cue: SceneCue,
    plates: Placed[],
    words: Placed[],
    outer: Matrix,
    at: number,
    depth: number,
  ): void {
    const { context } = sheet;
    for (const plate of plates) {
      const [r, g, b, a] = plate.fill as [number, number, number, number];
      sheet.stand(plate.matrix);
      context.fillStyle = css([r, g, b, Math.floor(a * plate.opacity + 0.5)]);
      context.fill(plate.path);
    }
    for (const rect of cue.rects) {
      const [x, y, w, h] = valueAt(rect.box, at) as [number, number, number, number];
      sheet.stand(outer);
      context.fillStyle = css(rect.fill);
      context.beginPath();
      context.roundRect(x, y, w, h, Math.max(0, Math.min(rect.radius, w / 2, h / 2)));
      context.fill();
    }
    const whole = words.filter((word) => word.opacity >= 1);
    for (const word of whole) this.drawUnder(sheet, word);
    for (const word of whole) this.drawFill(sheet, word);
    for (const word of words) {
      if (word.opacity >= 1) continue;
      const reach = reachOf(word.matrix, word.item.reach);
      this.aside(sheet, reach, word.opacity, depth, (inner) => {
        this.drawUnder(inner, word);
        inner.fill(word, word.matrix);
      });
    }
    for (const one of cue.stamps) {
      const opacity = opacityAt(one.layers, at);
      const picture = opacity > 0 && bitmapOf(one);
      if (!picture) continue;
      sheet.stand(placed(layered(outer, one.layers, at), one.x, one.y, this.zoom));
      context.imageSmoothingQuality = "low";
      context.globalAlpha = alpha(opacity);
      context.drawImage(picture, 0, 0, one.side, one.side);
      context.globalAlpha = 1;
    }
    for (const one of cue.pictures) {
      const picture = bitmapOf(one);
      if (!picture) continue;
      sheet.stand(placed(outer, one.x, one.y, this.zoom));
      context.imageSmoothingQuality = this.zoom < 1 ? "medium" : "low";
      // Filled with, not drawn: edges that lie aslant come out as in the delivery then.
      context.fillStyle = context.createPattern(picture, "no-repeat") ?? "transparent";
      context.beginPath();
      context.roundRect(0, 0, one.width, one.height, one.radius);
      context.fill();
    }
    for (const wave of cue.waves) {
      sheet.stand(outer);
      drawWave(context, wave, at);
    }
  }

  private place(item: PathItem, outer: Matrix, at: number, still: boolean): Placed[] {
    const opacity = opacityAt(item.layers, at);
    if (opacity <= 0) return [];
    const round = (value: number) => Math.floor(value + 0.5);
    const [from, to] = (item.ink ? valueAt(item.ink.span, at) : [0, 0]) as [number, number];
    return [
      {
        item,
        path: this.paths[item.outline_of] as Path2D,
        outlines: item.outlines,
        shadow: item.shadow ?? null,
        line: item.line ?? null,
        fill: valueAt(item.fill, at).map(round),
        ink:
          item.ink && to > from ? { fill: valueAt(item.ink.fill, at).map(round), from, to } : null,
        matrix: placed(layered(outer, item.layers, at), item.x, item.y, this.zoom),
        opacity,
        resting: still && steady(item.layers, at),
      },
    ];
  }

  /**
   * Shadow and outlines of a word, from a picture of them. At rest it is of just where the word
   * stands, and laid down pixel by pixel. While the word moves, one of the word upright is moved
   * along: drawing it anew for each frame took most of the time.
   */
  private drawUnder(sheet: Sheet, word: Placed): void {
    if (!word.outlines.length && !word.shadow) return;
    const { zoom } = this;
    const fill = word.outlines.length ? "" : word.fill.join();
    if (!word.resting) {
      const upright: Matrix = [zoom, 0, 0, zoom, 0, 0];
      const { canvas, dx, dy } = this.under(this.moving, word, upright, `${zoom} ${fill}`);
      sheet.stand(word.matrix);
      sheet.context.imageSmoothingQuality = "low";
      sheet.context.drawImage(
        canvas,
        dx / zoom,
        dy / zoom,
        canvas.width / zoom,
        canvas.height / zoom,
      );
      return;
    }
    const { left, top, within } = placeOf(word.matrix);
    const kept = this.under(this.resting, word, within, [...within, fill].join());
    sheet.stand(STILL);
    sheet.context.drawImage(kept.canvas, left + kept.dx, top + kept.dy);
  }

  private under(kept: Map<PathItem, Picture>, word: Placed, within: Matrix, key: string): Picture {
    const known = kept.get(word.item);
    if (known?.key === key) return known;
    const made = pictured(word, within, key, (aside) => aside.under(word, within));
    keep(kept, word.item, made);
    return made;
  }

  /** The letters; those of a word at rest from a picture, once they have stood for a frame. */
  private drawFill(sheet: Sheet, word: Placed): void {
    if (!word.resting || word.ink) {
      sheet.fill(word, word.matrix);
      return;
    }
    const { left, top, within } = placeOf(word.matrix);
    const key = [...within, word.fill].join();
    const known = this.fills.get(word.item);
    if (known?.key !== key) {
      keep(this.fills, word.item, { key, picture: null });
      sheet.fill(word, word.matrix);
      return;
    }
    known.picture ??= pictured(word, within, key, (aside) => aside.fill(word, within));
    sheet.stand(STILL);
    sheet.context.drawImage(known.picture.canvas, left + known.picture.dx, top + known.picture.dy);
  }

  /** What is half opaque is painted whole beside and laid over at its opacity. */
  private aside(
    sheet: Sheet,
    reach: Bounds,
    opacity: number,
    depth: number,
    draw: (inner: Sheet) => void,
  ): void {
    const { width: most, height: tallest } = sheet.context.canvas;
    const left = Math.max(reach[0], sheet.left);
    const top = Math.max(reach[1], sheet.top);
    const width = Math.min(reach[2], sheet.left + most) - left;
    const height = Math.min(reach[3], sheet.top + tallest) - top;
    if (width <= 0 || height <= 0) return;
    const old = this.asides[depth];
    const fits = old && old.width >= width && old.height >= height;
    const canvas = fits
      ? old
      : new OffscreenCanvas(Math.max(width, old?.width ?? 0), Math.max(height, old?.height ?? 0));
    this.asides[depth] = canvas;
    const context = canvas.getContext("2d") as OffscreenCanvasRenderingContext2D;
    context.setTransform(1, 0, 0, 1, 0, 0);
    context.clearRect(0, 0, width, height);
    draw(new Sheet(context, left, top));
    sheet.stand(STILL);
    sheet.context.globalAlpha = alpha(opacity);
    sheet.context.drawImage(canvas, 0, 0, width, height, left, top, width, height);
    sheet.context.globalAlpha = 1;
  }
}

/** Where a word stands on whole pixels, and its matrix within one. */
function placeOf([a, b, c, d, e, f]: Matrix): { left: number; top: number; within: Matrix } {
  const [left, top] = [Math.floor(e), Math.floor(f)];
  return { left, top, within: [a, b, c, d, e - left, f - top] };
}

function pictured(
  word: Placed,
  within: Matrix,
  key: string,
  draw: (aside: Sheet) => void,
): Picture {
  const [x0, y0, x1, y1] = reachOf(within, word.item.reach);
  const canvas = new OffscreenCanvas(x1 - x0 + 2, y1 - y0 + 2);
  const context = canvas.getContext("2d") as OffscreenCanvasRenderingContext2D;
  draw(new Sheet(context, x0 - 1, y0 - 1));
  return { key, canvas, dx: x0 - 1, dy: y0 - 1 };
}

/** Keep something newest, and let the oldest go where there is too much. */
function keep<T>(kept: Map<PathItem, T>, item: PathItem, value: T): void {
  kept.delete(item);
  kept.set(item, value);
  const oldest = kept.keys().next().value;
  if (kept.size > KEPT && oldest) kept.delete(oldest);
}

/** The caption with what the handles do to it, or to one of its words, around all its motion. */
function withHeld(cue: SceneCue, held: { word: number | null; layer: Layer }): SceneCue {
  if (held.word === null) return { ...cue, layers: [held.layer, ...cue.layers] };
  const move = <T extends { word: number; layers: Layer[] }>(item: T): T =>
    item.word === held.word ? { ...item, layers: [held.layer, ...item.layers] } : item;
  return {
    ...cue,
    plates: cue.plates.map(move),
    paths: cue.paths.map(move),
    stamps: cue.stamps.map(move),
  };
}
