/** Something that is so or not: a tick, or a switch. */
import { Check as Tick } from "lucide-react";
import { Checkbox, Switch as Radix } from "radix-ui";
import { type ReactNode, useId } from "react";

export function Check(props: {
  label: ReactNode;
  checked: boolean;
  onChange: (checked: boolean) => void;
  disabled?: boolean;
  className?: string;
}) {
  const { label, checked, onChange, disabled = false, className = "" } = props;
  const id = useId();
  return (
    <span className={`flex items-start gap-2 ${className}`}>
      <Checkbox.Root
        id={id}
        checked={checked}
        disabled={disabled}
        onCheckedChange={(next) => onChange(next === true)}
        className="mt-[3px] grid size-[15px] shrink-0 place-items-center rounded-sm border border-dim bg-card data-[state=checked]:border-chalk data-[state=checked]:bg-chalk"
      >
        <Checkbox.Indicator>
          <Tick size={12} strokeWidth={3} className="text-white" />
        </Checkbox.Indicator>
      </Checkbox.Root>
      <label htmlFor={id} className="min-w-0 flex-1">
        {label}
      </label>
    </span>
  );
}

export function Switch(props: {
  label: string;
  checked: boolean;
  onChange: (checked: boolean) => void;
}) {
  const { label, checked, onChange } = props;
  return (
    <Radix.Root
      aria-label={label}
      checked={checked}
      onCheckedChange={onChange}
      className="relative h-5 w-9 shrink-0 rounded-full bg-dim/60 transition-colors duration-100 data-[state=checked]:bg-chalk"
    >
      <Radix.Thumb className="block size-4 translate-x-0.5 rounded-full bg-white transition-transform duration-100 data-[state=checked]:translate-x-[18px]" />
    </Radix.Root>
  );
}
