/**
 * Paints a scene's moment on a 2D canvas by the steps written in core/scene.py. Decides nothing:
 * the delivery's painter plays the same scene, and a test compares the two pixel by pixel.
 */
import type { Scene, SceneCue } from "../api/client";
import { valueAt } from "./track";

type Context = CanvasRenderingContext2D | OffscreenCanvasRenderingContext2D;
type Item = SceneCue["paths"][number];
type Colour = readonly number[];

/** A shape drawn this far outside the canvas leaves only its shadow on it. */
const AWAY = 20_000;

interface Placed {
  item: Item;
  path: Path2D;
  fill: Colour;
  opacity: number;
  x: number;
  y: number;
  scale: number;
}

export class Painter {
  private readonly paths: Path2D[];
  private scratch: OffscreenCanvas | null = null;

  constructor(readonly scene: Scene) {
    this.paths = scene.outlines.map((outline) => new Path2D(outline));
  }

  /** Clear the canvas and paint the moment `at` (µs); `zoom` is canvas pixels per frame pixel. */
  paint(context: Context, at: number, zoom = 1): void {
    context.setTransform(1, 0, 0, 1, 0, 0);
    context.clearRect(0, 0, context.canvas.width, context.canvas.height);
    for (const cue of this.scene.cues) {
      if (cue.start_us <= at && at < cue.end_us) this.paintCue(context, cue, at, zoom);
    }
    context.setTransform(1, 0, 0, 1, 0, 0);
  }

  private paintCue(context: Context, cue: SceneCue, at: number, zoom: number): void {
    for (const rect of cue.rects) {
      const opacity = valueAt(rect.opacity, at)[0] as number;
      if (opacity <= 0) continue;
      const [dx, dy] = valueAt(rect.move, at) as [number, number];
      const [x, y, w, h] = valueAt(rect.box, at) as [number, number, number, number];
      const [r, g, b, a] = rect.fill;
      context.setTransform(zoom, 0, 0, zoom, 0, 0);
      context.fillStyle = css([r, g, b, Math.floor(a * opacity + 0.5)]);
      context.beginPath();
      context.roundRect(x + dx, y + dy, w, h, Math.min(rect.radius, w / 2, h / 2));
      context.fill();
    }
    const placed = cue.paths.flatMap((item) => this.place(item, at));
    const whole = placed.filter((word) => word.opacity >= 1);
    for (const word of whole) under(context, word, zoom);
    for (const word of whole) fill(context, word, zoom);
    for (const word of placed) {
      if (word.opacity < 1) this.group(context, word, zoom);
    }
  }

  private place(item: Item, at: number): Placed[] {
    const opacity = valueAt(item.opacity, at)[0] as number;
    if (opacity <= 0) return [];
    const [dx, dy] = valueAt(item.move, at) as [number, number];
    return [
      {
        item,
        path: this.paths[item.outline_of] as Path2D,
        fill: valueAt(item.fill, at).map((value) => Math.floor(value + 0.5)),
        opacity,
        x: item.x + dx,
        y: item.y + dy,
        scale: valueAt(item.scale, at)[0] as number,
      },
    ];
  }

  /** A half-opaque word is painted whole beside and laid over at its opacity. */
  private group(context: Context, word: Placed, zoom: number): void {
    const { width, height } = context.canvas;
    if (this.scratch?.width !== width || this.scratch.height !== height) {
      this.scratch = new OffscreenCanvas(width, height);
    }
    const aside = this.scratch.getContext("2d") as OffscreenCanvasRenderingContext2D;
    aside.setTransform(1, 0, 0, 1, 0, 0);
    aside.clearRect(0, 0, width, height);
    under(aside, word, zoom);
    fill(aside, word, zoom);
    context.setTransform(1, 0, 0, 1, 0, 0);
    context.globalAlpha = Math.floor(word.opacity * 255 + 0.5) / 255;
    context.drawImage(this.scratch, 0, 0);
    context.globalAlpha = 1;
  }
}

function stand(context: Context, word: Placed, zoom: number, aside = 0): void {
  const [px, py] = word.item.pivot;
  context.setTransform(zoom, 0, 0, zoom, -aside, 0);
  context.translate(word.x + px, word.y + py);
  context.scale(word.scale, word.scale);
  context.translate(-px, -py);
}

function under(context: Context, word: Placed, zoom: number): void {
  const { outline, shadow } = word.item;
  context.lineJoin = "round";
  if (outline) context.lineWidth = 2 * outline[0];
  if (shadow) {
    const [dx, dy, blur, colour] = shadow;
    const size = zoom * word.scale;
    stand(context, word, zoom, AWAY);
    context.shadowColor = css(colour);
    context.shadowBlur = blur * size;
    context.shadowOffsetX = dx * size + AWAY;
    context.shadowOffsetY = dy * size;
    if (outline) {
      context.strokeStyle = css(outline[1]);
      context.stroke(word.path);
    } else {
      context.fillStyle = css(word.fill);
      context.fill(word.path);
    }
    context.shadowColor = "transparent";
  }
  if (outline) {
    stand(context, word, zoom);
    context.strokeStyle = css(outline[1]);
    context.stroke(word.path);
  }
}

function fill(context: Context, word: Placed, zoom: number): void {
  stand(context, word, zoom);
  context.fillStyle = css(word.fill);
  context.fill(word.path);
}

function css(colour: Colour): string {
  const [r, g, b, a] = colour as [number, number, number, number];
  return `rgba(${r},${g},${b},${a / 255})`;
}
