/** Daylight or evening; remembered on this machine. */
export type Theme = "daylight" | "evening";

export function theme(): Theme {
  return document.documentElement.dataset.theme === "evening" ? "evening" : "daylight";
}

export function startTheme(): void {
  const kept = localStorage.getItem("theme");
  const dark = window.matchMedia("(prefers-color-scheme: dark)").matches;
  document.documentElement.dataset.theme = kept ?? (dark ? "evening" : "daylight");
}

export function turnTheme(): Theme {
  const next = theme() === "evening" ? "daylight" : "evening";
  document.documentElement.dataset.theme = next;
  localStorage.setItem("theme", next);
  return next;
}
