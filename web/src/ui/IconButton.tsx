/** A button that is a picture: its name is its label and its tooltip. */
import type { ButtonHTMLAttributes, ReactNode } from "react";
import { Tip } from "./Tip";

interface Props extends ButtonHTMLAttributes<HTMLButtonElement> {
  label: string;
  /** What the tooltip says where that is more than the name. */
  tip?: string;
  children: ReactNode;
}

export function IconButton({ label, tip, className = "", children, ...rest }: Props) {
  return (
    <Tip text={tip ?? label}>
      <button
        type="button"
        aria-label={label}
        className={`rounded p-1 text-dim hover:bg-tint hover:text-ink disabled:opacity-45 disabled:hover:bg-transparent ${className}`}
        {...rest}
      >
        {children}
      </button>
    </Tip>
  );
}
