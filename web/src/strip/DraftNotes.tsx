/** Typed text whose caption was changed or deleted elsewhere: both texts, and a choice. */
import { decide, unsettled, useDrafts } from "../drafts/store";
import { useProject } from "../state/store";
import { Button } from "../ui/Button";
import { clock } from "../ui/format";

export function DraftNotes() {
  const drafts = useDrafts((state) => state.drafts);
  const cues = useProject((state) => state.cues);
  const open = unsettled(drafts, cues);
  if (!open.length) return null;
  return (
    <section
      aria-label="Typed text to decide on"
      className="max-h-[40%] shrink-0 space-y-2 overflow-y-auto border-t border-clay bg-card px-3 py-2"
    >
      {open.map(({ draft, fate }) => (
        <div key={draft.cueId}>
          <p className="text-small text-clay">
            {fate.kind === "gone"
              ? `The caption at ${clock(draft.startUs)} was deleted elsewhere while you typed.`
              : `The caption at ${clock(draft.startUs)} was changed elsewhere while you typed.`}
          </p>
          <p>
            <span className="text-dim">You typed:</span> {draft.text || "nothing"}
          </p>
          {fate.kind === "conflict" && (
            <p>
              <span className="text-dim">It reads now:</span> {fate.theirs}
            </p>
          )}
          <div className="mt-1 flex gap-2">
            <Button kind="main" onClick={() => void decide(draft, true)}>
              {fate.kind === "gone" ? "Put mine back" : "Take mine"}
            </Button>
            <Button onClick={() => void decide(draft, false)}>
              {fate.kind === "gone" ? "Let it go" : "Keep what is there"}
            </Button>
          </div>
        </div>
      ))}
    </section>
  );
}
