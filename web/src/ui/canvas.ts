/** Pixels that browsers allow a side of a canvas, with room to spare. */
const MOST_SIDE = 16_000;

/** A canvas of a size in CSS pixels, sharp on dense screens, ready to draw in its text colour. */
export function sharpCanvas(
  element: HTMLCanvasElement | null,
  width: number,
  height: number,
): CanvasRenderingContext2D | null {
  const context = element?.getContext("2d");
  if (!element || !context) return null;
  // A larger canvas stays empty: a long one is a little softer instead.
  const sharp = Math.min(window.devicePixelRatio || 1, MOST_SIDE / Math.max(width, height, 1));
  element.width = width * sharp;
  element.height = height * sharp;
  context.scale(sharp, sharp);
  context.fillStyle = getComputedStyle(element).color;
  return context;
}
