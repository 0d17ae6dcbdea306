/** One of several: a card with a radio button's meaning. */
import type { ReactNode } from "react";

export function Choice(props: {
  name: string;
  chosen: boolean;
  title: string;
  about: string;
  onChoose: () => void;
  children?: ReactNode;
}) {
  const { name, chosen, title, about, onChoose, children } = props;
  return (
    <label
      className={`block cursor-pointer rounded border bg-card p-3 has-focus-visible:outline-2 has-focus-visible:outline-chalk ${
        chosen ? "border-chalk" : "border-line hover:border-dim"
      }`}
    >
      <input type="radio" name={name} className="sr-only" checked={chosen} onChange={onChoose} />
      {children}
      <span className="flex items-center gap-2 font-bold">
        <span
          aria-hidden
          className={`size-3 rounded-full border ${chosen ? "border-4 border-chalk" : "border-dim"}`}
        />
        {title}
      </span>
      <span className="mt-0.5 block text-dim">{about}</span>
    </label>
  );
}
