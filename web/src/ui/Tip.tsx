/** A few words on what something does, shown when it is pointed at or reached by key. */
import { Tooltip } from "radix-ui";
import type { ReactElement, ReactNode } from "react";

export function Tip({ text, children }: { text: ReactNode; children: ReactElement }) {
  if (!text) return children;
  return (
    <Tooltip.Root>
      <Tooltip.Trigger asChild>{children}</Tooltip.Trigger>
      <Tooltip.Portal>
        <Tooltip.Content
          sideOffset={4}
          collisionPadding={8}
          className="pointer-events-none z-60 max-w-72 rounded bg-ink px-2 py-1 text-small text-page shadow-md"
        >
          {text}
        </Tooltip.Content>
      </Tooltip.Portal>
    </Tooltip.Root>
  );
}

export function Tips({ children }: { children: ReactNode }) {
  return (
    <Tooltip.Provider delayDuration={500} skipDelayDuration={200}>
      {children}
    </Tooltip.Provider>
  );
}
