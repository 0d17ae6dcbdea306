import type { Piece } from "../api/client";
import { edit, useProject } from "../state/project";
import { Choice } from "../ui/Choice";
import { TraySection } from "../ui/TraySection";

const GROUPINGS = [
  { value: "quick", title: "Quick", about: "Up to three words at a time, for fast feeds." },
  {
    value: "sentence",
    title: "Sentence",
    about: "A sentence or a clause, for calm talk and courses.",
  },
] as const;

export function PaceTray({ piece }: { piece: Piece }) {
  const cues = useProject((state) => state.cues);
  const changed = cues.filter((cue) => cue.start_pinned || cue.end_pinned).length;
  return (
    <>
      <TraySection
        title="Grouping"
        about="Changes the whole piece. Splits and pinned times made by hand are done anew; one undo brings them back."
      >
        {GROUPINGS.map((grouping) => (
          <Choice
            key={grouping.value}
            name="grouping"
            chosen={piece.grouping === grouping.value}
            title={grouping.title}
            about={grouping.about}
            onChoose={() =>
              void edit({ kind: "regroup", piece_id: piece.id, grouping: grouping.value })
            }
          />
        ))}
      </TraySection>
      <TraySection
        title="Timing"
        about="Captions come just before the voice, linger a moment after it, and hand over without a gap."
      >
        <p>
          {changed
            ? `${changed} caption${changed > 1 ? "s have" : " has"} a pinned time that no rule moves.`
            : "All times follow the words. Type a caption's start or end in the Strip to pin it."}
        </p>
      </TraySection>
    </>
  );
}
