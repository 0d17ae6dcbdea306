/** Taking a recording out of the project: what goes with it is said first. */
import { AlertDialog } from "radix-ui";
import { useState } from "react";
import { api, type Project, type Schemas, type Source, take } from "../api/client";
import { edit } from "../state/commands";
import { Button } from "../ui/Button";
import { length } from "../ui/format";
import { attempt } from "../ui/notice";

type Loss = Schemas["PieceLossView"];

/** What becomes of a piece, in a sentence. */
export function lossText({ name, lost_us, whole }: Loss): string {
  if (whole) return `The piece “${name}” goes: nothing else is in it.`;
  if (!lost_us) return `“${name}” loses only what was struck of it already.`;
  return `“${name}” gets ${length(lost_us)} shorter.`;
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
      <AlertDialog.Root open={losses !== null} onOpenChange={(open) => !open && setLosses(null)}>
        <AlertDialog.Portal>
          <AlertDialog.Overlay className="fixed inset-0 z-40 bg-black/30" />
          <AlertDialog.Content className="fixed top-1/2 left-1/2 z-50 w-[420px] -translate-x-1/2 -translate-y-1/2 rounded-lg border border-line bg-page p-6 shadow-xl">
            <AlertDialog.Title className="text-[16px] font-bold">
              Remove “{source.name}” from the project?
            </AlertDialog.Title>
            <AlertDialog.Description asChild>
              <div className="mt-2 space-y-1 text-dim">
                {losses?.map((loss) => (
                  <p key={loss.piece_id}>{lossText(loss)}</p>
                ))}
                {losses?.length === 0 && <p>No piece plays anything of it.</p>}
                {heardBy.map((one) => (
                  <p key={one.id}>“{one.name}” is heard by its own sound again.</p>
                ))}
                <p>Undo brings it back, with its words. What was delivered stays.</p>
              </div>
            </AlertDialog.Description>
            <div className="mt-5 flex justify-end gap-2">
              <AlertDialog.Cancel asChild>
                <Button>Keep it</Button>
              </AlertDialog.Cancel>
              <AlertDialog.Action asChild>
                <Button
                  kind="danger"
                  onClick={() => void edit({ kind: "remove_recording", source_id: source.id })}
                >
                  Remove recording
                </Button>
              </AlertDialog.Action>
            </div>
          </AlertDialog.Content>
        </AlertDialog.Portal>
      </AlertDialog.Root>
    </>
  );
}
