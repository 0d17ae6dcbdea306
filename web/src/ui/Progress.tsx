/** A job's progress with the time left and a way to stop it. */
import { timeLeft } from "./format";

export function Progress({
  label,
  value,
  secondsLeft,
  onCancel,
}: {
  label: string;
  value: number;
  secondsLeft?: number | null;
  onCancel?: (() => void) | undefined;
}) {
  const percent = Math.round(value * 100);
  return (
    <div>
      <div className="flex items-baseline justify-between gap-2">
        <span>{label}</span>
        <span className="text-dim tabular">{percent} %</span>
      </div>
      <div
        role="progressbar"
        aria-label={label}
        aria-valuenow={percent}
        aria-valuemin={0}
        aria-valuemax={100}
        className="my-1.5 h-1.5 overflow-hidden rounded-full bg-line"
      >
        <div
          className="h-full bg-chalk transition-[width] duration-150"
          style={{ width: `${percent}%` }}
        />
      </div>
      <div className="flex items-center justify-between text-small text-dim">
        <span>{secondsLeft === undefined ? "" : timeLeft(secondsLeft)}</span>
        {onCancel && (
          <button type="button" className="underline hover:text-ink" onClick={onCancel}>
            Cancel
          </button>
        )}
      </div>
    </div>
  );
}
