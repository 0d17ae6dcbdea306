/** The Strip of the Pace stage: its head with the zoom, the captions, and what to do with them. */
import type { Piece } from "../api/client";
import type { Player } from "../playback/player";
import { useVisibleCues } from "../state/visible";
import { CueBar } from "../strip/CueBar";
import { DraftNotes } from "../strip/DraftNotes";
import { OnlySpeaker } from "../strip/OnlySpeaker";
import { length } from "../ui/format";
import { Slider } from "../ui/Slider";
import { useDrag } from "./drag";
import { PaceStrip } from "./PaceStrip";
import { useZoom, zoomTo } from "./zoom";

export function PaceSection({ piece, player }: { piece: Piece; player: Player | null }) {
  const count = useVisibleCues().length;
  const dragging = useDrag((state) => state.drag !== null);
  return (
    <section aria-label="Strip" className="flex h-full min-h-0 flex-col bg-birch">
      <header className="flex h-9 shrink-0 items-center gap-3 border-b border-line px-3">
        <h2 className="font-bold">Strip</h2>
        {dragging ? (
          <span className="truncate text-dim">Shift: neighbour · Ctrl: all behind · Alt: free</span>
        ) : (
          <span className="text-dim">
            {count} captions · {length(piece.duration_us)}
          </span>
        )}
        <OnlySpeaker />
        <Zoom />
      </header>
      <PaceStrip piece={piece} player={player} />
      <DraftNotes />
      <CueBar player={player} />
    </section>
  );
}

function Zoom() {
  const { scale, range } = useZoom();
  const [least, most] = range.map(Math.log) as [number, number];
  return (
    <div className="ml-auto inline-flex items-center gap-2 text-dim">
      zoom
      <Slider
        label="Zoom"
        valueText={`${Math.round(scale)} pixels a second`}
        className="w-28"
        min={least}
        max={most}
        step={0.01}
        value={Math.log(scale)}
        onMove={(value) => zoomTo(Math.exp(value))}
      />
    </div>
  );
}
