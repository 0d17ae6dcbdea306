/** What belongs to one stage, or to the page as a whole. */
import { Copy, Headphones, Keyboard, Redo2, Undo2 } from "lucide-react";
import { flushSync } from "react-dom";
import { copyPost } from "../deliver/post";
import { useZoom, zoomBy, zoomTo } from "../pace/zoom";
import type { Player } from "../playback/player";
import { goTo, STAGES, showProofTab, useStage } from "../stages/stage";
import { ask, decide } from "../state/asking";
import { step } from "../state/commands";
import { listenThrough } from "../state/doubtRun";
import { keepAll, nextDoubt, OTHERS, visitNext } from "../state/doubts";
import { mark, markEverywhere } from "../state/marks";
import { useProject } from "../state/store";
import { walkPieces } from "../trim/commands";
import type { Action } from "./action";
import { showKeys } from "./sheet";

/** Listen on until the caption with the next doubt is over. */
function playToDoubt(player: Player | null): void {
  const next = nextDoubt(useProject.getState().cues, player?.at ?? 0);
  if (next && player) player.playStretch(player.at, next.cue.end_us, false);
}

function find(): void {
  flushSync(() => {
    goTo("Proof");
    showProofTab("Find");
  });
  document.getElementById("find")?.focus();
}

function askHere(player: Player | null): void {
  showProofTab("Doubts");
  ask(player);
}

function writeOther(): void {
  document.querySelector<HTMLElement>("[data-doubt-other]")?.focus();
}

export const DOUBTS: Action[] = [
  {
    id: "doubt",
    name: "Play the next doubt",
    keys: "D",
    where: ["Proof"],
    group: "Doubts",
    run: visitNext,
  },
  {
    id: "doubts-through",
    name: "Listen through all doubts, or stop",
    keys: "Shift D",
    where: ["Proof"],
    group: "Doubts",
    icon: Headphones,
    run: listenThrough,
  },
  {
    id: "doubt-anywhere",
    name: "Go to the next doubt, also while typing",
    keys: "F8",
    typing: true,
    group: "Doubts",
    run: (player) => {
      goTo("Proof");
      showProofTab("Doubts");
      visitNext(player);
    },
  },
  {
    id: "doubt-keep",
    name: "Keep the word as it is",
    keys: "A",
    where: ["Proof"],
    group: "Doubts",
    run: (player) => void decide(player, "keep"),
  },
  {
    id: "doubt-keep-all",
    name: "Keep all doubtful words that are left",
    keys: "Shift A",
    where: ["Proof"],
    group: "Doubts",
    run: keepAll,
  },
  {
    id: "doubt-out",
    name: "Take the word out",
    keys: "X",
    where: ["Proof"],
    group: "Doubts",
    run: (player) => void decide(player, "out"),
  },
  {
    id: "ask",
    name: "Ask what the word being said may be; again: the word before it",
    keys: "Q",
    where: ["Proof"],
    group: "Doubts",
    run: askHere,
  },
  ...OTHERS.map(
    (number): Action => ({
      id: `doubt-other-${number}`,
      name: `Take what else it may be, number ${number}`,
      keys: String(number),
      where: ["Proof"],
      group: "Doubts",
      run: (player) => void decide(player, number - 1),
    }),
  ),
  {
    id: "doubt-write",
    name: "Write something else for the word",
    keys: "7",
    where: ["Proof"],
    group: "Doubts",
    run: writeOther,
  },
  {
    id: "doubt-play-on",
    name: "Play from here to the next doubt",
    keys: "N",
    where: ["Proof"],
    group: "Doubts",
    run: playToDoubt,
  },
];

export const PACE: Action[] = [
  {
    id: "zoom-in",
    name: "Zoom in",
    keys: "+",
    also: ["="],
    where: ["Pace"],
    group: "Pace",
    run: () => zoomBy(1.4),
  },
  {
    id: "zoom-out",
    name: "Zoom out",
    keys: "-",
    where: ["Pace"],
    group: "Pace",
    run: () => zoomBy(1 / 1.4),
  },
  {
    id: "zoom-all",
    name: "The whole piece on one screen",
    keys: "0",
    where: ["Pace"],
    group: "Pace",
    run: () => zoomTo(useZoom.getState().range[0]),
  },
];

const DRESSED = ["Dress"] as const;

export const DELIVER: Action[] = [
  {
    id: "copy-post",
    name: "Copy the text for the post",
    keys: "Shift C",
    where: ["Deliver"],
    group: "Deliver",
    icon: Copy,
    run: copyPost,
  },
];

export const DRESS: Action[] = [
  ...[1, 2, 3, 4, 5, 6, 7, 8].map(
    (number): Action => ({
      id: `mark-${number}`,
      name: `Mark the word with accent ${number}`,
      keys: String(number),
      where: DRESSED,
      group: "Dress",
      run: (player) => mark(player, number),
    }),
  ),
  {
    id: "mark-everywhere",
    name: "Mark the word like this everywhere it occurs",
    keys: "M",
    where: DRESSED,
    group: "Dress",
    run: (player) => void markEverywhere(player),
  },
  {
    id: "unmark",
    name: "Take the word's mark away",
    keys: "0",
    where: DRESSED,
    group: "Dress",
    run: (player) => mark(player, 0),
  },
];

export const PAGE: Action[] = [
  {
    id: "undo",
    name: "Undo",
    keys: "Ctrl Z",
    group: "Page",
    icon: Undo2,
    run: () => void step("undo"),
  },
  {
    id: "redo",
    name: "Redo",
    keys: "Ctrl Shift Z",
    also: ["Ctrl Y"],
    group: "Page",
    icon: Redo2,
    run: () => void step("redo"),
  },
  {
    id: "find",
    name: "Find in the captions",
    keys: "Ctrl F",
    typing: true,
    group: "Page",
    run: find,
  },
  ...STAGES.map(
    (stage, index): Action => ({
      id: `stage-${stage}`,
      name: stage,
      keys: `Shift ${index + 1}`,
      group: "Page",
      run: () => goTo(stage),
    }),
  ),
  {
    id: "piece-next",
    name: "Next piece",
    keys: "V",
    group: "Page",
    run: () => walkPieces(1),
  },
  {
    id: "piece-before",
    name: "Piece before",
    keys: "Shift V",
    group: "Page",
    run: () => walkPieces(-1),
  },
  {
    id: "tray",
    name: "Go to the Tray, or show it",
    keys: "Y",
    group: "Page",
    run: () => {
      useStage.setState({ trayOpen: true });
      requestAnimationFrame(() => document.getElementById("tray")?.focus());
    },
  },
  { id: "keys", name: "All keys", keys: "?", group: "Page", icon: Keyboard, run: showKeys },
];
