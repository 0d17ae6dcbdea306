/** One row of the Strip: a caption, or a stretch of quiet. Its height never changes with its state. */
import { Paintbrush, Pin } from "lucide-react";
import { memo } from "react";
import { CutawayMarks } from "../frame/CutawayMarks";
import { PathLine } from "../frame/PathLine";
import { useStage } from "../stages/stage";
import { clock } from "../ui/format";
import { Tip } from "../ui/Tip";
import { CueText } from "./CueText";
import { beginPicking } from "./picking";
import { RIBBON_WIDTH, Ribbon } from "./Ribbon";
import type { Row } from "./rows";

interface Props {
  row: Row;
  selected: boolean;
  picked: boolean;
  /** The stretch behind the last caption while the recording is still being heard. */
  unheard: boolean;
  /** Captions of other speakers are hidden between those that are shown. */
  others: boolean;
  onSeek: (atUs: number) => void;
}

/** The caption of the row at a height of the window. */
function cueAtHeight(clientY: number): number | null {
  for (const row of document.querySelectorAll<HTMLElement>("[data-row-cue]")) {
    const { top, bottom } = row.getBoundingClientRect();
    if (clientY >= top && clientY < bottom) return Number(row.dataset.rowCue);
  }
  return null;
}

export const StripRow = memo(function StripRow(props: Props) {
  const { row, selected, picked, unheard, others, onSeek } = props;
  const { cue } = row;
  const framing = useStage((state) => state.stage === "Frame" && state.frameTab === "Picture");
  return (
    <div
      data-row={row.key}
      data-row-cue={cue?.id}
      className={`absolute left-0 right-0 grid grid-cols-[76px_80px_minmax(0,1fr)] ${
        selected || picked ? "bg-chalk-wash" : ""
      } ${selected ? "row-selected" : ""}`}
      style={{ top: 0, transform: `translateY(${row.top}px)`, height: row.height }}
    >
      <div
        className="relative col-span-2 grid cursor-default grid-cols-subgrid select-none"
        onPointerDown={(event) => {
          if (!cue) onSeek(row.fromUs);
          else beginPicking(event, cue.id, cueAtHeight, () => onSeek(row.fromUs));
        }}
      >
        <span className="tabular px-2 pt-1.5 text-right text-dim">{clock(row.fromUs)}</span>
        <span className="relative mx-auto" style={{ width: RIBBON_WIDTH }}>
          <Ribbon fromUs={row.fromUs} toUs={row.toUs} height={row.height} marked={selected} />
          {framing && (
            <PathLine
              {...{ fromUs: row.fromUs, toUs: row.toUs, width: RIBBON_WIDTH, height: row.height }}
            />
          )}
        </span>
        <CutawayMarks fromUs={row.fromUs} toUs={row.toUs} height={row.height} onSeek={onSeek} />
      </div>
      {cue ? (
        <div className="relative pr-3 pb-0.5">
          <Marks row={row} />
          <div
            className={`h-full border-l-2 py-0.5 pl-2.5 ${row.speaker ? "pr-24" : ""} ${
              selected ? "border-chalk" : "border-line"
            }`}
          >
            <CueText cue={cue} onSeek={onSeek} />
          </div>
        </div>
      ) : (
        <div className="flex select-none items-center gap-2 pr-4 text-small text-dim">
          <span className="w-3 border-t border-dashed border-dim" />
          {unheard
            ? "not heard yet"
            : `${((row.toUs - row.fromUs) / 1e6).toFixed(1)} s ${others ? "without them" : "quiet"}`}
          <span className="flex-1 border-t border-dashed border-line" />
        </div>
      )}
    </div>
  );
});

/** Who speaks, and what the caption has of its own. */
function Marks({ row }: { row: Row }) {
  const { cue } = row;
  if (!cue) return null;
  const dressed =
    Object.keys(cue.look).length > 0 || cue.words.some((one) => Object.keys(one.own).length > 0);
  const pinned = cue.start_pinned || cue.end_pinned;
  return (
    <span className="absolute top-1.5 right-3 z-10 flex select-none items-center gap-1 text-small">
      {pinned && (
        <Tip text="Pinned: no rule moves its times">
          <span className="rounded bg-tint p-1 text-link">
            <Pin size={12} aria-label="Pinned" />
          </span>
        </Tip>
      )}
      {dressed && (
        <Tip text="Has a look of its own (Dress)">
          <span className="rounded bg-tint p-1 text-link">
            <Paintbrush size={12} aria-label="Has a look of its own" />
          </span>
        </Tip>
      )}
      {row.speaker && <span className="rounded bg-tint px-1.5 text-dim">{row.speaker}</span>}
    </span>
  );
}
