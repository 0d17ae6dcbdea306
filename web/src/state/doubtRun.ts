/** Listening through all doubts: what nobody objects to while it plays is kept. */
import { create } from "zustand";
import type { Player } from "../playback/player";
import { say } from "../ui/notice";
import { allDoubts, askedWord, type Doubt, keepAll, showDoubt } from "./doubts";
import { whenProjectEnds } from "./projectSession";
import { useProject } from "./store";

const BEFORE_US = 700_000;
const BEHIND_US = 900_000;
/** Doubts nearer than this are played as one. */
const TOGETHER_US = 1_200_000;
const BREATH_MS = 250;
/** So near to the end of a stretch it is over. */
const END_US = 60_000;

export interface Stretch {
  fromUs: number;
  toUs: number;
}

/** Whether a run is under way, and how many of how many doubts have been played. */
export const useDoubtRun = create<{ heard: number; of: number } | { heard: null; of: 0 }>(() => ({
  heard: null,
  of: 0,
}));

/** What is played for some words in doubt, in time order: each with room around it, near ones as one. */
export function stretchesOf(words: readonly { start_us: number; end_us: number }[]): Stretch[] {
  const found: Stretch[] = [];
  for (const word of words) {
    const last = found.at(-1);
    if (last && word.start_us - (last.toUs - BEHIND_US) < TOGETHER_US) {
      last.toUs = Math.max(last.toUs, word.end_us + BEHIND_US);
    } else {
      found.push({
        fromUs: Math.max(0, word.start_us - BEFORE_US),
        toUs: word.end_us + BEHIND_US,
      });
    }
  }
  return found;
}

/** The doubt that was said last at a moment. */
export function saidLast(doubts: readonly Doubt[], atUs: number): Doubt | undefined {
  return doubts.findLast(({ word }) => word.start_us <= atUs + 50_000);
}

let run: { end: () => void; hold: () => void; goOn: () => void } | null = null;

whenProjectEnds(() => run?.end());

/** Let the run wait, while something is written. */
export const holdRun = (): void => run?.hold();

/** Let the run go on where it waited. */
export const goOnWithRun = (): void => run?.goOn();

/** Begin to listen through all doubts; again, to stop. */
export function listenThrough(player: Player | null): void {
  if (run) {
    run.end();
    player?.media.pause();
    return;
  }
  const doubts = allDoubts(useProject.getState().cues);
  if (!player || !doubts.length) return;
  const stretches = stretchesOf(doubts.map(({ word }) => word));
  const over = new AbortController();
  let number = -1;
  let timer = 0;
  let held = false;
  const end = () => {
    over.abort();
    window.clearTimeout(timer);
    unlisten();
    run = null;
    useDoubtRun.setState({ heard: null, of: 0 });
  };
  const hold = () => {
    held = true;
    window.clearTimeout(timer);
    player.media.pause();
  };
  const goOn = () => {
    if (!held) return;
    held = false;
    const stretch = stretches[number];
    if (stretch && player.at < stretch.toUs - END_US) {
      player.playStretch(player.at, stretch.toUs, false);
    } else next();
  };
  const next = () => {
    number += 1;
    const stretch = stretches[number];
    if (!stretch) {
      end();
      keepAll();
      say("All doubts were played. What was left as it is, is kept.");
      return;
    }
    player.playStretch(stretch.fromUs, stretch.toUs, false);
  };
  const unlisten = player.listen((at) => {
    const stretch = stretches[number];
    if (!stretch || !player.playing || at < stretch.fromUs) return;
    const here = saidLast(doubts, at);
    if (here && here.word.start_us >= stretch.fromUs) {
      useDoubtRun.setState({ heard: doubts.indexOf(here) + 1, of: doubts.length });
      // One that was settled while it was heard is not shown again.
      const now = askedWord(useProject.getState().cues, here.word.id);
      if (now?.word.doubt && useProject.getState().doubt !== now.word.id) showDoubt(now);
    }
  });
  // A stretch that has ended is followed by the next one; anything else that stops the sound ends the run.
  const paused = () => {
    // The event may come after the sound was begun again.
    if (held || !player.media.paused) return;
    const stretch = stretches[number];
    const ended = stretch !== undefined && player.at >= stretch.toUs - END_US;
    const last = number === stretches.length - 1 && player.media.ended;
    if (ended || last) timer = window.setTimeout(next, BREATH_MS);
    else end();
  };
  player.media.addEventListener("pause", paused, { signal: over.signal });
  run = { end, hold, goOn };
  useDoubtRun.setState({ heard: 0, of: doubts.length });
  next();
}

export const listeningThrough = (): boolean => run !== null;
