/** A canvas of a size in CSS pixels, sharp on dense screens, ready to draw in its text colour. */
export function sharpCanvas(
  element: HTMLCanvasElement | null,
  width: number,
  height: number,
): CanvasRenderingContext2D | null {
  const context = element?.getContext("2d");
  if (!element || !context) return null;
  const sharp = window.devicePixelRatio || 1;
  element.width = width * sharp;
  element.height = height * sharp;
  context.scale(sharp, sharp);
  context.fillStyle = getComputedStyle(element).color;
  return context;
}
