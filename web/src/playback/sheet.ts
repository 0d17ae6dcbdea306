/** A canvas, or a part of one beside it, on which items are drawn by their matrices. */
import type { Matrix } from "./matrix";

export type Context = CanvasRenderingContext2D | OffscreenCanvasRenderingContext2D;
export type Colour = readonly number[];

/** A shape drawn this far outside the canvas leaves only its shadow on it. */
const AWAY = 20_000;
/** Above and below all letters. */
const FAR = 10_000;

export interface Word {
  path: Path2D;
  outlines: readonly (readonly [number, Colour])[];
  shadow?: readonly [number, number, number, Colour] | null;
  line?: readonly number[] | null;
  fill: Colour;
  ink: { fill: Colour; from: number; to: number } | null;
}

/** Draws in canvas pixels; `left` and `top` are where its corner is. */
export class Sheet {
  constructor(
    readonly context: Context,
    readonly left = 0,
    readonly top = 0,
  ) {}

  stand(m: Matrix, aside = 0): void {
    this.context.setTransform(m[0], m[1], m[2], m[3], m[4] - this.left - aside, m[5] - this.top);
  }

  /** Shadow and outlines. */
  under(word: Word, m: Matrix): void {
    const { context } = this;
    this.shadow(word, m);
    context.lineJoin = "round";
    this.stand(m);
    for (const [width, colour] of word.outlines) {
      context.lineWidth = 2 * width;
      context.strokeStyle = css(colour);
      context.stroke(word.path);
    }
  }

  private shadow(word: Word, m: Matrix): void {
    if (!word.shadow) return;
    const { context } = this;
    const [dx, dy, blur, colour] = word.shadow;
    const [outermost] = word.outlines;
    this.stand(m, AWAY);
    context.shadowColor = css(colour);
    context.shadowBlur = blur * Math.sqrt(Math.abs(m[0] * m[3] - m[1] * m[2]));
    context.shadowOffsetX = m[0] * dx + m[2] * dy + AWAY;
    context.shadowOffsetY = m[1] * dx + m[3] * dy;
    if (outermost) {
      context.lineJoin = "round";
      context.lineWidth = 2 * outermost[0];
      context.strokeStyle = css(outermost[1]);
      context.stroke(word.path);
    } else {
      context.fillStyle = css(word.fill.slice(0, 4));
      context.fill(word.path);
    }
    context.shadowColor = "transparent";
  }

  fill(word: Word, m: Matrix): void {
    const { context } = this;
    this.stand(m);
    context.fillStyle = this.style(word, word.fill);
    context.fill(word.path);
    if (!word.ink) return;
    context.save();
    context.beginPath();
    context.rect(word.ink.from, -FAR, word.ink.to - word.ink.from, 2 * FAR);
    context.clip();
    context.fillStyle = this.style(word, word.ink.fill);
    context.fill(word.path);
    context.restore();
  }

  /** A plain colour (four numbers) or a gradient along the word's line (eight). */
  private style(word: Word, fill: Colour): string | CanvasGradient {
    const first = css(fill.slice(0, 4));
    const last = css(fill.slice(4));
    if (!word.line || fill.length === 4 || first === last) return first;
    const [x0, y0, x1, y1] = word.line as [number, number, number, number];
    const gradient = this.context.createLinearGradient(x0, y0, x1, y1);
    gradient.addColorStop(0, first);
    gradient.addColorStop(1, last);
    return gradient;
  }
}

export function css(colour: Colour): string {
  const [r, g, b, a] = colour as [number, number, number, number];
  return `rgba(${r},${g},${b},${a / 255})`;
}

/** An opacity as the delivery's painter rounds it. */
export function alpha(opacity: number): number {
  return Math.floor(opacity * 255 + 0.5) / 255;
}
