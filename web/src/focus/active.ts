/** What is active now, for those who show it. */
import { create } from "zustand";
import { type Active, activeOf } from "./page";

export const useActive = create<{ active: Active }>(() => ({ active: "page" }));

// A caption pressed with the mouse becomes a text box only once the press is over.
function read(): void {
  window.setTimeout(() => {
    const active = activeOf(document.activeElement);
    if (useActive.getState().active !== active) useActive.setState({ active });
  }, 0);
}

for (const event of ["focusin", "pointerup", "keyup"]) document.addEventListener(event, read);
