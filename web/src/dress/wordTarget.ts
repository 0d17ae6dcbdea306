/** The settings of the word at the playhead alone, over those of its accent. */
import type { Cue, Piece, Word } from "../api/client";
import type { Player } from "../playback/player";
import { wordAt } from "../state/session";
import { useLiveWord } from "./liveWord";
import { type Changes, inside, make, type Target } from "./scope";

export interface WordTarget extends Target {
  word: Word;
  cue: Cue;
}

export function useWordTarget(piece: Piece, player: Player | null): WordTarget | null {
  const live = useLiveWord(player);
  const here = wordAt(player?.at ?? 0);
  if (!live || !here) return null;
  const { cue, word } = here;
  const { accents } = piece.finish;
  const accent = accents[Math.min(word.accent, accents.length) - 1];
  const owned = (path: string) =>
    Object.keys(word.own).filter((one) => one === path || one.startsWith(`${path}.`));
  // What is null is taken back, and so is all that it is made of.
  const change = (changes: Changes, dragged?: boolean) => {
    const back = Object.keys(changes).filter((path) => changes[path] === null);
    const gone = Object.fromEntries(back.flatMap(owned).map((path) => [path, null]));
    const all = { ...changes, ...gone };
    if (Object.keys(all).length) {
      make({ kind: "dress_words", cue_ids: [cue.id], word_ids: [word.id], changes: all }, dragged);
    }
  };
  return {
    word,
    cue,
    value: (path) => word.own[path] ?? inside(accent, path.split(".")) ?? undefined,
    set: change,
    own: (path) => owned(path).length > 0,
    back: (...paths) => change(Object.fromEntries(paths.flatMap(owned).map((one) => [one, null]))),
    given: (path) => inside(accent, [path]) != null,
  };
}
