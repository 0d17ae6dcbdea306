/** Where the words' texts stand under the sound: in the upper row, or lower where they would touch. */
const LETTER_PX = 7.6;
const APART_PX = 10;

/** For each word (its place as a share of the width) 0 for the upper row, 1 for the lower. */
export function labelRows(words: { at: number; text: string }[], width: number): (0 | 1)[] {
  const ends = [Number.NEGATIVE_INFINITY, Number.NEGATIVE_INFINITY];
  return words.map(({ at, text }) => {
    const left = at * width;
    const upper = ends[0] as number;
    const row = left >= upper || upper - left < (ends[1] as number) - left ? 0 : 1;
    ends[row] = left + text.length * LETTER_PX + APART_PX;
    return row;
  });
}
