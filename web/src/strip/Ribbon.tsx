/** The waveform of one row: time runs down, loudness is width. */
import { memo, useEffect, useRef } from "react";
import { sharpCanvas } from "../ui/canvas";
import { loudest, usePeaks } from "./peaks";

export const RIBBON_WIDTH = 64;
const BAR = 3;

export const Ribbon = memo(function Ribbon(props: {
  fromUs: number;
  toUs: number;
  height: number;
  marked: boolean;
}) {
  const { fromUs, toUs, height, marked } = props;
  const canvas = useRef<HTMLCanvasElement>(null);
  const peaks = usePeaks(fromUs, toUs);
  // biome-ignore lint/correctness/useExhaustiveDependencies: a mark is another colour to draw in
  useEffect(() => {
    const context = sharpCanvas(canvas.current, RIBBON_WIDTH, height);
    if (!context) return;
    const each = ((toUs - fromUs) / height) * BAR;
    for (let y = 0; y < height; y += BAR) {
      const from = fromUs + (y / BAR) * each;
      const loud = loudest(peaks, from, from + each);
      const width = Math.max(1, loud ** 0.7 * 1.25 * RIBBON_WIDTH);
      const shown = Math.min(width, RIBBON_WIDTH);
      context.fillRect((RIBBON_WIDTH - shown) / 2, y, shown, BAR - 1);
    }
  }, [peaks, fromUs, toUs, height, marked]);
  return (
    <canvas
      ref={canvas}
      aria-hidden
      style={{ width: RIBBON_WIDTH, height }}
      className={marked ? "text-link" : "text-[#9d927c]"}
    />
  );
});
