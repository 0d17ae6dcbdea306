/** Going from word to word, over the captions that are shown. */
import type { Player } from "../playback/player";
import { wordsIn } from "./document";
import { wordAt } from "./session";
import { useProject } from "./store";
import { visibleCues } from "./visible";

export function stepWord(player: Player | null, way: 1 | -1): void {
  const words = wordsIn(visibleCues());
  const here = wordAt(player?.at ?? 0);
  const at = words.findIndex(({ word }) => word.id === here?.word.id);
  const next = words[at < 0 ? 0 : at + way];
  if (!next) return;
  const { cue, word } = next;
  useProject.setState({
    selected: cue.id,
    anchor: cue.id,
    picked: new Set([cue.id]),
    word: word.id,
  });
  player?.seek(word.start_us);
}
