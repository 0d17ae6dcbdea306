/** One of a list, opened where it stands. */
import { Check, ChevronDown } from "lucide-react";
import { Select as Radix, Toolbar } from "radix-ui";
import { byMouse, focusPage } from "../focus/page";

export interface Option<T extends string | number> {
  value: T;
  text: string;
}

export function Select<T extends string | number>(props: {
  label: string;
  options: readonly Option<T>[];
  chosen: T;
  onChoose: (value: T) => void;
  className?: string;
  /** How what is chosen is shown where that differs from the list. */
  shown?: string;
  id?: string;
  /** Whether it stands in a toolbar, whose arrow keys lead to it. */
  inToolbar?: boolean;
}) {
  const { label, options, chosen, onChoose, className = "w-full", shown, id, inToolbar } = props;
  const trigger = (
    <Radix.Trigger
      id={id}
      aria-label={label}
      className={`inline-flex h-7 min-w-0 items-center justify-between gap-1 rounded border border-line bg-card px-2 text-left hover:border-dim ${className}`}
    >
      <span className="truncate">
        <Radix.Value>{shown}</Radix.Value>
      </span>
      <Radix.Icon className="shrink-0 opacity-70">
        <ChevronDown size={14} />
      </Radix.Icon>
    </Radix.Trigger>
  );
  return (
    <Radix.Root
      value={nameOf(chosen)}
      onValueChange={(text) => {
        const found = options.find((one) => nameOf(one.value) === text);
        if (found) onChoose(found.value);
      }}
    >
      {inToolbar ? <Toolbar.Button asChild>{trigger}</Toolbar.Button> : trigger}
      <Radix.Portal>
        <Radix.Content
          position="popper"
          sideOffset={3}
          collisionPadding={8}
          className="z-60 max-h-[min(420px,var(--radix-select-content-available-height))] min-w-[var(--radix-select-trigger-width)] overflow-hidden rounded border border-line bg-card text-ink shadow-lg"
          onCloseAutoFocus={(event) => {
            if (!byMouse()) return;
            event.preventDefault();
            focusPage();
          }}
        >
          <Radix.Viewport className="overflow-y-auto p-1">
            {options.map((one) => (
              <Radix.Item
                key={nameOf(one.value)}
                value={nameOf(one.value)}
                className="flex cursor-default items-center gap-2 rounded px-2 py-1 outline-none select-none data-[highlighted]:bg-chalk data-[highlighted]:text-white"
              >
                <span className="w-3.5">
                  <Radix.ItemIndicator>
                    <Check size={13} />
                  </Radix.ItemIndicator>
                </span>
                <Radix.ItemText>{one.text}</Radix.ItemText>
              </Radix.Item>
            ))}
          </Radix.Viewport>
        </Radix.Content>
      </Radix.Portal>
    </Radix.Root>
  );
}

/** An empty value stands for something too, which the list cannot hold as it is. */
const nameOf = (value: string | number): string => `=${value}`;
