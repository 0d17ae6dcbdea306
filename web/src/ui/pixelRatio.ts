/** How many screen pixels a CSS pixel has: it changes with the zoom, and from screen to screen. */
import { useSyncExternalStore } from "react";

export function usePixelRatio(): number {
  return useSyncExternalStore(listen, read);
}

const read = (): number => window.devicePixelRatio || 1;

function listen(changed: () => void): () => void {
  let over = new AbortController();
  const watch = () => {
    over.abort();
    over = new AbortController();
    const media = window.matchMedia(`(resolution: ${read()}dppx)`);
    media.addEventListener("change", again, { signal: over.signal });
  };
  const again = () => {
    watch();
    changed();
  };
  watch();
  return () => over.abort();
}
