/** The word at the playhead alone: its colour, size, tilt and place, and the way back. */
import type { Piece } from "../api/client";
import type { Player } from "../playback/player";
import { TraySection } from "../ui/TraySection";
import { AccentLooks } from "./AccentLooks";
import { useWordTarget } from "./wordTarget";

export function WordSection({ piece, player }: { piece: Piece; player: Player | null }) {
  const target = useWordTarget(piece, player);
  if (!target) return null;
  return (
    <TraySection
      title={`Only “${target.word.text}”`}
      about="Over its accent, for this word alone. On the preview it can be dragged."
    >
      <AccentLooks target={target} />
    </TraySection>
  );
}
