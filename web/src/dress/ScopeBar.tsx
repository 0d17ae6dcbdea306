/** What the settings below are about, always in sight; and the way back to the finish. */
import { useMemo } from "react";
import { edit } from "../state/commands";
import { speakerOf } from "../state/document";
import { useProject } from "../state/store";
import { Segments } from "../ui/Segments";
import { Select } from "../ui/Select";
import { type Scope, useDress } from "./scope";

export function ScopeBar() {
  const { scope, speaker } = useDress();
  const picked = useProject((state) => state.picked);
  const cues = useProject((state) => state.cues);
  const chosen = cues.filter((cue) => picked.has(cue.id));
  const speakers = useMemo(
    () => [...new Set(cues.map(speakerOf).filter((name): name is string => Boolean(name)))],
    [cues],
  );
  const own = chosen.filter((cue) => Object.keys(cue.look).length > 0);
  const some = chosen.length === 1 ? "This caption" : `${chosen.length} captions`;
  const first = own[0];
  return (
    <div className="sticky -top-4 z-10 -mx-4 mb-4 border-b border-line bg-page px-4 py-2.5">
      <div className="flex items-center gap-2">
        <Segments<Scope>
          label="What to change"
          chosen={scope}
          choices={[
            { value: "piece", text: "Whole piece" },
            { value: "captions", text: some },
            ...(speakers.length ? [{ value: "speaker", text: "Speaker" } as const] : []),
          ]}
          onChoose={(value) =>
            useDress.setState((now) => ({
              scope: value,
              speaker: now.speaker ?? (chosen[0] && speakerOf(chosen[0])) ?? speakers[0] ?? null,
            }))
          }
        />
        {scope === "speaker" && speaker !== null && (
          <Select
            label="Speaker"
            className="min-w-0 flex-1"
            options={speakers.map((name) => ({ value: name, text: name }))}
            chosen={speaker}
            onChoose={(name) => useDress.setState({ speaker: name })}
          />
        )}
      </div>
      {scope === "captions" && chosen.length === 0 && (
        <p className="mt-1.5 text-dim">Click a caption in the Strip first.</p>
      )}
      {scope === "captions" && first && (
        <p className="mt-1.5 flex flex-wrap gap-x-3 text-dim">
          <span>
            {own.length === 1 ? "It has" : `${own.length} have`} settings of{" "}
            {own.length === 1 ? "its" : "their"} own.
          </span>
          <button
            type="button"
            className="text-link underline"
            onClick={() =>
              void edit({ kind: "undress_cues", cue_ids: own.map((cue) => cue.id), paths: [] })
            }
          >
            Back to finish
          </button>
          {chosen.length > 1 && own.length < chosen.length && (
            <button
              type="button"
              className="text-link underline"
              onClick={() =>
                void edit({
                  kind: "copy_look",
                  from_cue_id: first.id,
                  cue_ids: chosen.map((cue) => cue.id),
                })
              }
            >
              Give all the first one’s
            </button>
          )}
        </p>
      )}
    </div>
  );
}
