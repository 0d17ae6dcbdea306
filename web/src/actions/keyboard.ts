/** The keys of the workbench: what is active says whose a key is (docs/focus.md). */
import { holdKey, holdPress } from "../focus/held";
import { type Active, activeOf, floating, tabKey } from "../focus/page";
import type { Player } from "../playback/player";
import { useStage } from "../stages/stage";
import { passageKey } from "../strip/passage";
import { actionFor, chordOf } from "./action";
import { ACTIONS } from "./index";

const ARROWS = new Set(["←", "→", "↑", "↓", "Home", "End", "PageUp", "PageDown"]);
const HISTORY = new Set(["Ctrl Z", "Ctrl Shift Z", "Ctrl Y"]);
const PRESSES = new Set(["Space", "Enter"]);

/** Whether what is active keeps a key for itself. */
export function keeps(active: Active, chord: string, element: EventTarget | null): boolean {
  const key = chord.split(" ").at(-1) ?? "";
  if (active === "button") return PRESSES.has(key);
  if (active !== "list") return false;
  // Space plays beside a slider, which has no use for it.
  const slider = element instanceof HTMLElement && element.closest("[role=slider]") !== null;
  return ARROWS.has(key) || (PRESSES.has(key) && !slider) || (!slider && /^\w$/.test(chord));
}

/** Listen to keys until the returned function is called. */
export function listenToKeys(player: () => Player | null): () => void {
  const over = new AbortController();
  const { signal } = over;
  window.addEventListener("keydown", (event) => void holdKey(event), { signal, capture: true });
  window.addEventListener("pointerdown", holdPress, { signal, capture: true });
  window.addEventListener(
    "keydown",
    (event) => {
      if (event.defaultPrevented || event.isComposing) return;
      const active = activeOf(event.target);
      const typing = active === "text" || active === "field";
      const chord = chordOf(event);
      // What floats keeps its keys; but undo and redo are the piece's there too.
      if (floating() && (typing || !HISTORY.has(chord))) return;
      if (tabKey(event)) {
        event.preventDefault();
        return;
      }
      if (!typing && passageKey(event)) return;
      if (keeps(active, chord, event.target)) return;
      const found = actionFor(ACTIONS, chord, useStage.getState().stage, typing);
      if (!found) return;
      event.preventDefault();
      found.run(player());
    },
    { signal },
  );
  return () => over.abort();
}
