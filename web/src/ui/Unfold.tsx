/** A heading that shows what is under it when it is pressed. */
import { ChevronDown, ChevronRight } from "lucide-react";
import { type ReactNode, useState } from "react";

export function Unfold(props: {
  title: string;
  count?: number;
  /** Whether it is a heading of its own, not one of a list. */
  strong?: boolean;
  children: ReactNode;
}) {
  const [open, setOpen] = useState(false);
  const Arrow = open ? ChevronDown : ChevronRight;
  return (
    <>
      <button
        type="button"
        aria-expanded={open}
        className={`flex w-full min-w-0 items-center gap-1 text-left hover:text-link ${props.strong ? "font-bold" : ""}`}
        onClick={() => setOpen(!open)}
      >
        <Arrow size={16} aria-hidden className="shrink-0" />
        <span className="truncate">{props.title}</span>
        {props.count !== undefined && (
          <span className="ml-auto font-normal text-dim">{props.count}</span>
        )}
      </button>
      {open && props.children}
    </>
  );
}
