/** Captions as records: answers put over what is known, moments looked up. No state of its own. */
import type { Cue, EditAnswer } from "../api/client";
import { lastBy } from "../playback/player";

/** Captions in time order, each once: of two with one number the later one counts. */
export function sorted(cues: readonly Cue[]): Cue[] {
  const unique = new Map(cues.map((cue) => [cue.id, cue]));
  return [...unique.values()].sort((a, b) => a.start_us - b.start_us || a.id - b.id);
}

/** The captions of a piece after an answer; the same array where it does not touch them. */
export function merged(
  cues: Cue[],
  answer: Pick<EditAnswer, "cues" | "gone">,
  pieceId: number,
): Cue[] {
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
