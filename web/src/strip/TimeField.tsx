/** A time to read, or to type: the server says whether it can be used. */
import { useRef, useState } from "react";
import type { Cue } from "../api/client";
import { focusPage } from "../focus/page";
import { edit } from "../state/commands";
import { clock } from "../ui/format";
import { Tip } from "../ui/Tip";

export function TimeField({ cue, edge }: { cue: Cue; edge: "start" | "end" }) {
  const [typing, setTyping] = useState<string | null>(null);
  const dropped = useRef(false);
  const shown = clock(edge === "start" ? cue.start_us : cue.end_us, true);
  const pinned = edge === "start" ? cue.start_pinned : cue.end_pinned;

  const commit = async () => {
    const text = dropped.current ? null : typing;
    dropped.current = false;
    setTyping(null);
    if (text !== null && text.trim() !== shown) {
      await edit({ kind: "type_cue_time", cue_id: cue.id, edge, text });
    }
  };

  return (
    <label className="inline-flex items-center gap-1.5 text-small text-dim">
      {edge}
      <Tip
        text={
          pinned ? "Pinned: no rule moves this time" : "Follows the words; type a time to pin it"
        }
      >
        <input
          id={`cue-${edge}`}
          aria-label={`Caption ${edge}`}
          tabIndex={-1}
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
            if (event.key === "Enter") focusPage();
            if (event.key === "Escape") {
              dropped.current = true;
              focusPage();
            }
            const other = edge === "start" ? "end" : "start";
            if (event.key === "Tab" && event.shiftKey === (edge === "end")) {
              event.preventDefault();
              document.getElementById(`cue-${other}`)?.focus();
            }
          }}
        />
      </Tip>
    </label>
  );
}
