/** Which dropped caption file belongs to which dropped recording. */
const WORDS = /\.(srt|vtt|ass|ssa|txt)$/i;

export interface Pair {
  file: File;
  words: File | undefined;
}

const stem = (name: string): string => name.replace(/\.[^.]+$/, "").toLowerCase();

/** Pairs by the same name, or one of each; caption files without a recording are lonely. */
export function paired(files: File[]): { recordings: Pair[]; lonely: File[] } {
  const recordings = files.filter((file) => !WORDS.test(file.name));
  const left = new Set(files.filter((file) => WORDS.test(file.name)));
  const pairs = recordings.map((file) => {
    const same = [...left].find((words) => stem(words.name).startsWith(stem(file.name)));
    const words = same ?? (recordings.length === 1 && left.size === 1 ? [...left][0] : undefined);
    if (words) left.delete(words);
    return { file, words };
  });
  return { recordings: pairs, lonely: [...left] };
}
