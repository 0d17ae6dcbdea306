/** Every key of the workbench in one list: the sheet shows it, the handler runs it. */
import type { Player } from "../playback/player";
import { cueAt, edit, select, step, useProject } from "../state/project";
import { focusCue } from "../strip/CueText";

export interface Key {
  keys: string;
  about: string;
  matches: (event: KeyboardEvent) => boolean;
  run: (player: Player | null) => void;
}

const plain = (key: string) => (event: KeyboardEvent) =>
  event.key.toLowerCase() === key && !event.ctrlKey && !event.metaKey && !event.altKey;
const control = (key: string, shift: boolean) => (event: KeyboardEvent) =>
  (event.ctrlKey || event.metaKey) && event.key.toLowerCase() === key && event.shiftKey === shift;

export const KEYS: Key[] = [
  { keys: "Space", about: "Play or pause", matches: plain(" "), run: (player) => player?.toggle() },
  {
    keys: "J",
    about: "Play backwards, faster each time",
    matches: plain("j"),
    run: (player) => player?.shuttle(-1),
  },
  { keys: "K", about: "Stop", matches: plain("k"), run: (player) => player?.shuttle(0) },
  {
    keys: "L",
    about: "Play forwards, faster each time",
    matches: plain("l"),
    run: (player) => player?.shuttle(1),
  },
  {
    keys: "←",
    about: "One frame back",
    matches: plain("arrowleft"),
    run: (player) => player?.step(-1),
  },
  {
    keys: "→",
    about: "One frame on",
    matches: plain("arrowright"),
    run: (player) => player?.step(1),
  },
  {
    keys: "↑",
    about: "Caption before",
    matches: plain("arrowup"),
    run: (player) => walk(player, -1),
  },
  {
    keys: "↓",
    about: "Next caption",
    matches: plain("arrowdown"),
    run: (player) => walk(player, 1),
  },
  {
    keys: "Enter",
    about: "Type in the selected caption",
    matches: plain("enter"),
    run: () => {
      const { selected } = useProject.getState();
      if (selected !== null) focusCue(selected);
    },
  },
  {
    keys: "Delete",
    about: "Delete the selected caption",
    matches: plain("delete"),
    run: () => {
      const { selected } = useProject.getState();
      if (selected !== null) void edit({ kind: "delete_cue", cue_id: selected });
    },
  },
  { keys: "Ctrl Z", about: "Undo", matches: control("z", false), run: () => void step("undo") },
  {
    keys: "Ctrl Shift Z",
    about: "Redo",
    matches: control("z", true),
    run: () => void step("redo"),
  },
];

export const TEXT_KEYS = [
  { keys: "Enter", about: "Split the caption at the caret" },
  { keys: "Backspace", about: "At the start: join to the caption before" },
  { keys: "Tab", about: "Go to the next doubt" },
  { keys: "Esc", about: "Leave without changing the text" },
];

/** Select the neighbour of the selected (or showing) caption and go to it. */
function walk(player: Player | null, way: 1 | -1): void {
  const { cues, selected } = useProject.getState();
  const here = cues.find((cue) => cue.id === selected) ?? cueAt(cues, player?.at ?? 0);
  const index = here ? cues.indexOf(here) + way : 0;
  const cue = cues[index];
  if (!cue) return;
  select(cue.id);
  player?.seek(cue.words[0]?.start_us ?? cue.start_us);
}

/** Whether a key press belongs to something that is typed in or chosen from. */
export function isTyping(target: EventTarget | null): boolean {
  if (!(target instanceof HTMLElement)) return false;
  return target.isContentEditable || ["INPUT", "TEXTAREA", "SELECT"].includes(target.tagName);
}
