/** Playing, stepping and going to places. */
import { Pause, StepBack, StepForward } from "lucide-react";
import type { Cue } from "../api/client";
import type { Player } from "../playback/player";
import { STAGES, useStage } from "../stages/stage";
import { cueAt } from "../state/document";
import { select } from "../state/session";
import { useProject } from "../state/store";
import { visibleCues } from "../state/visible";
import { seekWhole } from "../state/whole";
import { stepWord } from "../state/wordSteps";
import type { Action } from "./action";

/** The stages whose Strip shows captions. */
export const ON_CAPTIONS = STAGES.filter((stage) => stage !== "Trim");
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

/** Select the neighbour of the selected (or showing) caption and go to it. */
function walk(player: Player | null, way: 1 | -1): void {
  const cues = visibleCues();
  const { selected } = useProject.getState();
  const here = cues.find((cue) => cue.id === selected) ?? cueAt(cues, player?.at ?? 0);
  goToCue(player, cues[here ? cues.indexOf(here) + way : 0]);
}

/** Select a caption and go to its first word; in Dress to a moment when all of it stands. */
function goToCue(player: Player | null, cue: Cue | undefined): void {
  if (!cue) return;
  select(cue.id);
  const first = cue.words[0]?.start_us ?? cue.start_us;
  if (useStage.getState().stage === "Dress") void seekWhole(player, cue.id, first);
  else player?.seek(first);
}

function goToEnd(player: Player | null, way: 1 | -1): void {
  goToCue(player, visibleCues().at(way > 0 ? -1 : 0));
}

export const PLAYING: Action[] = [
  {
    id: "play",
    name: "Play or pause",
    keys: "Space",
    group: "Playing",
    icon: Pause,
    run: (player) => player?.toggle(),
  },
  {
    id: "back",
    name: "Play backwards, faster each time",
    keys: "J",
    group: "Playing",
    run: (player) => player?.shuttle(-1),
  },
  { id: "stop", name: "Stop", keys: "K", group: "Playing", run: (player) => player?.shuttle(0) },
  {
    id: "forth",
    name: "Play forwards, faster each time",
    keys: "L",
    group: "Playing",
    run: (player) => player?.shuttle(1),
  },
  {
    id: "frame-back",
    name: "One frame back",
    keys: "←",
    group: "Playing",
    icon: StepBack,
    run: (player) => player?.step(-1),
  },
  {
    id: "frame-on",
    name: "One frame on",
    keys: "→",
    group: "Playing",
    icon: StepForward,
    run: (player) => player?.step(1),
  },
  {
    id: "cue-before",
    name: "Caption before",
    keys: "↑",
    where: ON_CAPTIONS,
    group: "Playing",
    run: (player) => walk(player, -1),
  },
  {
    id: "cue-next",
    name: "Next caption",
    keys: "↓",
    where: ON_CAPTIONS,
    group: "Playing",
    run: (player) => walk(player, 1),
  },
  {
    id: "first",
    name: "First caption",
    keys: "Home",
    where: ON_CAPTIONS,
    group: "Playing",
    run: (player) => goToEnd(player, -1),
  },
  {
    id: "last",
    name: "Last caption",
    keys: "End",
    where: ON_CAPTIONS,
    group: "Playing",
    run: (player) => goToEnd(player, 1),
  },
  {
    id: "word-next",
    name: "Next word",
    keys: "W",
    where: ON_CAPTIONS,
    group: "Playing",
    run: (player) => stepWord(player, 1),
  },
  {
    id: "word-before",
    name: "Word before",
    keys: "Shift W",
    where: ON_CAPTIONS,
    group: "Playing",
    run: (player) => stepWord(player, -1),
  },
  {
    id: "go-to-time",
    name: "Go to a time that is typed",
    keys: "T",
    group: "Playing",
    run: () => focusField("time"),
  },
  {
    id: "replay",
    name: "Replay the caption with a run-in",
    keys: "R",
    where: ON_CAPTIONS,
    group: "Playing",
    run: (player) => replay(player, false),
  },
  {
    id: "loop",
    name: "Loop the caption, or stop looping",
    keys: "O",
    where: ON_CAPTIONS,
    group: "Playing",
    run: (player) => replay(player, true),
  },
  {
    id: "loop-slowly",
    name: "Loop the caption slowly, or stop",
    keys: "Shift O",
    where: ON_CAPTIONS,
    group: "Playing",
    run: (player) => {
      const slow = player?.looping ? 1 : SLOW;
      replay(player, true);
      player?.setRate(slow);
    },
  },
  {
    id: "mute",
    name: "Sound off or on",
    keys: "Shift K",
    group: "Playing",
    run: (player) => {
      if (player) player.media.muted = !player.media.muted;
    },
  },
];

/** Put the focus into a field that keys lead to, by its id. */
export function focusField(id: string): void {
  document.getElementById(id)?.focus();
}
