/** Following a pointer from a press until it is let go, taken away or given up. */

export interface Following {
  move: (event: PointerEvent) => void;
  /** Let go: what was dragged counts. */
  drop: (event: PointerEvent) => void;
  /** Taken away by the system, or given up with Escape: nothing counts. */
  giveUp: () => void;
}

export function followPointer({ move, drop, giveUp }: Following): void {
  const over = new AbortController();
  const { signal } = over;
  const end = (event: PointerEvent) => {
    over.abort();
    drop(event);
  };
  const lost = () => {
    over.abort();
    giveUp();
  };
  const onKey = (event: KeyboardEvent) => {
    if (event.key === "Escape") lost();
  };
  window.addEventListener("pointermove", move, { signal });
  window.addEventListener("pointerup", end, { signal });
  window.addEventListener("pointercancel", lost, { signal });
  window.addEventListener("blur", lost, { signal });
  window.addEventListener("keydown", onKey, { signal });
}
