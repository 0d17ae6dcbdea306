/** Captions as records: answers put over what is known, moments looked up. No state of its own. */
import type { Cue, EditAnswer, Word } from "../api/client";
import { lastBy } from "../playback/player";

/** Captions in time order, each once: of two with one number the later one counts. */
export function sorted(cues: readonly Cue[]): Cue[] {
  const unique = new Map(cues.map((cue) => [cue.id, cue]));
  return [...unique.values()].sort((a, b) => a.start_us - b.start_us || a.id - b.id);
}

/** All words of some captions, each with its own. */
export function wordsIn(cues: readonly Cue[]): { cue: Cue; word: Word }[] {
  return cues.flatMap((cue) => cue.words.map((word) => ({ cue, word })));
}

/** Captions where a cut has moved them; the same array where it has moved none. */
export function shifted(cues: Cue[], answer: Pick<EditAnswer, "moved">, pieceId: number): Cue[] {
  const moves = answer.moved.filter((move) => move.piece_id === pieceId);
  if (!moves.length) return cues;
  return cues.map((cue) => {
    const move = moves[lastBy(moves, cue.start_us, (one) => one.from_us)];
    if (!move || cue.start_us >= move.to_us) return cue;
    const by = <T extends { start_us: number; end_us: number }>(one: T): T => ({
      ...one,
      start_us: one.start_us + move.by_us,
      end_us: one.end_us + move.by_us,
    });
    return { ...by(cue), words: cue.words.map(by) };
  });
}

/** The captions of a piece after an answer; the same array where it does not touch them. */
export function merged(
  known: Cue[],
  answer: Pick<EditAnswer, "cues" | "gone" | "moved">,
  pieceId: number,
): Cue[] {
  const cues = shifted(known, answer, pieceId);
  const fresh = answer.cues.filter((cue) => cue.piece_id === pieceId);
  const changed = new Set([...answer.gone, ...fresh.map((cue) => cue.id)]);
  if (!fresh.length && !cues.some((cue) => changed.has(cue.id))) return cues;
  return sorted([...cues.filter((cue) => !changed.has(cue.id)), ...fresh]);
}

/** The captions with those that end after a moment read anew. */
export function withTail(cues: readonly Cue[], fresh: readonly Cue[], fromUs: number): Cue[] {
  return sorted([...cues.filter((cue) => cue.end_us <= fromUs), ...fresh]);
}

/** The caption that shows at a moment, if any. */
export function cueAt(cues: Cue[], atUs: number): Cue | undefined {
  const cue = cues[lastBy(cues, atUs, (one) => one.start_us)];
  return cue && atUs < cue.end_us ? cue : undefined;
}

export function speakerOf(cue: Cue): string | null {
  return cue.words[0]?.speaker ?? null;
}
