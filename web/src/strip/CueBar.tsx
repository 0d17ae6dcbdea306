/** The foot of the Strip on every stage: the selected captions, their times, what is done to them. */
import { Pin } from "lucide-react";
import { ActionButton } from "../actions/ActionButton";
import { action } from "../actions/index";
import type { Cue } from "../api/client";
import type { Player } from "../playback/player";
import { pickedCues } from "../state/picks";
import { useProject } from "../state/store";
import { Tip } from "../ui/Tip";
import { HintLine } from "./HintLine";
import { textOf } from "./passage";
import { TimeField } from "./TimeField";

export function CueBar({ player }: { player: Player | null }) {
  // Read anew whenever captions or what is selected change.
  useProject((state) => state.cues);
  useProject((state) => state.picked);
  useProject((state) => state.selected);
  useProject((state) => state.onlySpeaker);
  const cues = pickedCues();
  const [one] = cues;
  const several = cues.length > 1;
  const pinned = cues.some((cue) => cue.start_pinned || cue.end_pinned);
  const tool = (id: string, text: string, disabled = false, name?: string) => (
    <ActionButton
      id={id}
      text={text}
      name={name}
      player={player}
      disabled={disabled}
      tabIndex={-1}
    />
  );
  return (
    <footer className="shrink-0 overflow-hidden border-t border-line bg-page">
      <div className="flex h-9 items-center gap-3 px-3 pt-1">
        {several ? (
          <b role="status">{cues.length} captions selected</b>
        ) : one ? (
          <Times cue={one} />
        ) : (
          <span className="text-dim">Click a caption. Shift or Ctrl selects several.</span>
        )}
        {pinned && (
          <Tip text={`${action("unpin").name} (U)`}>
            <button
              type="button"
              tabIndex={-1}
              className="inline-flex items-center gap-1 rounded px-1.5 py-1 text-small text-link hover:bg-tint"
              onClick={() => action("unpin").run(player)}
            >
              <Pin size={13} aria-hidden /> unpin
            </button>
          </Tip>
        )}
      </div>
      <div className="flex items-center gap-0.5 px-1.5 pb-1">
        {tool("add", "add")}
        {tool("split", "split")}
        {tool("join", "join", !one, several ? "Join these captions" : "Join with the next")}
        {!several && tool("first-word", "first word", !one)}
        {!several && tool("last-word", "last word", !one)}
        {several && tool("close-gaps", "close gaps")}
        {tool("delete", "delete", !one)}
      </div>
      <HintLine />
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
      <Tip text="How long it shows · characters a second">
        <span className="tabular whitespace-nowrap text-dim">
          {shown.toFixed(2)} s · {Math.round(letters / shown)}/s
        </span>
      </Tip>
    </>
  );
}
