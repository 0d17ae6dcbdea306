/** The word that is chosen in the Loupe or stands at the playhead, as it is now. */
import { useEffect, useState } from "react";
import type { Player } from "../playback/player";
import { wordAt } from "../state/session";
import { useProject } from "../state/store";

export function useLiveWord(player: Player | null) {
  // Drawn anew when it is another word, or when it changed.
  const [, setId] = useState<number | null>(null);
  useProject((state) => state.cues);
  useProject((state) => state.word);
  useProject((state) => state.selected);
  useEffect(() => player?.listen((at) => setId(wordAt(at)?.word.id ?? null)), [player]);
  return wordAt(player?.at ?? 0)?.word;
}
