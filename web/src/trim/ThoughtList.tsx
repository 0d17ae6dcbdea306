/** Passages of a long talk that could be pieces of their own: heard, and made into one. */
import { useQuery } from "@tanstack/react-query";
import { api, type Piece, type Schemas, take } from "../api/client";
import type { Player } from "../playback/player";
import { useProject } from "../state/store";
import { clock, length } from "../ui/format";
import { TraySection } from "../ui/TraySection";
import { Unfold } from "../ui/Unfold";
import { makePiece, select } from "./commands";

type Thought = Schemas["ThoughtView"];

export function ThoughtList({ piece, player }: { piece: Piece; player: Player | null }) {
  const heard = useProject((state) => state.heard);
  const revision = useProject((state) => state.project?.revision ?? 0);
  const path = { piece_id: piece.id };
  const { data } = useQuery({
    queryKey: ["thoughts", piece.id, heard, revision],
    placeholderData: (before) => before,
    queryFn: () => take(api.GET("/api/pieces/{piece_id}/thoughts", { params: { path } })),
  });
  if (!data?.length) return null;
  return (
    <TraySection>
      <Unfold title="Passages worth a piece" count={data.length} strong>
        {data.map((one) => (
          <ThoughtCard key={`${one.strand_id}.${one.first_word}`} one={one} player={player} />
        ))}
      </Unfold>
    </TraySection>
  );
}

function ThoughtCard({ one, player }: { one: Thought; player: Player | null }) {
  const choose = () =>
    select({
      anchor: `${one.strand_id}.${one.first_word}`,
      focus: `${one.strand_id}.${one.last_word}`,
    });
  const hear = () => {
    choose();
    player?.playStretch(one.at_us, one.at_us + one.length_us, false);
  };
  return (
    <div className="rounded border border-line bg-card px-2.5 py-2">
      <button
        type="button"
        className="flex w-full items-baseline gap-3 text-left hover:text-link"
        onClick={hear}
      >
        <span className="line-clamp-3 min-w-0 flex-1">{one.text}</span>
        <span className="tabular text-dim">{clock(one.at_us)}</span>
      </button>
      <ul className="mt-1 text-small text-dim">
        {one.reasons.map((reason) => (
          <li key={reason}>{reason}</li>
        ))}
      </ul>
      <div className="flex items-center gap-2">
        <span className="tabular flex-1 text-small text-dim">{length(one.length_us)}</span>
        <button
          type="button"
          className="rounded px-1.5 py-0.5 text-link hover:bg-tint"
          onClick={() => {
            choose();
            void makePiece();
          }}
        >
          Make a piece
        </button>
      </div>
    </div>
  );
}
