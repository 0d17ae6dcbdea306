/** Hear the recording again, whole or in part; what was corrected elsewhere stays. */
import { useState } from "react";
import { api, type Source, take } from "../api/client";
import { type HearingChoice, HearingFields, hearingBody, WHOLE } from "../start/HearingFields";
import { ofOpenPiece, useProject } from "../state/store";
import { passageCues, usePassage } from "../strip/passage";
import { Button } from "../ui/Button";
import { clock } from "../ui/format";
import { say } from "../ui/notice";

export function HearAgain({ projectId, source }: { projectId: number; source: Source }) {
  const [open, setOpen] = useState(false);
  const [choice, setChoice] = useState<HearingChoice>({
    ...WHOLE,
    language: source.language,
    track: source.audio_track,
  });
  const words = useProject((state) => state.cues.length);
  usePassage((state) => state.passage);
  const chosen = passageCues()?.cues;

  const start = async () => {
    const path = { path: { project_id: projectId }, query: ofOpenPiece() };
    await take(
      api.POST("/api/projects/{project_id}/hear", {
        params: path,
        body: { ...hearingBody(choice), transcribe: true },
      }),
    )
      .then(() => setOpen(false))
      .catch((error: Error) => say(error.message, "wrong"));
  };

  if (!open) {
    return (
      <Button onClick={() => setOpen(true)}>
        {words ? "Hear all or a stretch again" : "Choose how it is heard"}
      </Button>
    );
  }
  const first = chosen?.[0];
  const last = chosen?.at(-1);
  return (
    <form
      className="space-y-2.5 rounded border border-line bg-card p-3"
      onSubmit={(event) => {
        event.preventDefault();
        void start();
      }}
    >
      <HearingFields choice={choice} tracks={source.track_names} onChange={setChoice} />
      {first && last && (
        <button
          type="button"
          className="text-small text-link hover:underline"
          onClick={() =>
            setChoice({
              ...choice,
              from: clock(first.start_us, true),
              to: clock(last.end_us, true),
            })
          }
        >
          the {chosen?.length} selected captions
        </button>
      )}
      <p className="text-small text-dim">
        {choice.from || choice.to ? "Words in this range" : "All words"} are replaced when all of it
        has been heard; one undo brings them back.
      </p>
      <div className="flex gap-2">
        <Button kind="main" type="submit">
          Hear it
        </Button>
        <Button onClick={() => setOpen(false)}>Cancel</Button>
      </div>
    </form>
  );
}
