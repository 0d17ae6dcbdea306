/** The word at the playhead alone: its colour, size, tilt and place, and the way back. */

import type { Player } from "../playback/player";
import { wordAt } from "../state/project";
import { TraySection } from "../ui/TraySection";
import { PaintField, SliderField } from "./fields";
import { useLiveWord } from "./liveWord";
import { type Changes, make, type Target } from "./scope";

export function WordSection({ player }: { player: Player | null }) {
  const word = useLiveWord(player);
  if (!word) return null;
  const { own } = word;
  const change = (changes: Changes, dragged?: boolean) => {
    const here = wordAt(player?.at ?? 0);
    if (!here) return;
    const [cue_ids, word_ids] = [[here.cue.id], [here.word.id]];
    make({ kind: "dress_words", cue_ids, word_ids, changes }, dragged);
  };
  const target: Target = {
    value: (path) => own[path],
    // A word that has been said keeps the colour it was said in.
    set: (changes, dragged) =>
      change("live" in changes ? { ...changes, past: changes.live ?? null } : changes, dragged),
    own: (path) => path in own,
    back: (path) => change(path === "live" ? { live: null, past: null } : { [path]: null }),
  };
  return (
    <TraySection title={`Only “${word.text}”`} about="Over its accent, for this word alone.">
      <PaintField target={target} path="live" label="Colour" gradient />
      <SliderField
        {...{ target, path: "scale", label: "Size", min: 50, max: 200, step: 2 }}
        per={100}
        unit=" %"
        fallback={1}
      />
      <SliderField
        {...{ target, path: "tilt", label: "Tilt", min: -45, max: 45, step: 1 }}
        unit="°"
      />
      <SliderField
        {...{ target, path: "lift", label: "Lift", min: -100, max: 100, step: 2 }}
        per={100}
        unit=" %"
      />
      <SliderField
        {...{ target, path: "dx", label: "Across", min: -100, max: 100, step: 2 }}
        per={100}
        unit=" %"
      />
    </TraySection>
  );
}
