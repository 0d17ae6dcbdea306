/** Pictures of emoji, fetched once a size for all scenes. */
import type { SceneCue } from "../api/client";

type Stamp = SceneCue["stamps"][number];

/** Sizes change while something is dragged: the oldest pictures go. */
const MOST = 200;

const pictures = new Map<string, ImageBitmap>();
const coming = new Map<string, Promise<void>>();

export function stampUrl(emoji: string, side: number): string {
  const code = [...emoji].map((ch) => ch.codePointAt(0)?.toString(16)).join("-");
  return `/api/emoji/${code}/${Math.round(side)}.png`;
}

/** The picture of a stamp, where it is there. */
export function stamp(one: Stamp): ImageBitmap | null {
  return pictures.get(stampUrl(one.emoji, one.side)) ?? null;
}

export async function loadStamps(stamps: readonly Stamp[]): Promise<void> {
  await Promise.all([...new Set(stamps.map((one) => stampUrl(one.emoji, one.side)))].map(load));
}

function load(url: string): Promise<void> {
  const known = coming.get(url);
  if (known) return known;
  const work = fetch(url)
    .then((answer) => (answer.ok ? answer.blob() : Promise.reject(new Error(answer.statusText))))
    .then(createImageBitmap)
    .then((picture) => {
      pictures.set(url, picture);
      for (const old of [...pictures.keys()].slice(0, Math.max(0, pictures.size - MOST))) {
        pictures.delete(old);
        coming.delete(old);
      }
    })
    // A picture that did not come is asked for again with the next scene.
    .catch(() => void coming.delete(url));
  coming.set(url, work);
  return work;
}
