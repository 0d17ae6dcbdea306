/** Buttons: the one that matters, the ordinary, and the quiet. */
import type { ButtonHTMLAttributes } from "react";

type Kind = "main" | "plain" | "quiet" | "danger";

const LOOKS: Record<Kind, string> = {
  main: "bg-chalk text-white hover:bg-chalk-deep border-transparent",
  plain: "bg-card text-ink border-line hover:border-dim",
  quiet: "bg-transparent text-ink border-transparent hover:bg-tint",
  danger: "bg-clay text-white border-transparent hover:opacity-90",
};

export function Button({
  kind = "plain",
  className = "",
  ...rest
}: ButtonHTMLAttributes<HTMLButtonElement> & { kind?: Kind }) {
  return (
    <button
      type="button"
      className={`inline-flex h-8 items-center justify-center gap-2 whitespace-nowrap rounded border px-3 transition-colors duration-100 disabled:opacity-45 ${LOOKS[kind]} ${className}`}
      {...rest}
    />
  );
}
