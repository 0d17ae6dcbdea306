/** A time to read, or to type: the server says whether it can be used. */
import { useState } from "react";
import type { Cue } from "../api/client";
import { edit } from "../state/project";
import { clock } from "../ui/format";

export function TimeField({ cue, edge }: { cue: Cue; edge: "start" | "end" }) {
  const [typing, setTyping] = useState<string | null>(null);
  const shown = clock(edge === "start" ? cue.start_us : cue.end_us, true);
  const pinned = edge === "start" ? cue.start_pinned : cue.end_pinned;

  const commit = async () => {
    const text = typing;
    setTyping(null);
    if (text !== null && text.trim() !== shown) {
      await edit({ kind: "type_cue_time", cue_id: cue.id, edge, text });
    }
  };

  return (
    <label className="inline-flex items-center gap-1.5 text-small text-dim">
      {edge}
      <input
        aria-label={`Caption ${edge}`}
        title={
          pinned ? "Pinned: no rule moves this time" : "Follows the words; type a time to pin it"
        }
        className={`tabular w-[84px] rounded border bg-card px-1.5 py-0.5 text-ink ${
          pinned ? "border-chalk" : "border-line"
        }`}
        value={typing ?? shown}
        onFocus={(event) => {
          setTyping(shown);
          event.target.select();
        }}
        onChange={(event) => setTyping(event.target.value)}
        onBlur={() => void commit()}
        onKeyDown={(event) => {
          if (event.key === "Enter") event.currentTarget.blur();
          if (event.key === "Escape") {
            setTyping(shown);
            event.currentTarget.value = shown;
            event.currentTarget.blur();
          }
        }}
      />
    </label>
  );
}
