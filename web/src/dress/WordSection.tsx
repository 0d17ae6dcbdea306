/** The word at the playhead alone: its colour, size, tilt and place, and the way back. */

import type { Player } from "../playback/player";
import { edit, wordAt } from "../state/project";
import { TraySection } from "../ui/TraySection";
import { PaintField, SliderField } from "./fields";
import { useLiveWord } from "./liveWord";
import type { Changes, Target } from "./scope";

export function WordSection({ player }: { player: Player | null }) {
  const word = useLiveWord(player);
  if (!word) return null;
  const { own } = word;
  const change = (changes: Changes) => {
    const here = wordAt(player?.at ?? 0);
    if (!here) return;
    void edit({
      kind: "dress_words",
      cue_ids: [here.cue.id],
      word_ids: [here.word.id],
      changes,
    });
  };
  const target: Target = {
    value: (path) => own[path],
    // A word that has been said keeps the colour it was said in.
    set: (changes) =>
      change("live" in changes ? { ...changes, past: changes.live ?? null } : changes),
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
