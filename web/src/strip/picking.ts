/** Selecting captions with the mouse in the margin: click, Shift, Ctrl, or drag over several. */
import { pick, pickBetween } from "../state/picks";

/**
 * A press in the margin beside a caption. `idAt` says which caption a height of the window
 * belongs to while the mouse is dragged; `onClick` runs where it was not.
 */
export function beginPicking(
  press: React.PointerEvent,
  cueId: number,
  idAt: (clientY: number) => number | null,
  onClick?: () => void,
): void {
  if (press.button !== 0) return;
  if (press.shiftKey || press.ctrlKey || press.metaKey) {
    pick(cueId, press.shiftKey ? "range" : "toggle");
    return;
  }
  pick(cueId);
  const over = new AbortController();
  const { signal } = over;
  let last = cueId;
  const move = (event: PointerEvent) => {
    const id = idAt(event.clientY);
    if (id === null || id === last) return;
    last = id;
    pickBetween(cueId, id);
  };
  const end = () => {
    over.abort();
    if (last === cueId) onClick?.();
  };
  window.addEventListener("pointermove", move, { signal });
  window.addEventListener("pointerup", end, { signal });
  window.addEventListener("pointercancel", () => over.abort(), { signal });
}
