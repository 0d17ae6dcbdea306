/** Every key of the workbench in one list: the sheet shows it, the handler runs it. */
import { flushSync } from "react-dom";
import type { Player } from "../playback/player";
import { goTo, showProofTab, useStage } from "../stages/stage";
import { keepAll, nextDoubt, settle, visitNext } from "../state/doubts";
import { mark } from "../state/marks";
import { pickedIds } from "../state/picks";
import { cueAt, edit, select, step, useProject } from "../state/project";
import { focusCue } from "../strip/focus";

export interface Key {
  keys: string;
  about: string;
  matches: (event: KeyboardEvent) => boolean;
  run: (player: Player | null) => void;
}

/** A key by itself; with or without Shift, or either way where that is left out. */
export const plain = (key: string, shift?: boolean) => (event: KeyboardEvent) =>
  event.key.toLowerCase() === key &&
  !event.ctrlKey &&
  !event.metaKey &&
  !event.altKey &&
  (shift === undefined || event.shiftKey === shift);
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
    matches: plain("arrowleft", false),
    run: (player) => player?.step(-1),
  },
  {
    keys: "→",
    about: "One frame on",
    matches: plain("arrowright", false),
    run: (player) => player?.step(1),
  },
  {
    keys: "↑",
    about: "Caption before",
    matches: plain("arrowup", false),
    run: (player) => walk(player, -1),
  },
  {
    keys: "↓",
    about: "Next caption",
    matches: plain("arrowdown", false),
    run: (player) => walk(player, 1),
  },
  {
    keys: "Enter",
    about: "Type in the selected caption",
    matches: plain("enter"),
    run: () => {
      const { selected } = useProject.getState();
      if (selected === null) return;
      if (useStage.getState().stage === "Pace") useProject.setState({ typing: selected });
      else focusCue(selected);
    },
  },
  {
    keys: "Delete",
    about: "Delete the picked captions",
    matches: plain("delete"),
    run: () => {
      const cue_ids = pickedIds();
      if (cue_ids.length) void edit({ kind: "delete_cues", cue_ids });
    },
  },
  {
    keys: "R",
    about: "Replay the caption with a run-in",
    matches: plain("r"),
    run: (player) => replay(player, false),
  },
  {
    keys: "O",
    about: "Loop the caption, or stop looping",
    matches: plain("o", false),
    run: (player) => replay(player, true),
  },
  {
    keys: "Shift O",
    about: "Loop the caption slowly, or stop",
    matches: plain("o", true),
    run: (player) => {
      const slow = player?.looping ? 1 : SLOW;
      replay(player, true);
      player?.setRate(slow);
    },
  },
  { keys: "D", about: "Play the next doubt", matches: plain("d"), run: visitNext },
  {
    keys: "A",
    about: "Keep the doubtful word as it is",
    matches: plain("a", false),
    run: (player) => void settle(player, "keep"),
  },
  {
    keys: "Shift A",
    about: "Keep all doubtful words that are left",
    matches: plain("a", true),
    run: keepAll,
  },
  {
    keys: "X",
    about: "Take the doubtful word out",
    matches: plain("x"),
    run: (player) => void settle(player, "out"),
  },
  ...[0, 1, 2].map((index) => ({
    keys: String(index + 1),
    about: `Take what else was heard, number ${index + 1}`,
    matches: plain(String(index + 1)),
    run: (player: Player | null) => void settle(player, index),
  })),
  { keys: "N", about: "Play from here to the next doubt", matches: plain("n"), run: playToDoubt },
  {
    keys: "Ctrl F",
    about: "Find in the captions",
    matches: control("f", false),
    run: () => {
      flushSync(() => {
        goTo("Proof");
        showProofTab("Find");
      });
      document.getElementById("find")?.focus();
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

/** The keys of the Dress stage. */
export const DRESS_KEYS: Key[] = [
  ...[1, 2, 3, 4, 5, 6, 7, 8].map((number) => ({
    keys: String(number),
    about: `Mark the word with accent ${number}`,
    matches: plain(String(number)),
    run: (player: Player | null) => mark(player, number),
  })),
  {
    keys: "0",
    about: "Take the word's mark away",
    matches: plain("0"),
    run: (player) => mark(player, 0),
  },
];

export const TEXT_KEYS = [
  { keys: "Shift ↓", about: "Select on into the next caption" },
  { keys: "Ctrl A", about: "Select the caption; again: all captions" },
  { keys: "Enter", about: "Split the caption at the caret" },
  { keys: "Shift Enter", about: "End the line at the caret, or take that back" },
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

const RUN_IN_US = 1_000_000;
/** Slow enough to tell sounds apart; the browser keeps the pitch. */
const SLOW = 0.6;

/** Play the selected caption from a second before it; looping stays on the caption itself. */
function replay(player: Player | null, loop: boolean): void {
  const { cues, selected } = useProject.getState();
  const cue = cues.find((c) => c.id === selected) ?? cueAt(cues, player?.at ?? 0);
  if (!cue || !player) return;
  if (loop && player.looping) player.toggle();
  else player.playStretch(cue.start_us - (loop ? 0 : RUN_IN_US), cue.end_us, loop);
}

/** Listen on until the caption with the next doubt is over. */
function playToDoubt(player: Player | null): void {
  const next = nextDoubt(useProject.getState().cues, player?.at ?? 0);
  if (next && player) player.playStretch(player.at, next.cue.end_us, false);
}

const CHOICES = new Set(["radio", "checkbox", "range", "color"]);

/** Whether a key press belongs to something that is typed in or chosen from. */
export function isTyping({ target, key }: KeyboardEvent): boolean {
  if (!(target instanceof HTMLElement)) return false;
  if (target instanceof HTMLInputElement && CHOICES.has(target.type)) {
    // Space plays but where it ticks: of several choices the one in focus is chosen already.
    const ticks = key === " " && target.type === "checkbox";
    return ticks || key.startsWith("Arrow") || key === "Home" || key === "End";
  }
  return target.isContentEditable || ["INPUT", "TEXTAREA", "SELECT"].includes(target.tagName);
}
