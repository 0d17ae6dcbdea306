/** The Strip of the Pace stage: its head with the zoom, the captions, and what to do with them. */
import {
  ArrowDownToLine,
  ArrowUpToLine,
  Combine,
  FoldVertical,
  Pin,
  Plus,
  Scissors,
  Trash2,
} from "lucide-react";
import type { ReactNode } from "react";
import type { Cue, Piece } from "../api/client";
import type { Player } from "../playback/player";
import { pickedCues } from "../state/picks";
import { edit, useProject } from "../state/project";
import { textOf } from "../strip/passage";
import { TimeField } from "../strip/TimeField";
import { length } from "../ui/format";
import { addCaption, join, moveWord, splitHere, unpin } from "./commands";
import { useDrag } from "./drag";
import { PaceStrip } from "./PaceStrip";
import { useZoom, zoomTo } from "./zoom";

/** A longer pause is meant: captions do not stay on over it. */
const MOST_CLOSED_US = 3_000_000;

export function PaceSection({ piece, player }: { piece: Piece; player: Player | null }) {
  const count = useProject((state) => state.cues.length);
  const dragging = useDrag((state) => state.drag !== null);
  return (
    <section aria-label="Strip" className="flex min-h-0 flex-col bg-birch">
      <header className="flex h-9 shrink-0 items-center gap-3 border-b border-line px-3">
        <h2 className="font-bold">Strip</h2>
        {dragging ? (
          <span className="truncate text-dim">Shift: neighbour · Ctrl: all behind · Alt: free</span>
        ) : (
          <span className="text-dim">
            {count} captions · {length(piece.duration_us)}
          </span>
        )}
        <Zoom />
      </header>
      <PaceStrip piece={piece} player={player} />
      <PaceBar player={player} />
    </section>
  );
}

function Zoom() {
  const { scale, range } = useZoom();
  const [least, most] = range.map(Math.log) as [number, number];
  return (
    <label className="ml-auto inline-flex items-center gap-2 text-dim" title="Zoom (+ and −)">
      zoom
      <input
        type="range"
        aria-label="Zoom"
        aria-valuetext={`${Math.round(scale)} pixels a second`}
        className="w-28 accent-chalk"
        min={least}
        max={most}
        step={0.01}
        value={Math.log(scale)}
        onChange={(event) => zoomTo(Math.exp(Number(event.target.value)))}
      />
    </label>
  );
}

function PaceBar({ player }: { player: Player | null }) {
  // Read anew whenever captions or picks change.
  useProject((state) => state.cues);
  useProject((state) => state.picked);
  useProject((state) => state.selected);
  const cues = pickedCues();
  const [one] = cues;
  const pinned = cues.some((cue) => cue.start_pinned || cue.end_pinned);
  return (
    <footer className="flex shrink-0 flex-col gap-1.5 border-t border-line bg-page px-3 py-2">
      <div className="flex h-7 items-center gap-3">
        {cues.length > 1 ? (
          <b>{cues.length} captions</b>
        ) : one ? (
          <Times cue={one} />
        ) : (
          <span className="text-dim">Click a caption. Shift or Ctrl picks several.</span>
        )}
        {pinned && (
          <Tool label="Let pinned times follow the words (U)" onClick={unpin}>
            <Pin size={14} className="text-chalk" /> unpin
          </Tool>
        )}
      </div>
      <div className="-ml-1.5 flex items-center gap-0.5">
        <Tool label="Add a caption at the playhead (C)" onClick={() => void addCaption(player)}>
          <Plus size={14} /> add
        </Tool>
        <Tool label="Split at the playhead (B)" onClick={() => splitHere(player)}>
          <Scissors size={14} /> split
        </Tool>
        <Tool
          label={cues.length > 1 ? "Join these captions (G)" : "Join with the next (G)"}
          disabled={!one}
          onClick={() => join("after")}
        >
          <Combine size={14} /> join
        </Tool>
        {cues.length < 2 && (
          <>
            <Tool
              label="First word to the caption before (,)"
              disabled={!one}
              onClick={() => moveWord("first")}
            >
              <ArrowUpToLine size={14} /> first word
            </Tool>
            <Tool
              label="Last word to the next caption (.)"
              disabled={!one}
              onClick={() => moveWord("last")}
            >
              <ArrowDownToLine size={14} /> last word
            </Tool>
          </>
        )}
        {cues.length > 1 && (
          <Tool
            label="Let each of these stay until the next one comes"
            onClick={() =>
              void edit({
                kind: "close_gaps",
                cue_ids: cues.map((cue) => cue.id),
                most_us: MOST_CLOSED_US,
              })
            }
          >
            <FoldVertical size={14} /> close gaps
          </Tool>
        )}
        <Tool
          label="Delete (Delete)"
          disabled={!one}
          onClick={() => void edit({ kind: "delete_cues", cue_ids: cues.map((cue) => cue.id) })}
        >
          <Trash2 size={14} /> delete
        </Tool>
      </div>
    </footer>
  );
}

function Times({ cue }: { cue: Cue }) {
  const shown = (cue.end_us - cue.start_us) / 1e6;
  const letters = textOf(cue).length;
  return (
    <>
      <TimeField cue={cue} edge="start" />
      <TimeField cue={cue} edge="end" />
      <span
        className="tabular whitespace-nowrap text-dim"
        title="How long it shows · characters a second"
      >
        {shown.toFixed(2)} s · {Math.round(letters / shown)}/s
      </span>
    </>
  );
}

function Tool(props: {
  label: string;
  onClick: () => void;
  disabled?: boolean;
  children: ReactNode;
}) {
  return (
    <button
      type="button"
      title={props.label}
      disabled={props.disabled}
      className="inline-flex items-center gap-1 whitespace-nowrap rounded px-1.5 py-1 text-small hover:bg-tint disabled:opacity-45"
      onClick={props.onClick}
    >
      {props.children}
    </button>
  );
}
