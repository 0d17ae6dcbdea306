/** A number to type: arrows move it by a step, with Shift by ten; a double click takes it back. */
import { useState } from "react";

export function NumberField(props: {
  label: string;
  value: number;
  step: number;
  min: number;
  max: number;
  unit?: string;
  onMove: (value: number) => void;
  onRest: () => void;
  onReset?: (() => void) | undefined;
}) {
  const { label, value, step, min, max, unit = "", onMove, onRest, onReset } = props;
  const [typed, setTyped] = useState<string | null>(null);
  const shown = String(Number(value.toFixed(2)));
  const within = (wanted: number) => Number(Math.min(max, Math.max(min, wanted)).toFixed(4));
  const commit = () => {
    const wanted = Number((typed ?? shown).replace(",", "."));
    setTyped(null);
    if (typed !== null && typed.trim() !== "" && !Number.isNaN(wanted) && wanted !== value) {
      onMove(within(wanted));
    }
    onRest();
  };
  return (
    <span className="flex w-[62px] shrink-0 items-center gap-0.5 text-dim">
      <input
        inputMode="decimal"
        aria-label={`${label}, number`}
        className="tabular h-6 w-full min-w-0 rounded border border-transparent bg-transparent px-1 text-right hover:border-line focus:border-line focus:bg-card focus:text-ink"
        value={typed ?? shown}
        onFocus={(event) => event.target.select()}
        onChange={(event) => setTyped(event.target.value)}
        onBlur={commit}
        onDoubleClick={onReset}
        onKeyDown={(event) => {
          const way = { ArrowUp: 1, ArrowDown: -1 }[event.key];
          if (way) {
            event.preventDefault();
            setTyped(null);
            onMove(within(value + way * step * (event.shiftKey ? 10 : 1)));
          } else if (event.key === "Enter") commit();
          else if (event.key === "Escape" && typed !== null) {
            event.preventDefault();
            setTyped(null);
          }
        }}
      />
      <span className="w-4 shrink-0 text-small">{unit}</span>
    </span>
  );
}
