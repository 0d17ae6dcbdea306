/** Pictures of emoji and of the user's own, fetched once a size for all scenes. */
import type { SceneCue } from "../api/client";

type Stamp = SceneCue["stamps"][number];
type Picture = SceneCue["pictures"][number];

/** Sizes change while something is dragged: the oldest pictures go. */
const MOST = 200;

const pictures = new Map<string, ImageBitmap>();
const coming = new Map<string, Promise<void>>();

export function stampUrl(emoji: string, side: number): string {
  const code = [...emoji].map((ch) => ch.codePointAt(0)?.toString(16)).join("-");
  return `/api/emoji/${code}/${Math.round(side)}.png`;
}

export function pictureUrl(digest: string, width: number, height: number): string {
  return `/api/pictures/${digest}/${width}x${height}.png`;
}

const urlOf = (one: Stamp | Picture): string =>
  "emoji" in one ? stampUrl(one.emoji, one.side) : pictureUrl(one.picture, one.width, one.height);

/** What is drawn of a stamp or a picture, where it is there. */
export function bitmapOf(one: Stamp | Picture): ImageBitmap | null {
  return pictures.get(urlOf(one)) ?? null;
}

export async function loadBitmaps(all: readonly (Stamp | Picture)[]): Promise<void> {
  await Promise.all([...new Set(all.map(urlOf))].map(load));
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
