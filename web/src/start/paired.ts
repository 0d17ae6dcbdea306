/** Which dropped caption file, cover and sound belong to which dropped recording. */
const WORDS = /\.(srt|vtt|ass|ssa|ttml|xml|txt)$/i;
const COVER = /\.(png|jpe?g|webp|svg)$/i;
const SOUND = /\.(wav|mp3|m4a|aac|ogg|oga|opus|flac)$/i;

export interface Pair {
  file: File;
  words: File | undefined;
  /** Sounds that may be this one's, recorded apart. */
  sounds: File[];
  /** The picture that a sound is shown beside. */
  cover: File | undefined;
}

const stem = (name: string): string => name.replace(/\.[^.]+$/, "").toLowerCase();

/**
 * Pairs by the same name, or one of each; caption files without a recording are lonely. Sounds that
 * come with a single video are brought in with it. A picture is the cover of the sound of its name, or
 * of all sounds that come without one.
 */
export function paired(files: File[]): { recordings: Pair[]; lonely: File[] } {
  const media = files.filter((file) => !WORDS.test(file.name) && !COVER.test(file.name));
  const videos = media.filter((file) => !SOUND.test(file.name));
  const alone = videos.length === 1;
  const sounds = alone ? media.filter((file) => SOUND.test(file.name)) : [];
  const recordings = alone ? videos : media;
  const covers = files.filter((file) => COVER.test(file.name));
  const used = new Set<File>();
  const coverOf = (file: File): File | undefined => {
    const named = covers.find((one) => stem(one.name) === stem(file.name));
    const found = SOUND.test(file.name)
      ? (named ?? (covers.length === 1 ? covers[0] : undefined))
      : undefined;
    if (found) used.add(found);
    return found;
  };
  const left = new Set(files.filter((file) => WORDS.test(file.name)));
  const pairs = recordings.map((file) => {
    const same = [...left].find((words) => stem(words.name).startsWith(stem(file.name)));
    const words = same ?? (recordings.length === 1 && left.size === 1 ? [...left][0] : undefined);
    if (words) left.delete(words);
    return { file, words, sounds, cover: coverOf(file) };
  });
  return { recordings: pairs, lonely: [...left, ...covers.filter((one) => !used.has(one))] };
}
