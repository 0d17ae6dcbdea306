/** A value between two ends: dragged, or moved with the arrow keys. */
import { Slider as Radix } from "radix-ui";

export function Slider(props: {
  label: string;
  min: number;
  max: number;
  step: number;
  value: number;
  onMove: (value: number) => void;
  /** The dragging is over. */
  onRest?: (value: number) => void;
  valueText?: string;
  className?: string;
  disabled?: boolean;
}) {
  const {
    label,
    min,
    max,
    step,
    value,
    onMove,
    onRest,
    valueText,
    className = "",
    disabled,
  } = props;
  return (
    <Radix.Root
      className={`relative flex h-5 min-w-0 touch-none items-center select-none ${className}`}
      min={min}
      max={max}
      step={step}
      value={[Math.min(max, Math.max(min, value))]}
      disabled={disabled ?? false}
      onValueChange={([next]) => next !== undefined && onMove(next)}
      onValueCommit={([last]) => last !== undefined && onRest?.(last)}
    >
      <Radix.Track className="relative h-1 grow rounded-full bg-line">
        <Radix.Range className="absolute h-full rounded-full bg-chalk" />
      </Radix.Track>
      <Radix.Thumb
        aria-label={label}
        aria-valuetext={valueText}
        className="block size-3.5 rounded-full border-2 border-chalk bg-card"
      />
    </Radix.Root>
  );
}
