/** Where something to be seen would help: each with its reason, none placed unasked. */
import { useQuery } from "@tanstack/react-query";
import { api, type Piece, type Schemas, type Shape, takeAs } from "../api/client";
import type { Player } from "../playback/player";
import { pick } from "../state/picks";
import { ofPiece } from "../state/samePiece";
import { useProject } from "../state/store";
import { Button } from "../ui/Button";
import { clock } from "../ui/format";
import { TraySection } from "../ui/TraySection";
import type { Seen } from "./cutaways";

type Idea = Schemas["IdeaView"];

export function CutawayIdeas(props: {
  piece: Piece;
  shape: Shape;
  player: Player | null;
  onUse: (cueId: number, seen: Seen) => void;
  /** Look in the libraries for what a caption says. */
  onLook: (cueId: number) => void;
}) {
  const { piece, shape, player, onUse, onLook } = props;
  const revision = useProject((state) => state.project?.revision ?? 0);
  const { data } = useQuery({
    queryKey: ["ideas", piece.id, shape.id, revision],
    placeholderData: ofPiece(piece.id),
    queryFn: () =>
      takeAs<Idea[]>(
        api.GET("/api/pieces/{piece_id}/cutaway-ideas", {
          params: { path: { piece_id: piece.id }, query: { shape_id: shape.id } },
        }),
      ),
  });
  if (!data?.length) return null;
  return (
    <TraySection title="Where one would help">
      <ul
        aria-label="Where a cutaway would help"
        className="max-h-[300px] divide-y divide-line overflow-y-auto rounded border border-line bg-card"
      >
        {data.map((idea) => (
          <li key={`${idea.cue_id} ${idea.name}`} className="flex items-center gap-2 px-2 py-1">
            <button
              type="button"
              className="min-w-0 flex-1 text-left hover:underline"
              onClick={() => {
                pick(idea.cue_id);
                player?.seek(idea.at_us);
              }}
            >
              <span className="flex gap-2">
                <span className="tabular shrink-0 text-dim">{clock(idea.at_us)}</span>
                <span className="truncate">{idea.text}</span>
              </span>
              <span className="block truncate text-small text-dim">{idea.reason}</span>
            </button>
            {!idea.seen && (
              <Button
                className="h-7 px-2"
                title={`Look in the libraries for “${idea.text}”`}
                onClick={() => onLook(idea.cue_id)}
              >
                Look …
              </Button>
            )}
            {idea.seen && (
              <Button
                className="h-7 max-w-[120px] px-2"
                title={`See ${idea.name} while “${idea.text}” is said`}
                onClick={() => idea.seen && onUse(idea.cue_id, idea.seen)}
              >
                <span className="truncate">Show {idea.name}</span>
              </Button>
            )}
          </li>
        ))}
      </ul>
    </TraySection>
  );
}
