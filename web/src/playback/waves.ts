/** A wave of sound drawn on a canvas: the same few lines as in paint/painter.py. */
import type { SceneCue } from "../api/client";
import { type Context, css } from "./sheet";

type Wave = SceneCue["waves"][number];

/** The level at a moment (µs): held before the first and after the last, straight lines between. */
export function levelAt(wave: Pick<Wave, "levels" | "from_us" | "step_us">, at: number): number {
  const { levels } = wave;
  const share = (at - wave.from_us) / wave.step_us;
  const last = levels.length - 1;
  if (share <= 0) return levels[0] as number;
  if (share >= last) return levels[last] as number;
  const before = Math.floor(share);
  const [low, high] = [levels[before] as number, levels[before + 1] as number];
  return low + (high - low) * (share - before);
}

export function drawWave(context: Context, wave: Wave, at: number): void {
  context.beginPath();
  wave.marks.forEach(([x, y, dx, dy, age], index) => {
    const level = levelAt(wave, at - age);
    const back = wave.both ? level : 0;
    if (!wave.joined) context.moveTo(x - dx * back, y - dy * back);
    if (wave.joined && !index) context.moveTo(x + dx * level, y + dy * level);
    else context.lineTo(x + dx * level, y + dy * level);
  });
  context.lineWidth = wave.thick;
  context.lineCap = "round";
  context.lineJoin = "round";
  context.strokeStyle = css(wave.fill);
  context.stroke();
}
