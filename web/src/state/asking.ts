/** Asking what a word may be while it is listened to: the sound waits, and goes on once the word is settled. */
import type { Cue } from "../api/client";
import type { Player } from "../playback/player";
import { wordsIn } from "./document";
import { goOnWithRun, holdRun, listeningThrough } from "./doubtRun";
import { type Doubt, settle, showDoubt, type Verdict } from "./doubts";
import { whenProjectEnds } from "./projectSession";
import { wordSaid } from "./session";
import { useProject } from "./store";

/** Whoever hears a word that is wrong presses the key so much later. */
const REACTION_US = 300_000;

interface Asked {
  id: number;
  /** How often somebody had gone to a moment or begun to play when it was asked. */
  moves: number;
  goOn: (() => void) | null;
}

let asked: Asked | null = null;
whenProjectEnds(() => {
  asked = null;
});

/** Ask about the word being said; again, about the word before it. */
export function ask(player: Player | null): void {
  if (!player) return;
  const { cues, doubt } = useProject.getState();
  const again = asked && asked.id === doubt && isStill(player, asked) ? asked : null;
  const late = player.playing ? REACTION_US : 0;
  const here = again ? wordBefore(cues, again.id) : wordSaid(Math.max(0, player.at - late));
  if (!here) return;
  const goOn = again ? again.goOn : pause(player);
  showDoubt(here);
  asked = { id: here.word.id, moves: player.moves, goOn };
}

/** Whether it rests where it was stopped: the last frames may come to the screen any time after that. */
function isStill(player: Player, { moves }: Asked): boolean {
  return !player.playing && player.moves === moves;
}

/** Stop the sound; what lets it go on, if it was heard. */
function pause(player: Player): (() => void) | null {
  if (listeningThrough()) {
    holdRun();
    return goOnWithRun;
  }
  if (!player.playing) return null;
  player.media.pause();
  return () => player.toggle();
}

/** Settle the word that is looked at; what waited for that goes on. */
export async function decide(player: Player | null, verdict: Verdict): Promise<void> {
  const { doubt } = useProject.getState();
  const waiting = asked?.id === doubt ? asked : null;
  const goesOn = listeningThrough() || waiting?.goOn;
  if (!(await settle(player, verdict, !goesOn)) || asked !== waiting) return;
  asked = null;
  waiting?.goOn?.();
}

/** The word before another one, also in the caption before. */
export function wordBefore(cues: readonly Cue[], id: number): Doubt | undefined {
  const words = wordsIn(cues);
  return words[words.findIndex(({ word }) => word.id === id) - 1];
}
