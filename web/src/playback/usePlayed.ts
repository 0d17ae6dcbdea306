/** The moment on screen, as a component's own: exact where the player rests, a few times a second else. */
import { useEffect, useState } from "react";
import type { Player } from "./player";

const EVERY_US = 200_000;

export function usePlayed(player: Player | null): { at: number; playing: boolean } {
  const [now, setNow] = useState({ at: player?.at ?? 0, playing: player?.playing ?? false });
  useEffect(() => {
    if (!player) return;
    const { media } = player;
    const read = () => {
      const { at, playing } = player;
      setNow((was) =>
        was.playing === playing && (playing ? Math.abs(at - was.at) < EVERY_US : at === was.at)
          ? was
          : { at, playing },
      );
    };
    const unlisten = player.listen(read);
    media.addEventListener("pause", read);
    media.addEventListener("play", read);
    return () => {
      unlisten();
      media.removeEventListener("pause", read);
      media.removeEventListener("play", read);
    };
  }, [player]);
  return now;
}
