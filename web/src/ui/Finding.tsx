/** Something found in the captions: what and when, a jump there, and what can be done. */

import type { ReactNode } from "react";
import { clock } from "./format";
import { Tip } from "./Tip";

export function Finding(props: {
  text: string;
  atUs: number;
  about: string;
  onGo: () => void;
  children?: ReactNode;
}) {
  const { text, atUs, about, onGo, children } = props;
  return (
    <div className="rounded border border-line bg-card px-2.5 py-2">
      <Tip text="Go there">
        <button
          type="button"
          className="flex w-full items-baseline gap-3 text-left hover:text-link"
          onClick={onGo}
        >
          <span className="min-w-0 flex-1 truncate">{text}</span>
          <span className="tabular text-dim">{clock(atUs)}</span>
        </button>
      </Tip>
      {(about || children) && (
        <div className="mt-1 flex items-center gap-2">
          <span className="min-w-0 flex-1 text-small text-dim">{about}</span>
          {children}
        </div>
      )}
    </div>
  );
}
