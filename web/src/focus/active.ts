/** What is active now, for those who show it. */
import { create } from "zustand";
import { type Active, activeOf } from "./page";

export const useActive = create<{ active: Active }>(() => ({ active: "page" }));

document.addEventListener("focusin", (event) => {
  useActive.setState({ active: activeOf(event.target) });
});
