/** Text that was typed and left before it was taken: it is in no file until it is put in. */
import { fateOf, tidy } from "../drafts/draft";
import { decide, useDrafts } from "../drafts/store";
import { useProject } from "../state/store";
import { Button } from "../ui/Button";

export function TypedLeft() {
  const drafts = useDrafts((state) => state.drafts);
  const cues = useProject((state) => state.cues);
  const left = [...drafts.values()].filter((draft) => fateOf(draft, cues).kind !== "same");
  if (!left.length) return null;
  return (
    <section aria-label="Typed and not taken" className="mb-3 text-small">
      <p className="text-clay">
        {left.length === 1 ? "This was typed and left" : "These were typed and left"}, so no file
        has it yet:
      </p>
      <ul className="mt-1 grid gap-1">
        {left.map((draft) => (
          <li key={draft.cueId} className="flex items-center gap-2">
            <span className="min-w-0 flex-1 truncate">“{tidy(draft.text) || "nothing"}”</span>
            <Button onClick={() => void decide(draft, true)}>Put it in</Button>
          </li>
        ))}
      </ul>
    </section>
  );
}
