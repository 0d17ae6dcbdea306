/** One setting of a look: a label, its control, and the way back where it is overridden. */
import { RotateCcw } from "lucide-react";
import { type ReactNode, useState } from "react";
import type { Target } from "./scope";

function Row(props: { target: Target; path: string; label: string; children: ReactNode }) {
  const { target, path, label, children } = props;
  const own = target.own(path);
  return (
    <div className="flex min-h-7 items-center gap-2">
      <span className={`w-[86px] shrink-0 ${own ? "font-bold text-chalk" : ""}`}>{label}</span>
      <div className="flex min-w-0 flex-1 items-center gap-2">{children}</div>
      <button
        type="button"
        title="Back to finish"
        aria-label={`${label}: back to finish`}
        className={`rounded p-1 text-dim hover:bg-tint hover:text-ink ${own ? "" : "invisible"}`}
        onClick={() => target.back(path)}
      >
        <RotateCcw size={14} />
      </button>
    </div>
  );
}

/** A number: dragged, or moved with the arrow keys; sent when it is let go. */
export function SliderField(props: {
  target: Target;
  path: string;
  label: string;
  min: number;
  max: number;
  step: number;
  /** How many of the shown unit make one of the stored. */
  per?: number;
  unit?: string;
  fallback?: number;
}) {
  const { target, path, label, min, max, step, per = 1, unit = "", fallback = 0 } = props;
  const held = target.value(path);
  const stored = typeof held === "number" ? held : fallback;
  const [moving, setMoving] = useState<number | null>(null);
  const shown = moving ?? Number((stored * per).toFixed(3));
  const commit = () => {
    if (moving !== null && moving !== shownOf(stored, per)) {
      target.set({ [path]: Number((moving / per).toFixed(5)) });
    }
    setMoving(null);
  };
  return (
    <Row target={target} path={path} label={label}>
      <input
        type="range"
        aria-label={label}
        className="min-w-0 flex-1 accent-chalk"
        min={min}
        max={max}
        step={step}
        value={shown}
        onChange={(event) => setMoving(Number(event.target.value))}
        onPointerUp={commit}
        onKeyUp={commit}
        onBlur={commit}
      />
      <span className="tabular w-[52px] shrink-0 text-right text-dim">
        {Number(shown.toFixed(2))}
        {unit}
      </span>
    </Row>
  );
}

function shownOf(stored: number, per: number): number {
  return Number((stored * per).toFixed(3));
}

/** One of several values. */
export function PickField<T extends string | number>(props: {
  target: Target;
  path: string;
  label: string;
  choices: readonly { value: T; text: string }[];
}) {
  const { target, path, label, choices } = props;
  const held = target.value(path) as T;
  return (
    <Row target={target} path={path} label={label}>
      <select
        aria-label={label}
        className="h-7 w-full min-w-0 rounded border border-line bg-card px-1.5"
        value={String(held)}
        onChange={(event) => {
          const next = choices.find((one) => String(one.value) === event.target.value);
          if (next) target.set({ [path]: next.value });
        }}
      >
        {choices.map((one) => (
          <option key={one.value} value={String(one.value)}>
            {one.text}
          </option>
        ))}
      </select>
    </Row>
  );
}

type Colour = [number, number, number, number];
type Paint = Colour | { first: Colour; last: Colour; angle: number };

/** A colour with its opacity; where gradients are allowed, one or two of them. */
export function PaintField(props: {
  target: Target;
  path: string;
  label: string;
  gradient?: boolean;
}) {
  const { target, path, label, gradient = false } = props;
  const held = target.value(path) as Paint | null | undefined;
  const paint: Paint = held ?? [255, 255, 255, 255];
  const running = !Array.isArray(paint);
  const first = running ? paint.first : paint;
  return (
    <Row target={target} path={path} label={label}>
      <Swatch
        label={label}
        colour={first}
        onChange={(colour) =>
          target.set({ [path]: running ? { ...paint, first: colour } : colour })
        }
      />
      {running && (
        <Swatch
          label={`${label}, to`}
          colour={paint.last}
          onChange={(colour) => target.set({ [path]: { ...paint, last: colour } })}
        />
      )}
      {gradient ? (
        <button
          type="button"
          aria-pressed={running}
          className="ml-auto rounded border border-line bg-card px-2 py-0.5 text-small hover:border-dim"
          title={running ? "One plain colour" : "One colour running into another"}
          onClick={() =>
            target.set({
              [path]: running ? paint.first : { first, last: deeper(first), angle: 90 },
            })
          }
        >
          {running ? "two colours" : "one colour"}
        </button>
      ) : (
        <Opacity
          label={label}
          value={first[3]}
          onChange={(alpha) => target.set({ [path]: [first[0], first[1], first[2], alpha] })}
        />
      )}
    </Row>
  );
}

function Opacity(props: { label: string; value: number; onChange: (value: number) => void }) {
  const { label, value, onChange } = props;
  const [moving, setMoving] = useState<number | null>(null);
  const commit = () => {
    if (moving !== null && moving !== value) onChange(moving);
    setMoving(null);
  };
  return (
    <>
      <input
        type="range"
        aria-label={`${label}, opacity`}
        className="min-w-0 flex-1 accent-chalk"
        min={0}
        max={255}
        value={moving ?? value}
        onChange={(event) => setMoving(Number(event.target.value))}
        onPointerUp={commit}
        onKeyUp={commit}
        onBlur={commit}
      />
      <span className="tabular w-[40px] shrink-0 text-right text-dim">
        {Math.round(((moving ?? value) / 255) * 100)} %
      </span>
    </>
  );
}

function Swatch(props: { label: string; colour: Colour; onChange: (colour: Colour) => void }) {
  const { label, colour, onChange } = props;
  return (
    <input
      type="color"
      aria-label={label}
      title={hex(colour)}
      className="h-7 w-11 shrink-0 cursor-pointer rounded border border-line bg-card p-0.5"
      value={hex(colour)}
      onChange={(event) => {
        const value = Number.parseInt(event.target.value.slice(1), 16);
        onChange([value >> 16, (value >> 8) & 255, value & 255, colour[3]]);
      }}
    />
  );
}

function hex(colour: Colour): string {
  return `#${colour
    .slice(0, 3)
    .map((value) => value.toString(16).padStart(2, "0"))
    .join("")}`;
}

function deeper([r, g, b, a]: Colour): Colour {
  return [Math.round(r * 0.7), Math.round(g * 0.7), Math.round(b * 0.7), a];
}

/** A part that a look may have or not; its settings follow where it has it. */
export function PartField(props: {
  target: Target;
  path: string;
  label: string;
  /** What makes the part: a setting in it, by its path. */
  make: Record<string, string | number>;
  children: ReactNode;
}) {
  const { target, path, label, make, children } = props;
  const there = Boolean(target.value(path));
  return (
    <div className="border-t border-line pt-2">
      <Row target={target} path={path} label={label}>
        <button
          type="button"
          role="switch"
          aria-checked={there}
          aria-label={label}
          className={`relative h-5 w-9 rounded-full transition-colors duration-100 ${
            there ? "bg-chalk" : "bg-dim/50"
          }`}
          onClick={() => target.set(there ? { [path]: null } : make)}
        >
          <span
            className={`absolute top-0.5 size-4 rounded-full bg-white transition-all duration-100 ${
              there ? "left-[18px]" : "left-0.5"
            }`}
          />
        </button>
      </Row>
      {there && <div className="mt-1 space-y-1">{children}</div>}
    </div>
  );
}
