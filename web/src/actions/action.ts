/** What can be done, as one list: it feeds keys, buttons, tooltips and the sheet of keys. */
import type { LucideIcon } from "lucide-react";
import type { Player } from "../playback/player";
import type { Stage } from "../stages/stage";

export type Group =
  | "Playing"
  | "Captions"
  | "Words"
  | "Doubts"
  | "Trim"
  | "Pace"
  | "Dress"
  | "Deliver"
  | "Page";

export interface Action {
  id: string;
  name: string;
  group: Group;
  /** The chord as it is shown, such as "Shift ←"; empty where there is no key. */
  keys: string;
  /** Other chords that do the same. */
  also?: string[];
  /** Stages where it applies; all when left out. */
  where?: readonly Stage[];
  /** Whether its key works while text is being typed, too. */
  typing?: boolean;
  icon?: LucideIcon;
  run: (player: Player | null) => void;
}

const NAMES: Record<string, string> = {
  " ": "Space",
  Escape: "Esc",
  ArrowLeft: "←",
  ArrowRight: "→",
  ArrowUp: "↑",
  ArrowDown: "↓",
};

/** A key press as a chord: modifiers in a fixed order, then the key's name. */
export function chordOf(event: KeyboardEvent): string {
  const { key, code } = event;
  let name = NAMES[key] ?? (key.length === 1 ? key.toUpperCase() : key);
  let shift = event.shiftKey;
  const digit = /^Digit(\d)$/.exec(code)?.[1];
  const letter = /^Key([A-Z])$/.exec(code)?.[1];
  if (key.length === 1 && /\p{L}/u.test(key)) {
    // Keys of another script are known by their place.
    if (letter && !/^[A-Z]$/.test(name)) name = letter;
  } else if (key.length === 1 && key !== " " && !/\d/.test(key)) {
    // A sign that takes Shift to type is itself; digits with Shift are named by their key.
    if (shift && digit) name = digit;
    else shift = false;
  }
  const held = [
    (event.ctrlKey || event.metaKey) && "Ctrl",
    event.altKey && "Alt",
    shift && "Shift",
  ].filter(Boolean);
  return [...held, name].join(" ");
}

/** The action that a chord stands for on a stage. */
export function actionFor(
  actions: readonly Action[],
  chord: string,
  stage: Stage,
  typing: boolean,
): Action | undefined {
  return actions.find(
    (one) =>
      (one.keys === chord || one.also?.includes(chord)) &&
      (!one.where || one.where.includes(stage)) &&
      (!typing || one.typing),
  );
}

/** A name with its key, as tooltips say it. */
export const hintOf = (action: Action): string =>
  action.keys ? `${action.name} (${action.keys})` : action.name;
