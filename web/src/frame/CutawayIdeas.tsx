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
import { fetchFound, lookFor, smallUrl } from "./looking";

type Idea = Schemas["IdeaView"];

export function CutawayIdeas(props: {
  piece: Piece;
  shape: Shape;
  player: Player | null;
  onUse: (cueId: number, seen: Seen) => void;
}) {
  const { piece, shape, player, onUse } = props;
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
  const show = (idea: Idea) => {
    if (idea.seen) onUse(idea.cue_id, idea.seen);
    else fetchFound(idea.library, idea, [idea.cue_id]);
  };
  // A library may take its time: what is here does not wait for it.
  const elsewhere = useQuery({
    queryKey: ["library ideas", piece.id, revision],
    placeholderData: ofPiece(piece.id),
    queryFn: () =>
      takeAs<Idea[]>(
        api.GET("/api/pieces/{piece_id}/library-ideas", {
          params: { path: { piece_id: piece.id } },
        }),
      ),
  }).data;
  const all = [...(data ?? []), ...(elsewhere ?? [])].sort((a, b) => a.at_us - b.at_us);
  if (!all.length) return null;
  return (
    <TraySection title="Where one would help">
      <ul
        aria-label="Where a cutaway would help"
        className="max-h-[300px] divide-y divide-line overflow-y-auto rounded border border-line bg-card"
      >
        {all.map((idea) => (
          <li
            key={`${idea.cue_id} ${idea.library} ${idea.ref || idea.name}`}
            className="flex items-center gap-2 px-2 py-1"
          >
            {idea.library && (
              <img
                src={smallUrl(idea.library, idea.ref)}
                alt=""
                loading="lazy"
                className="h-9 w-9 shrink-0 rounded border border-line object-cover"
              />
            )}
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
              <span className="block truncate text-small text-dim">
                {idea.name ? `${idea.reason} · ${idea.name}` : idea.reason}
              </span>
            </button>
            {idea.name ? (
              <Button
                className="h-7 px-2"
                aria-label={`Show ${idea.name}`}
                title={`See ${idea.name} while “${idea.text}” is said`}
                onClick={() => show(idea)}
              >
                Show
              </Button>
            ) : (
              <Button
                className="h-7 px-2"
                title={`Look in the libraries for “${idea.text}”`}
                onClick={() => lookFor([idea.cue_id])}
              >
                Look …
              </Button>
            )}
          </li>
        ))}
      </ul>
    </TraySection>
  );
}
