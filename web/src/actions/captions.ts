/** What is done to captions and words, on every stage. */
import {
  ArrowDownToLine,
  ArrowUpToLine,
  Combine,
  FoldVertical,
  Library,
  Pin,
  Plus,
  Scissors,
  Trash2,
} from "lucide-react";
import { draftOf, dropDraft } from "../drafts/store";
import { holdTyping } from "../focus/held";
import { lookForChosen } from "../frame/looking";
import {
  addCaption,
  closeGaps,
  frameLength,
  join,
  moveFrames,
  moveWord,
  nudgeWord,
  removePicked,
  setEdge,
  splitHere,
  unpin,
} from "../pace/commands";
import type { Player } from "../playback/player";
import { cueAt } from "../state/document";
import { pick, pickAll } from "../state/picks";
import { useProject } from "../state/store";
import { visibleCues } from "../state/visible";
import { focusCue } from "../strip/focus";
import { textOf } from "../strip/passage";
import { say } from "../ui/notice";
import type { Action } from "./action";
import { focusField, ON_CAPTIONS } from "./playing";

const FINE_US = 10_000;

function extendPick(player: Player | null, way: 1 | -1): void {
  const cues = visibleCues();
  const { selected } = useProject.getState();
  const here = cues.find((cue) => cue.id === selected) ?? cueAt(cues, player?.at ?? 0);
  const next = here && cues[cues.indexOf(here) + way];
  if (next) pick(next.id, "range");
}

/** Type in the selected caption, else in the one that shows. */
function type(player: Player | null): void {
  const { selected } = useProject.getState();
  const cues = visibleCues();
  const cue = cues.find((one) => one.id === selected) ?? cueAt(cues, player?.at ?? 0) ?? cues[0];
  if (cue) void holdTyping(() => focusCue(cue.id, 0, textOf(cue).length));
}

/** A draft that was left is dropped; else only the selected caption stays picked. */
function letGo(): void {
  const { selected } = useProject.getState();
  if (selected === null) return;
  const draft = draftOf(selected);
  if (draft) {
    dropDraft(selected);
    say(`Dropped what was typed: “${draft.text}”`);
  } else pick(selected);
}

const ACTIONS: Action[] = [
  {
    id: "type",
    name: "Type in the selected caption",
    keys: "Enter",
    also: ["F2"],
    group: "Captions",
    run: type,
  },
  {
    id: "let-go",
    name: "Drop what was typed and not taken; select one caption",
    keys: "Esc",
    group: "Captions",
    run: letGo,
  },
  {
    id: "add",
    name: "Add a caption at the playhead",
    keys: "C",
    group: "Captions",
    icon: Plus,
    run: (player) => void addCaption(player),
  },
  {
    id: "split",
    name: "Split at the playhead",
    keys: "B",
    group: "Captions",
    icon: Scissors,
    run: splitHere,
  },
  {
    id: "join",
    name: "Join the selected captions, or with the next",
    keys: "G",
    group: "Captions",
    icon: Combine,
    run: () => join("after"),
  },
  {
    id: "join-before",
    name: "Join with the caption before",
    keys: "Shift G",
    group: "Captions",
    run: () => join("before"),
  },
  {
    id: "first-word",
    name: "First word to the caption before",
    keys: ",",
    group: "Captions",
    icon: ArrowUpToLine,
    run: () => moveWord("first"),
  },
  {
    id: "last-word",
    name: "Last word to the next caption",
    keys: ".",
    group: "Captions",
    icon: ArrowDownToLine,
    run: () => moveWord("last"),
  },
  {
    id: "close-gaps",
    name: "Let each of these stay until the next one comes",
    keys: "H",
    group: "Captions",
    icon: FoldVertical,
    run: closeGaps,
  },
  {
    id: "delete",
    name: "Delete the selected captions",
    keys: "Delete",
    group: "Captions",
    icon: Trash2,
    run: () => void removePicked(),
  },
  {
    id: "start-here",
    name: "Start the caption at the playhead",
    keys: "S",
    group: "Captions",
    run: (player) => setEdge("start", player),
  },
  {
    id: "end-here",
    name: "End the caption at the playhead",
    keys: "E",
    group: "Captions",
    run: (player) => setEdge("end", player),
  },
  {
    id: "type-start",
    name: "Type the caption's start",
    keys: "Shift S",
    group: "Captions",
    run: () => focusField("cue-start"),
  },
  {
    id: "type-end",
    name: "Type the caption's end",
    keys: "Shift E",
    group: "Captions",
    run: () => focusField("cue-end"),
  },
  {
    id: "earlier",
    name: "Move the selected captions a frame earlier",
    keys: "Shift ←",
    group: "Captions",
    run: () => moveFrames(-1),
  },
  {
    id: "later",
    name: "Move the selected captions a frame later",
    keys: "Shift →",
    group: "Captions",
    run: () => moveFrames(1),
  },
  {
    id: "look-in-libraries",
    name: "Look in the libraries for something to be seen over them",
    group: "Captions",
    keys: "Shift L",
    where: ON_CAPTIONS,
    icon: Library,
    run: (player) => lookForChosen(player?.at ?? 0),
  },
  {
    id: "pick-before",
    name: "Select the caption before as well",
    keys: "Shift ↑",
    group: "Captions",
    run: (player) => extendPick(player, -1),
  },
  {
    id: "pick-next",
    name: "Select the next caption as well",
    keys: "Shift ↓",
    group: "Captions",
    run: (player) => extendPick(player, 1),
  },
  {
    id: "pick-all",
    name: "Select all captions that are shown",
    keys: "Ctrl A",
    group: "Captions",
    run: pickAll,
  },
  {
    id: "unpin",
    name: "Let pinned times follow the words",
    keys: "U",
    group: "Captions",
    icon: Pin,
    run: unpin,
  },
  {
    id: "word-earlier",
    name: "Light the word up a frame earlier",
    keys: "[",
    group: "Words",
    run: (player) => void nudgeWord(player, -Math.round(frameLength())),
  },
  {
    id: "word-later",
    name: "Light the word up a frame later",
    keys: "]",
    group: "Words",
    run: (player) => void nudgeWord(player, Math.round(frameLength())),
  },
  {
    id: "word-bit-earlier",
    name: "10 ms earlier",
    keys: "{",
    group: "Words",
    run: (player) => void nudgeWord(player, -FINE_US),
  },
  {
    id: "word-bit-later",
    name: "10 ms later",
    keys: "}",
    group: "Words",
    run: (player) => void nudgeWord(player, FINE_US),
  },
];

/** The talk is trimmed by its words: captions are not on the page then. */
export const CAPTIONS: Action[] = ACTIONS.map((one) => ({ ...one, where: ON_CAPTIONS }));
