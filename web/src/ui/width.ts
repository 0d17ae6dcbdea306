/** Whether the window is too narrow for three panes side by side. */
import { useSyncExternalStore } from "react";

const NARROW = "(max-width: 1119px)";

function watch(changed: () => void): () => void {
  const query = window.matchMedia(NARROW);
  query.addEventListener("change", changed);
  return () => query.removeEventListener("change", changed);
}

export const isNarrow = (): boolean => window.matchMedia(NARROW).matches;

export const useNarrow = (): boolean => useSyncExternalStore(watch, isNarrow);
