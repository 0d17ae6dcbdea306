/** Which dropped caption file, and which sound, belongs to which dropped recording. */
const WORDS = /\.(srt|vtt|ass|ssa|txt)$/i;
const SOUND = /\.(wav|mp3|m4a|aac|ogg|oga|opus|flac)$/i;

export interface Pair {
  file: File;
  words: File | undefined;
  /** Sounds that may be this one's, recorded apart. */
  sounds: File[];
}

const stem = (name: string): string => name.replace(/\.[^.]+$/, "").toLowerCase();

/**
 * Pairs by the same name, or one of each; caption files without a recording are lonely. Sounds that
 * come with a single video are brought in with it.
 */
export function paired(files: File[]): { recordings: Pair[]; lonely: File[] } {
  const media = files.filter((file) => !WORDS.test(file.name));
  const videos = media.filter((file) => !SOUND.test(file.name));
  const alone = videos.length === 1;
  const sounds = alone ? media.filter((file) => SOUND.test(file.name)) : [];
  const recordings = alone ? videos : media;
  const left = new Set(files.filter((file) => WORDS.test(file.name)));
  const pairs = recordings.map((file) => {
    const same = [...left].find((words) => stem(words.name).startsWith(stem(file.name)));
    const words = same ?? (recordings.length === 1 && left.size === 1 ? [...left][0] : undefined);
    if (words) left.delete(words);
    return { file, words, sounds };
  });
  return { recordings: pairs, lonely: [...left] };
}
