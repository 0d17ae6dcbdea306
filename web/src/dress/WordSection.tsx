/** The word at the playhead alone: its colour, size, tilt and place, and the way back. */
import type { Piece } from "../api/client";
import type { Player } from "../playback/player";
import { edit } from "../state/commands";
import { Button } from "../ui/Button";
import { TraySection } from "../ui/TraySection";
import { AccentLooks } from "./AccentLooks";
import type { Changes } from "./scope";
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
      {Object.keys(target.word.own).length > 0 && (
        <Button
          onClick={() =>
            void edit({
              kind: "dress_everywhere",
              piece_id: piece.id,
              text: target.word.text,
              changes: target.word.own as Changes,
            })
          }
        >
          Dress “{target.word.text}” like this everywhere
        </Button>
      )}
    </TraySection>
  );
}
