/** Begins to play a piece in one of its shapes: the recording as it is, or segments of what is made of it. */
import type { Piece, Shape, Source } from "../api/client";
import { Player } from "./player";
import { Stream } from "./stream";

export interface Opened {
  player: Player;
  /** What feeds it; null where the recording plays as it is. */
  stream: Stream | null;
  close: () => void;
}

/** Play from a moment on (µs) as soon as anything can be played; 0 stays where the element begins. */
export function openPlayer(
  media: HTMLVideoElement,
  piece: Pick<Piece, "id">,
  shape: Pick<Shape, "id" | "as_recorded">,
  source: Pick<Source, "id" | "kind">,
  fromUs: number,
): Opened {
  const stream = shape.as_recorded ? null : new Stream(media, piece.id, shape.id, fromUs);
  media.src = stream?.url ?? `/api/sources/${source.id}/media`;
  const player = new Player(media, stream !== null || source.kind === "video");
  if (fromUs) player.begin(fromUs);
  const close = () => {
    player.close();
    stream?.close();
    media.removeAttribute("src");
  };
  return { player, stream, close };
}
