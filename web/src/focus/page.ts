/**
 * Where the focus is, and where it goes back to: the page (the Strip with its selected caption),
 * so that keys always mean something. docs/focus.md says the whole model.
 */

/** What is active: the page, a caption's text, a field to type in, or a list to choose from. */
export type Active = "page" | "text" | "field" | "list" | "button";

const TYPED = new Set(["text", "search", "number", "url", "email", "password", "tel", ""]);
const LISTS =
  "[role=listbox],[role=menu],[role=radiogroup],[role=slider],[role=tablist],[role=combobox],[role=toolbar],[role=grid]";

/** What kind of thing an element is for keys. */
export function activeOf(target: EventTarget | null): Active {
  if (!(target instanceof HTMLElement) || target.id === PAGE) return "page";
  if (target.isContentEditable) return "text";
  if (target instanceof HTMLTextAreaElement) return "field";
  if (target instanceof HTMLInputElement && TYPED.has(target.getAttribute("type") ?? "")) {
    return "field";
  }
  if (target.closest(LISTS)) return "list";
  if (target.matches("button,a[href],[role=button],[role=switch],[role=checkbox],summary")) {
    return "button";
  }
  return "page";
}

export const PAGE = "page";

/** Things that float over the page and look after the focus themselves. */
const FLOATING = "[role=dialog],[role=alertdialog],[role=menu],[role=listbox]:not(#page)";

/** Whether something floats over the page that keys belong to. */
export function floating(): boolean {
  return document.querySelector(FLOATING) !== null;
}

/** Give the focus to the page. */
export function focusPage(): void {
  document.getElementById(PAGE)?.focus({ preventScroll: true });
}

/** Whether an element has the focus that belongs to nobody. */
function nowhere(): boolean {
  return document.activeElement === null || document.activeElement === document.body;
}

let mouse = false;

/** Whether the last thing pressed was the mouse (or a finger), not a key. */
export const byMouse = (): boolean => mouse;

/**
 * Keep the focus somewhere: what was pressed with the mouse gives it to the page, and so does
 * what goes away with it. Until the returned function is called.
 */
export function guardFocus(): () => void {
  const over = new AbortController();
  const { signal } = over;
  const noting = { signal, capture: true };
  const note = (pressed: boolean) => () => {
    mouse = pressed;
  };
  document.addEventListener("pointerdown", note(true), noting);
  document.addEventListener("keydown", note(false), noting);
  // After a press of the mouse its handlers come first: what they give the focus to keeps it.
  const settle = () =>
    window.setTimeout(() => {
      if (signal.aborted || !mouse || floating()) return;
      const kind = activeOf(document.activeElement);
      if (nowhere() || kind === "button" || kind === "list") focusPage();
    }, 0);
  document.addEventListener("click", settle, { signal });
  document.addEventListener("pointerup", settle, { signal });
  const rescue = () => {
    if (!signal.aborted && nowhere() && document.hasFocus() && !floating()) focusPage();
  };
  // While the focus goes from one element to the next nobody has it for a moment.
  const rescueSoon = () => void window.setTimeout(rescue, 0);
  document.addEventListener("focusout", rescueSoon, { signal });
  // An element that is taken off the page tells nobody that it had the focus.
  const watcher = new MutationObserver(rescueSoon);
  watcher.observe(document.body, { childList: true, subtree: true });
  return () => {
    over.abort();
    watcher.disconnect();
  };
}

const STOPS = "[data-stop]";

/**
 * Tab goes from stop to stop: rule, Strip, preview, Tray. A stop that holds fields is entered with
 * Enter or an arrow and left with Escape. Returns whether the key was used.
 */
export function tabKey(event: KeyboardEvent): boolean {
  const target = event.target instanceof HTMLElement ? event.target : null;
  const stop = target?.closest<HTMLElement>(STOPS) ?? null;
  if (event.key === "Tab" && !event.ctrlKey && !event.altKey && !event.metaKey) {
    if (stop?.dataset.stop === "fields" && target !== stop) return false;
    return goToStop(stop, event.shiftKey ? -1 : 1);
  }
  if (stop?.dataset.stop !== "fields") return false;
  if (target === stop && (event.key === "Enter" || event.key === "ArrowDown")) {
    fieldsOf(stop)[0]?.focus();
    return true;
  }
  if (target !== stop && event.key === "Escape" && !event.defaultPrevented) {
    stop.focus();
    return true;
  }
  const way = { ArrowDown: 1, ArrowUp: -1 }[event.key];
  if (way && target !== stop && activeOf(target) === "button") {
    const fields = fieldsOf(stop);
    const next = fields[fields.indexOf(target as HTMLElement) + way];
    (next ?? stop).focus();
    return true;
  }
  return false;
}

function goToStop(from: HTMLElement | null, way: 1 | -1): boolean {
  const stops = [...document.querySelectorAll<HTMLElement>(STOPS)].filter(
    (one) => one.offsetParent !== null,
  );
  const here = from ? stops.indexOf(from) : way > 0 ? -1 : stops.length;
  const next = stops[here + way];
  // Behind the last stop and before the first the browser's own controls come.
  if (!next) return false;
  const within = next.matches("[tabindex]")
    ? next
    : (next.querySelector<HTMLElement>("[tabindex='0']") ?? fieldsOf(next)[0]);
  within?.focus();
  return true;
}

function fieldsOf(stop: HTMLElement): HTMLElement[] {
  const all = stop.querySelectorAll<HTMLElement>(
    "button,input,select,textarea,a[href],[tabindex]:not([tabindex='-1'])",
  );
  return [...all].filter(
    (one) => !one.matches("[disabled],[tabindex='-1'],[type=hidden]") && one.offsetParent !== null,
  );
}
