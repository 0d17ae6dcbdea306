/** Taking a recording out of the project: what goes with it is said first. */
import { useState } from "react";
import { api, type Project, type Schemas, type Source, take } from "../api/client";
import { edit } from "../state/commands";
import { AskFirst } from "../ui/AskFirst";
import { length } from "../ui/format";
import { attempt } from "../ui/notice";

type Loss = Schemas["PieceLossView"];

/** What becomes of a piece, in a sentence. */
export function lossText({ name, lost_us, whole, cutaways }: Loss): string {
  if (whole) return `The piece “${name}” goes: nothing else is in it.`;
  const seen = cutaways ? `${cutaways} cutaway${cutaways > 1 ? "s" : ""}` : "";
  if (lost_us) return `“${name}” gets ${length(lost_us)} shorter${seen && ` and loses ${seen}`}.`;
  return `“${name}” loses ${seen || "only what was struck of it already"}.`;
}

export function RemoveRecording({ project, source }: { project: Project; source: Source }) {
  const [losses, setLosses] = useState<Loss[] | null>(null);
  if (project.sources.length < 2) return null;
  const ask = () => {
    const path = { project_id: project.id, source_id: source.id };
    const found = take(
      api.GET("/api/projects/{project_id}/recordings/{source_id}/losses", { params: { path } }),
    );
    void attempt(found.then(setLosses));
  };
  const heardBy = project.sources.filter((one) => one.microphone?.sound_id === source.id);
  return (
    <>
      <button
        type="button"
        className="text-small text-link hover:underline"
        aria-label={`Remove ${source.name} …`}
        onClick={ask}
      >
        Remove …
      </button>
      <AskFirst
        open={losses !== null}
        onClose={() => setLosses(null)}
        title={`Remove “${source.name}” from the project?`}
        action="Remove recording"
        onAction={() => void edit({ kind: "remove_recording", source_id: source.id })}
      >
        {losses?.map((loss) => (
          <p key={loss.piece_id}>{lossText(loss)}</p>
        ))}
        {losses?.length === 0 && <p>No piece plays anything of it.</p>}
        {heardBy.map((one) => (
          <p key={one.id}>“{one.name}” is heard by its own sound again.</p>
        ))}
        <p>Undo brings it back, with its words. What was delivered stays.</p>
      </AskFirst>
    </>
  );
}
