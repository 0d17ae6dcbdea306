/** What is done while the talk is trimmed. */
import { ClipboardPaste, Copy, FilePlus2, Scissors, Strikethrough } from "lucide-react";
import { frameLength } from "../pace/commands";
import { copyPassage, cutPassage, putPassage } from "../trim/clipboard";
import {
  lookNext,
  makePiece,
  nudgeCut,
  playAcross,
  select,
  strike,
  takeLooked,
  takeOut,
  walkTalk,
} from "../trim/commands";
import { listed, useTrim } from "../trim/store";
import { say } from "../ui/notice";
import type { Action } from "./action";

const HERE = ["Trim"] as const;

type Side = "end" | "start";

const EDGES: readonly [string, string, string, Side, "frame" | "back"][] = [
  ["cut-stops-earlier", "The cut stops a frame earlier", "[", "end", "back"],
  ["cut-stops-later", "The cut stops a frame later", "]", "end", "frame"],
  ["cut-goes-on-earlier", "It goes on a frame earlier", "{", "start", "back"],
  ["cut-goes-on-later", "It goes on a frame later", "}", "start", "frame"],
];
const FINE: readonly [string, string, string, Side, number][] = [
  ["cut-stops-bit-earlier", "Stops 10 ms earlier", ",", "end", -10_000],
  ["cut-stops-bit-later", "Stops 10 ms later", ".", "end", 10_000],
  ["cut-goes-on-bit-earlier", "Goes on 10 ms earlier", "<", "start", -10_000],
  ["cut-goes-on-bit-later", "Goes on 10 ms later", ">", "start", 10_000],
];

export const TRIM: Action[] = [
  {
    id: "strike",
    name: "Strike what is selected, or bring it back",
    keys: "Delete",
    also: ["Backspace"],
    where: HERE,
    group: "Trim",
    icon: Strikethrough,
    run: (player) => void strike(player),
  },
  {
    id: "talk-next",
    name: "Next word of the talk",
    keys: "W",
    where: HERE,
    group: "Trim",
    run: (player) => walkTalk(player, 1, false, false),
  },
  {
    id: "talk-before",
    name: "Word before",
    keys: "Shift W",
    where: HERE,
    group: "Trim",
    run: (player) => walkTalk(player, -1, false, false),
  },
  {
    id: "talk-row-next",
    name: "Next sentence",
    keys: "↓",
    where: HERE,
    group: "Trim",
    run: (player) => walkTalk(player, 1, true, false),
  },
  {
    id: "talk-row-before",
    name: "Sentence before",
    keys: "↑",
    where: HERE,
    group: "Trim",
    run: (player) => walkTalk(player, -1, true, false),
  },
  {
    id: "talk-extend",
    name: "Select the next word as well",
    keys: "Shift →",
    where: HERE,
    group: "Trim",
    run: (player) => walkTalk(player, 1, false, true),
  },
  {
    id: "talk-extend-back",
    name: "Select the word before as well",
    keys: "Shift ←",
    where: HERE,
    group: "Trim",
    run: (player) => walkTalk(player, -1, false, true),
  },
  {
    id: "talk-extend-row",
    name: "Select down to the next sentence",
    keys: "Shift ↓",
    where: HERE,
    group: "Trim",
    run: (player) => walkTalk(player, 1, true, true),
  },
  {
    id: "talk-extend-row-back",
    name: "Select up to the sentence before",
    keys: "Shift ↑",
    where: HERE,
    group: "Trim",
    run: (player) => walkTalk(player, -1, true, true),
  },
  {
    id: "talk-all",
    name: "Select the whole talk",
    keys: "Ctrl A",
    where: HERE,
    group: "Trim",
    run: () => {
      const { items } = useTrim.getState();
      const [first, last] = [items[0], items.at(-1)];
      if (first && last) select({ anchor: first.key, focus: last.key });
    },
  },
  {
    id: "talk-none",
    name: "Select nothing",
    keys: "Esc",
    where: HERE,
    group: "Trim",
    run: () => select(null),
  },
  {
    id: "copy-passage",
    name: "Copy the passage",
    keys: "Ctrl C",
    where: HERE,
    group: "Trim",
    icon: Copy,
    run: () => {
      if (copyPassage()) say("Copied. Select a word and press Ctrl V to put it behind that.");
    },
  },
  {
    id: "cut-passage",
    name: "Cut the passage, to put it somewhere else",
    keys: "Ctrl X",
    where: HERE,
    group: "Trim",
    icon: Scissors,
    run: (player) => void cutPassage(player),
  },
  {
    id: "put-passage",
    name: "Put the passage behind what is selected",
    keys: "Ctrl V",
    where: HERE,
    group: "Trim",
    icon: ClipboardPaste,
    run: (player) => void putPassage(player),
  },
  {
    id: "make-piece",
    name: "Make a piece of what is selected",
    keys: "M",
    where: HERE,
    group: "Trim",
    icon: FilePlus2,
    run: () => void makePiece(),
  },
  {
    id: "play-across",
    name: "Play over what is selected, a second on each side",
    keys: "P",
    where: HERE,
    group: "Trim",
    run: playAcross,
  },
  ...EDGES.map(
    ([id, name, keys, side, by]): Action => ({
      id,
      name,
      keys,
      where: HERE,
      group: "Trim",
      run: () => nudgeCut(side, by === "frame" ? frameLength() : -frameLength()),
    }),
  ),
  ...FINE.map(
    ([id, name, keys, side, byUs]): Action => ({
      id,
      name,
      keys,
      where: HERE,
      group: "Trim",
      run: () => nudgeCut(side, byUs),
    }),
  ),
  {
    id: "look-next",
    name: "Hear the next thing that can go",
    keys: "D",
    where: HERE,
    group: "Trim",
    run: lookNext,
  },
  {
    id: "take-looked",
    name: "Take it out",
    keys: "X",
    where: HERE,
    group: "Trim",
    run: (player) => void takeLooked(player),
  },
  {
    id: "take-all",
    name: "Take out all that is listed",
    keys: "Shift X",
    where: HERE,
    group: "Trim",
    run: () => void takeOut(listed(useTrim.getState())),
  },
];
