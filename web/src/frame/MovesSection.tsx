/** Moves of the picture: every other clip nearer, slow and quick moves over words. */
import { X, Zap, ZoomIn, ZoomOut } from "lucide-react";
import { useState } from "react";
import type { Piece, Schemas, Shape } from "../api/client";
import { make } from "../dress/scope";
import type { Player } from "../playback/player";
import { edit } from "../state/commands";
import { pickedWord } from "../state/session";
import { useProject } from "../state/store";
import { Button } from "../ui/Button";
import { clock } from "../ui/format";
import { IconButton } from "../ui/IconButton";
import { TraySection } from "../ui/TraySection";
import { Amount } from "./PictureSection";
import { useClips } from "./shapes";

type Move = Schemas["MoveView"];

const WAYS = [
  { way: "in", name: "Slow in", icon: ZoomIn },
  { way: "out", name: "Slow out", icon: ZoomOut },
  { way: "quick", name: "Quick in", icon: Zap },
] as const;

export function MovesSection(props: { piece: Piece; shape: Shape; player: Player | null }) {
  const { piece, shape, player } = props;
  const [zoom, setZoom] = useState(1.15);
  const cues = useProject((state) => state.cues);
  const picked = useProject((state) => state.picked);
  const clips = useClips(piece, shape);
  const chosen = cues.filter((cue) => picked.has(cue.id));
  const word = useProject((state) => pickedWord(state));
  const ids = { piece_id: piece.id, shape_id: shape.id };
  const some = chosen.length === 1 ? "this caption" : `these ${chosen.length} captions`;
  return (
    <TraySection title="Moves" about={aboutMoves(chosen.length, some, word?.text)}>
      <div className="flex gap-1.5">
        {WAYS.map(({ way, name, icon: Icon }) => (
          <Button
            key={way}
            className="min-w-0 flex-1 gap-1.5 px-1"
            disabled={!chosen.length}
            onClick={() =>
              void edit({
                kind: "add_move",
                ...ids,
                cue_ids: chosen.map((cue) => cue.id),
                word_ids: word ? [word.id] : [],
                way,
                zoom,
              })
            }
          >
            <Icon size={14} /> {name}
          </Button>
        ))}
      </div>
      <Amount
        {...{ label: "Nearer by", min: 2, max: 100, step: 1, unit: "%", per: 100 }}
        stored={zoom - 1}
        set={(more) => setZoom(1 + more)}
      />
      <Button
        className="w-full"
        title="A slow move over longer sentences, a quick one on marked words; what is there already stays"
        onClick={() => void edit({ kind: "move_over", ...ids, zoom })}
      >
        Over the whole piece
      </Button>
      {clips && clips.moves.length > 0 && (
        <ul aria-label="Moves" className="divide-y divide-line rounded border border-line bg-card">
          {clips.moves.map((move) => (
            <MoveLine
              key={`${move.source_id} ${move.start_us} ${move.at_us}`}
              move={move}
              onShow={() =>
                player?.playStretch(move.at_us, move.at_us + move.duration_us + 4e5, false)
              }
              onDrop={() =>
                void edit({
                  kind: "drop_move",
                  ...ids,
                  source_id: move.source_id,
                  start_us: move.start_us,
                })
              }
            />
          ))}
        </ul>
      )}
      {clips && clips.clips.length > 1 && (
        <Amount
          {...{ label: "Every other clip", min: 0, max: 50, step: 1, unit: "%", per: 100 }}
          stored={shape.alternate - 1}
          set={(more) => make({ kind: "alternate_framings", ...ids, zoom: 1 + more }, true)}
        />
      )}
    </TraySection>
  );
}

/** What a move lies over: the word taken hold of in the Loupe, else all that is said. */
function aboutMoves(count: number, some: string, word: string | undefined): string {
  if (!count) return "Over what a caption says: click it first. Or over the whole piece.";
  return word ? `Over the word “${word}”.` : `Over what ${some} ${count === 1 ? "says" : "say"}.`;
}

function MoveLine(props: { move: Move; onShow: () => void; onDrop: () => void }) {
  const { move, onShow, onDrop } = props;
  const name = WAYS.find((one) => one.way === move.way)?.name ?? "";
  return (
    <li className="flex items-center gap-2 px-2 py-1">
      <button type="button" className="min-w-0 flex-1 text-left hover:underline" onClick={onShow}>
        <span className="tabular text-dim">{clock(move.at_us)}</span> {name}{" "}
        <span className="text-dim">
          {Math.round((move.zoom - 1) * 100)} %, {(move.duration_us / 1e6).toFixed(1)} s
        </span>
      </button>
      <IconButton label={`Take the move at ${clock(move.at_us)} away`} onClick={onDrop}>
        <X size={14} />
      </IconButton>
    </li>
  );
}
