/** One of several to choose from, shown by a picture with its name below it. */
import { Check } from "lucide-react";
import type { ReactNode } from "react";

export function PictureTile(props: {
  name: string;
  about?: string;
  chosen: boolean;
  onPick: () => void;
  /** How large the picture is. */
  size: string;
  children: ReactNode;
}) {
  const { name, about, chosen, onPick, size, children } = props;
  return (
    // biome-ignore lint/a11y/useSemanticElements: what is chosen is a picture, not a dot.
    <button
      type="button"
      role="radio"
      aria-checked={chosen}
      aria-label={name}
      title={about ? `${name}: ${about}` : name}
      className="group min-w-0 text-center"
      onClick={onPick}
    >
      <span
        className={`relative mx-auto block overflow-hidden rounded border bg-page ${size} ${
          chosen ? "border-chalk ring-2 ring-chalk" : "border-line group-hover:border-dim"
        }`}
      >
        {children}
        {chosen && (
          <Check size={12} className="absolute right-0.5 bottom-0.5 rounded bg-chalk text-white" />
        )}
      </span>
      <span
        className={`mt-0.5 block text-small leading-tight ${chosen ? "font-bold" : "text-dim"}`}
      >
        {name}
      </span>
    </button>
  );
}
