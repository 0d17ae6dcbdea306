/**
 * Letters typed while the caret is on its way to another caption (a split, a join, a step on):
 * they are held, and put in where the caret arrives. Nothing typed is lost or runs a shortcut.
 */
import { say } from "../ui/notice";

let waiting = 0;
let letters = "";
let pressed = false;

/** Whether letters are held that want a caption to go into. */
export const lettersHeld = (): boolean => letters !== "";

/** Whether letters are being held. */
export function holding(): boolean {
  return waiting > 0;
}

/** Whether somebody has pressed the mouse somewhere meanwhile: the caret stays where they put it. */
export const wentElsewhere = (): boolean => pressed;

/** Hold letters until the work is done; then put them in where the caret is. */
export async function holdTyping(work: () => Promise<unknown>): Promise<void> {
  if (!waiting) pressed = false;
  waiting += 1;
  try {
    await work();
  } finally {
    waiting -= 1;
    if (!waiting) giveBack();
  }
}

/** A press of the mouse meanwhile: what is typed from now on belongs where it is pressed. */
export function holdPress(): void {
  if (waiting) pressed = true;
}

/** A key pressed meanwhile; whether it was taken. */
export function holdKey(event: KeyboardEvent): boolean {
  if (!waiting || pressed || event.ctrlKey || event.metaKey || event.altKey || event.isComposing)
    return false;
  if (event.key.length === 1) letters += event.key;
  else if (event.key === "Backspace") letters = letters.slice(0, -1);
  else if (!["Enter", "Delete", "Tab"].includes(event.key)) return false;
  event.preventDefault();
  event.stopPropagation();
  return true;
}

function giveBack(): void {
  const held = letters;
  const here = !pressed;
  letters = "";
  pressed = false;
  const active = document.activeElement;
  const typed = here && active instanceof HTMLElement && active.isContentEditable;
  // The one way to put text in that the text box hears of as typed.
  if (held && typed) document.execCommand("insertText", false, held);
  else if (held.trim()) say(`Typed, but no caption was there to take it: “${held}”`);
}
