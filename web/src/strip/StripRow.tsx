/** One row of the Strip: a caption, or a stretch of quiet. */
import { Paintbrush, Pin, Trash2 } from "lucide-react";
import { memo } from "react";
import { edit, select } from "../state/project";
import { clock } from "../ui/format";
import { CueText } from "./CueText";
import { Ribbon } from "./Ribbon";
import type { Row } from "./rows";
import { TimeField } from "./TimeField";

interface Props {
  row: Row;
  sourceId: number;
  selected: boolean;
  /** The stretch behind the last caption while the recording is still being heard. */
  unheard: boolean;
  /** Captions of other speakers are hidden between those that are shown. */
  others: boolean;
  onSeek: (atUs: number) => void;
}

export const StripRow = memo(function StripRow({
  row,
  sourceId,
  selected,
  unheard,
  others,
  onSeek,
}: Props) {
  const { cue } = row;
  const dressed =
    cue &&
    (Object.keys(cue.look).length > 0 || cue.words.some((one) => Object.keys(one.own).length > 0));
  return (
    <div
      data-row={row.key}
      className={`absolute left-0 right-0 grid grid-cols-[76px_80px_minmax(0,1fr)] ${
        selected ? "bg-chalk-wash" : ""
      }`}
      style={{ top: 0, transform: `translateY(${row.top}px)`, height: row.height }}
    >
      <button
        type="button"
        tabIndex={-1}
        className="tabular select-none self-start px-2 pt-1.5 text-right text-dim hover:text-ink"
        title="Go there"
        onClick={() => {
          if (cue) select(cue.id);
          onSeek(row.fromUs);
        }}
      >
        {clock(row.fromUs)}
      </button>
      <div className="flex justify-center">
        <Ribbon
          sourceId={sourceId}
          fromUs={row.fromUs}
          toUs={row.toUs}
          height={row.height}
          marked={selected}
        />
      </div>
      {cue ? (
        <div className="relative pr-3 pb-0.5">
          {row.speaker && (
            <span className="absolute top-1.5 right-3 z-10 select-none rounded bg-tint px-1.5 text-small text-dim">
              {row.speaker}
            </span>
          )}
          {dressed && (
            <span
              title="Has a look of its own (Dress)"
              className={`absolute right-3 z-10 rounded bg-tint p-1 text-chalk ${row.speaker ? "top-8" : "top-1.5"}`}
            >
              <Paintbrush size={13} aria-label="Has a look of its own" />
            </span>
          )}
          <div
            className={`h-full border-l-2 py-0.5 pl-2.5 ${row.speaker ? "pr-24" : ""} ${selected ? "border-chalk" : "border-line"}`}
          >
            <CueText
              key={cue.words.map((w) => `${w.id}${w.text}`).join()}
              cue={cue}
              onSeek={onSeek}
            />
            {selected && <RowTools row={row} />}
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

function RowTools({ row }: { row: Row }) {
  const { cue } = row;
  if (!cue) return null;
  return (
    <div className="mt-1.5 flex select-none items-center gap-3 pl-1">
      <TimeField cue={cue} edge="start" />
      <TimeField cue={cue} edge="end" />
      {(cue.start_pinned || cue.end_pinned) && (
        <button
          type="button"
          title="Let the times follow the words again"
          className="inline-flex items-center gap-1 rounded px-1 text-small text-chalk hover:bg-tint"
          onClick={() => void edit({ kind: "unpin_cues", cue_ids: [cue.id] })}
        >
          <Pin size={13} /> pinned
        </button>
      )}
      <button
        type="button"
        aria-label="Delete caption"
        title="Delete caption (Delete)"
        className="ml-auto rounded p-1 text-dim hover:bg-tint hover:text-clay"
        onClick={() => void edit({ kind: "delete_cues", cue_ids: [cue.id] })}
      >
        <Trash2 size={15} />
      </button>
    </div>
  );
}
