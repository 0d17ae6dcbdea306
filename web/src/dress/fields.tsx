/** One setting of a look: a label, its control, and the way back where it is overridden. */
import { RotateCcw } from "lucide-react";
import { type ReactNode, useRef, useState } from "react";
import { drop } from "../state/commands";
import { Switch } from "../ui/Check";
import { IconButton } from "../ui/IconButton";
import { NumberField } from "../ui/NumberField";
import { Select } from "../ui/Select";
import { Slider } from "../ui/Slider";
import type { Target } from "./scope";

export function Row(props: { target: Target; path: string; label: string; children: ReactNode }) {
  const { target, path, label, children } = props;
  const own = target.own(path);
  return (
    <div className="flex min-h-7 items-center gap-2">
      <span className={`w-[86px] shrink-0 ${own ? "font-bold text-link" : ""}`}>{label}</span>
      <div className="flex min-w-0 flex-1 items-center gap-2">{children}</div>
      <IconButton
        label={`${label}: back to finish`}
        tip="Back to finish"
        className={own ? "" : "invisible"}
        onClick={() => target.back(path)}
      >
        <RotateCcw size={14} />
      </IconButton>
    </div>
  );
}

/** A value that is dragged: what is shown meanwhile, and its two ends. */
export function useDragged<T>(send: (value: T) => void) {
  const [moving, setMoving] = useState<T | null>(null);
  const moves = useRef(0);
  return {
    moving,
    move: (value: T) => {
      moves.current += 1;
      setMoving(value);
      send(value);
    },
    rest: () => {
      const last = moves.current;
      // What was moved again meanwhile goes on from where it was moved to.
      void drop().then(() => moves.current === last && setMoving(null));
    },
  };
}

/** A number: dragged, typed, or moved with the arrow keys; the preview follows. */
export function SliderField(props: {
  target: Target;
  path: string;
  label: string;
  /** What the group is, where labels repeat: said to screen readers. */
  of?: string;
  min: number;
  max: number;
  step: number;
  /** How many of the shown unit make one of the stored. */
  per?: number;
  unit?: string;
  fallback?: number;
}) {
  const { target, path, label, of, min, max, step, per = 1, unit = "", fallback = 0 } = props;
  const held = target.value(path);
  const stored = typeof held === "number" ? held : fallback;
  const { moving, move, rest } = useDragged((value: number) =>
    target.set({ [path]: Number((value / per).toFixed(5)) }, true),
  );
  const shown = moving ?? Number((stored * per).toFixed(3));
  const name = of ? `${of}: ${label.toLowerCase()}` : label;
  return (
    <Row target={target} path={path} label={label}>
      <Slider
        label={name}
        className="flex-1"
        min={min}
        max={max}
        step={step}
        value={shown}
        valueText={`${Number(shown.toFixed(2))}${unit}`}
        onMove={move}
        onRest={rest}
      />
      <NumberField
        label={name}
        value={shown}
        step={step}
        min={min}
        max={max}
        unit={unit}
        onMove={move}
        onRest={rest}
        onReset={target.own(path) ? () => target.back(path) : undefined}
      />
    </Row>
  );
}

/** One of several values. */
export function PickField<T extends string | number>(props: {
  target: Target;
  path: string;
  label: string;
  of?: string;
  choices: readonly { value: T; text: string }[];
}) {
  const { target, path, label, of, choices } = props;
  const held = target.value(path) as T;
  return (
    <Row target={target} path={path} label={label}>
      <Select
        label={of ? `${of}: ${label.toLowerCase()}` : label}
        options={choices}
        chosen={held}
        onChoose={(value) => target.set({ [path]: value })}
      />
    </Row>
  );
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
    <fieldset className="border-t border-line pt-2">
      <legend className="sr-only">{label}</legend>
      <Row target={target} path={path} label={label}>
        <Switch
          label={label}
          checked={there}
          onChange={() => target.set(there ? { [path]: null } : make)}
        />
      </Row>
      {there && <div className="mt-1 space-y-1">{children}</div>}
    </fieldset>
  );
}
