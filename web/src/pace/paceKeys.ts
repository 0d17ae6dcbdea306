/** The keys of the Pace stage. */
import type { Player } from "../playback/player";
import { pick, pickAll } from "../state/picks";
import { cueAt, useProject } from "../state/project";
import type { Key } from "../ui/keys";
import {
  addCaption,
  frameLength,
  join,
  moveFrames,
  moveWord,
  nudgeWord,
  setEdge,
  splitHere,
  unpin,
} from "./commands";
import { useZoom, zoomBy, zoomTo } from "./zoom";

const key = (name: string, shift?: boolean) => (event: KeyboardEvent) =>
  event.key.toLowerCase() === name &&
  !event.ctrlKey &&
  !event.metaKey &&
  !event.altKey &&
  (shift === undefined || event.shiftKey === shift);

const FINE_US = 10_000;

/** Keys that move the start of a word, on every stage. */
export const WORD_KEYS: Key[] = [
  {
    keys: "[",
    about: "Light the word up a frame earlier",
    matches: key("["),
    run: (player) => void nudgeWord(player, -Math.round(frameLength())),
  },
  {
    keys: "]",
    about: "Light the word up a frame later",
    matches: key("]"),
    run: (player) => void nudgeWord(player, Math.round(frameLength())),
  },
  {
    keys: "Shift [",
    about: "10 ms earlier",
    matches: key("{"),
    run: (player) => void nudgeWord(player, -FINE_US),
  },
  {
    keys: "Shift ]",
    about: "10 ms later",
    matches: key("}"),
    run: (player) => void nudgeWord(player, FINE_US),
  },
];

export const PACE_KEYS: Key[] = [
  {
    keys: "S",
    about: "Start the caption at the playhead",
    matches: key("s", false),
    run: (player) => setEdge("start", player),
  },
  {
    keys: "E",
    about: "End the caption at the playhead",
    matches: key("e", false),
    run: (player) => setEdge("end", player),
  },
  { keys: "C", about: "Add a caption at the playhead", matches: key("c", false), run: addNow },
  { keys: "B", about: "Split at the playhead", matches: key("b", false), run: splitHere },
  {
    keys: "G",
    about: "Join the picked captions, or with the next",
    matches: key("g", false),
    run: () => join("after"),
  },
  {
    keys: "Shift G",
    about: "Join with the caption before",
    matches: key("g", true),
    run: () => join("before"),
  },
  {
    keys: ",",
    about: "First word to the caption before",
    matches: key(","),
    run: () => moveWord("first"),
  },
  {
    keys: ".",
    about: "Last word to the next caption",
    matches: key("."),
    run: () => moveWord("last"),
  },
  {
    keys: "Shift ←",
    about: "Move the picked captions a frame earlier",
    matches: key("arrowleft", true),
    run: () => moveFrames(-1),
  },
  {
    keys: "Shift →",
    about: "Move the picked captions a frame later",
    matches: key("arrowright", true),
    run: () => moveFrames(1),
  },
  {
    keys: "Shift ↑",
    about: "Pick the caption before as well",
    matches: key("arrowup", true),
    run: (player) => extendPick(player, -1),
  },
  {
    keys: "Shift ↓",
    about: "Pick the next caption as well",
    matches: key("arrowdown", true),
    run: (player) => extendPick(player, 1),
  },
  {
    keys: "Ctrl A",
    about: "Pick all captions",
    matches: (event) => (event.ctrlKey || event.metaKey) && event.key.toLowerCase() === "a",
    run: pickAll,
  },
  { keys: "U", about: "Let pinned times follow the words", matches: key("u", false), run: unpin },
  {
    keys: "+",
    about: "Zoom in",
    matches: (event) => "+=".includes(event.key),
    run: () => zoomBy(1.4),
  },
  { keys: "-", about: "Zoom out", matches: key("-"), run: () => zoomBy(1 / 1.4) },
  {
    keys: "0",
    about: "The whole piece on one screen",
    matches: key("0"),
    run: () => zoomTo(useZoom.getState().range[0]),
  },
];

function addNow(player: Player | null): void {
  void addCaption(player);
}

function extendPick(player: Player | null, way: 1 | -1): void {
  const { cues, selected } = useProject.getState();
  const here = cues.find((cue) => cue.id === selected) ?? cueAt(cues, player?.at ?? 0);
  const next = here && cues[cues.indexOf(here) + way];
  if (next) pick(next.id, "range");
}
