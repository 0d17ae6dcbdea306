/** The keys of the Pace stage. */
import type { Player } from "../playback/player";
import { pick, pickAll } from "../state/picks";
import { cueAt, useProject } from "../state/project";
import { type Key, plain } from "../ui/keys";
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

const FINE_US = 10_000;

/** Keys that move the start of a word, on every stage. */
export const WORD_KEYS: Key[] = [
  {
    keys: "[",
    about: "Light the word up a frame earlier",
    matches: plain("["),
    run: (player) => void nudgeWord(player, -Math.round(frameLength())),
  },
  {
    keys: "]",
    about: "Light the word up a frame later",
    matches: plain("]"),
    run: (player) => void nudgeWord(player, Math.round(frameLength())),
  },
  {
    keys: "Shift [",
    about: "10 ms earlier",
    matches: plain("{"),
    run: (player) => void nudgeWord(player, -FINE_US),
  },
  {
    keys: "Shift ]",
    about: "10 ms later",
    matches: plain("}"),
    run: (player) => void nudgeWord(player, FINE_US),
  },
];

export const PACE_KEYS: Key[] = [
  {
    keys: "S",
    about: "Start the caption at the playhead",
    matches: plain("s", false),
    run: (player) => setEdge("start", player),
  },
  {
    keys: "E",
    about: "End the caption at the playhead",
    matches: plain("e", false),
    run: (player) => setEdge("end", player),
  },
  { keys: "C", about: "Add a caption at the playhead", matches: plain("c", false), run: addNow },
  { keys: "B", about: "Split at the playhead", matches: plain("b", false), run: splitHere },
  {
    keys: "G",
    about: "Join the picked captions, or with the next",
    matches: plain("g", false),
    run: () => join("after"),
  },
  {
    keys: "Shift G",
    about: "Join with the caption before",
    matches: plain("g", true),
    run: () => join("before"),
  },
  {
    keys: ",",
    about: "First word to the caption before",
    matches: plain(","),
    run: () => moveWord("first"),
  },
  {
    keys: ".",
    about: "Last word to the next caption",
    matches: plain("."),
    run: () => moveWord("last"),
  },
  {
    keys: "Shift ←",
    about: "Move the picked captions a frame earlier",
    matches: plain("arrowleft", true),
    run: () => moveFrames(-1),
  },
  {
    keys: "Shift →",
    about: "Move the picked captions a frame later",
    matches: plain("arrowright", true),
    run: () => moveFrames(1),
  },
  {
    keys: "Shift ↑",
    about: "Pick the caption before as well",
    matches: plain("arrowup", true),
    run: (player) => extendPick(player, -1),
  },
  {
    keys: "Shift ↓",
    about: "Pick the next caption as well",
    matches: plain("arrowdown", true),
    run: (player) => extendPick(player, 1),
  },
  {
    keys: "Ctrl A",
    about: "Pick all captions",
    matches: (event) => (event.ctrlKey || event.metaKey) && event.key.toLowerCase() === "a",
    run: pickAll,
  },
  { keys: "U", about: "Let pinned times follow the words", matches: plain("u", false), run: unpin },
  {
    keys: "+",
    about: "Zoom in",
    matches: (event) => "+=".includes(event.key),
    run: () => zoomBy(1.4),
  },
  { keys: "-", about: "Zoom out", matches: plain("-"), run: () => zoomBy(1 / 1.4) },
  {
    keys: "0",
    about: "The whole piece on one screen",
    matches: plain("0"),
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
