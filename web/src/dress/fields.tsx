/** One setting of a look: a label, its control, and the way back where it is overridden. */
import { RotateCcw } from "lucide-react";
import { type ReactNode, useEffect, useRef, useState } from "react";
import { drop } from "../state/project";
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

/** A value that is dragged: what is shown meanwhile, and its two ends. */
function useDragged<T>(send: (value: T) => void) {
  const [moving, setMoving] = useState<T | null>(null);
  return {
    moving,
    move: (value: T) => {
      setMoving(value);
      send(value);
    },
    rest: () => void drop().then(() => setMoving(null)),
  };
}

/** A number: dragged, or moved with the arrow keys; the preview follows. */
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
  const { moving, move, rest } = useDragged((value: number) =>
    target.set({ [path]: Number((value / per).toFixed(5)) }, true),
  );
  const shown = moving ?? Number((stored * per).toFixed(3));
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
        onChange={(event) => move(Number(event.target.value))}
        onPointerUp={rest}
        onKeyUp={rest}
        onBlur={rest}
      />
      <span className="tabular w-[52px] shrink-0 text-right text-dim">
        {Number(shown.toFixed(2))}
        {unit}
      </span>
    </Row>
  );
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
          target.set({ [path]: running ? { ...paint, first: colour } : colour }, true)
        }
      />
      {running && (
        <Swatch
          label={`${label}, to`}
          colour={paint.last}
          onChange={(colour) => target.set({ [path]: { ...paint, last: colour } }, true)}
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
          onChange={(alpha) => target.set({ [path]: [first[0], first[1], first[2], alpha] }, true)}
        />
      )}
    </Row>
  );
}

function Opacity(props: { label: string; value: number; onChange: (value: number) => void }) {
  const { label, value, onChange } = props;
  const { moving, move, rest } = useDragged(onChange);
  return (
    <>
      <input
        type="range"
        aria-label={`${label}, opacity`}
        className="min-w-0 flex-1 accent-chalk"
        min={0}
        max={255}
        value={moving ?? value}
        onChange={(event) => move(Number(event.target.value))}
        onPointerUp={rest}
        onKeyUp={rest}
        onBlur={rest}
      />
      <span className="tabular w-[40px] shrink-0 text-right text-dim">
        {Math.round(((moving ?? value) / 255) * 100)} %
      </span>
    </>
  );
}

function Swatch(props: { label: string; colour: Colour; onChange: (colour: Colour) => void }) {
  const { label, colour, onChange } = props;
  const { moving, move, rest } = useDragged((value: string) => {
    const bits = Number.parseInt(value.slice(1), 16);
    onChange([bits >> 16, (bits >> 8) & 255, bits & 255, colour[3]]);
  });
  const field = useRef<HTMLInputElement>(null);
  const settled = useRef(rest);
  settled.current = rest;
  // React's own onChange is the browser's "input"; "change" comes when the chooser is closed.
  useEffect(() => {
    const ended = () => settled.current();
    const element = field.current;
    element?.addEventListener("change", ended);
    return () => element?.removeEventListener("change", ended);
  }, []);
  return (
    <input
      ref={field}
      type="color"
      aria-label={label}
      title={hex(colour)}
      className="h-7 w-11 shrink-0 cursor-pointer rounded border border-line bg-card p-0.5"
      value={moving ?? hex(colour)}
      onChange={(event) => move(event.target.value)}
      onBlur={rest}
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
