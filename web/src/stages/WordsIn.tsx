/** Words that come another way: a caption file, a script or lyrics; and what was said about them. */
import { useRef, useState } from "react";
import { api, type Job, type Project, take } from "../api/client";
import type { Player } from "../playback/player";
import { sendCaptions } from "../start/captionFile";
import { select } from "../state/session";
import { ofOpenPiece, useProject } from "../state/store";
import { Button } from "../ui/Button";
import { FilePick } from "../ui/FilePick";
import { clock } from "../ui/format";
import { say } from "../ui/notice";
import { Progress } from "../ui/Progress";
import { Segments } from "../ui/Segments";
import { TraySection } from "../ui/TraySection";

const KINDS = { import: "Taking captions in", script: "Laying the script over the sound" };

export function WordsIn({ project, player }: { project: Project; player: Player | null }) {
  const [script, setScript] = useState<string | null>(null);
  const [verses, setVerses] = useState(false);
  const picker = useRef<HTMLInputElement>(null);
  const newest = project.jobs.findLast((job) => job.kind in KINDS);
  const path = { params: { path: { project_id: project.id }, query: ofOpenPiece() } };
  const send = (work: Promise<unknown>) =>
    work.then(() => setScript(null)).catch((error: Error) => say(error.message, "wrong"));
  return (
    <TraySection
      title="Words from elsewhere"
      about="They take the place of all captions; one undo brings those back."
    >
      {newest && <Outcome job={newest} player={player} />}
      {script === null ? (
        <div className="flex gap-2">
          <Button onClick={() => picker.current?.click()}>Caption file …</Button>
          <Button onClick={() => setScript("")}>Script or lyrics …</Button>
        </div>
      ) : (
        <form
          className="space-y-2"
          onSubmit={(event) => {
            event.preventDefault();
            void send(
              take(
                api.POST("/api/projects/{project_id}/script", {
                  ...path,
                  body: { text: script, verses },
                }),
              ),
            );
          }}
        >
          <textarea
            // biome-ignore lint/a11y/noAutofocus: the field appears because it was asked for
            autoFocus
            aria-label="Script or lyrics"
            placeholder="Paste the text. Each line becomes a caption."
            rows={8}
            className="w-full rounded border border-line bg-card p-2"
            value={script}
            onChange={(event) => setScript(event.target.value)}
          />
          <Segments
            label="What becomes a caption"
            chosen={verses ? "verse" : "line"}
            choices={[
              { value: "line", text: "A line a caption" },
              { value: "verse", text: "A verse a caption" },
            ]}
            onChoose={(one) => setVerses(one === "verse")}
          />
          {verses && <p className="text-small text-dim">Empty lines part the verses.</p>}
          <div className="flex gap-2">
            <Button kind="main" type="submit" disabled={!script.trim()}>
              Lay over the sound
            </Button>
            <Button onClick={() => setScript(null)}>Cancel</Button>
          </div>
        </form>
      )}
      <FilePick
        ref={picker}
        label="Caption file"
        accept=".srt,.vtt,.ass,.ssa,.ttml,.xml,.txt,text/plain,text/vtt"
        onFiles={([chosen]) =>
          chosen && void send(sendCaptions(project.id, chosen, "always", ofOpenPiece().piece_id))
        }
      />
    </TraySection>
  );
}

/** Select the caption a note is about and play it. */
function goToNote(player: Player | null, at: number): void {
  const { cues } = useProject.getState();
  const cue = cues.find((one) => one.end_us > at);
  if (cue) select(cue.id);
  player?.playStretch(at - 500_000, at + 3_000_000, false);
}

function Outcome({ job, player }: { job: Job; player: Player | null }) {
  const [shown, setShown] = useState(4);
  const hearing = useProject((state) =>
    state.project?.jobs.some((one) => one.kind === "transcribe" && one.status === "running"),
  );
  if (job.status === "queued" || job.status === "running") {
    const what = KINDS[job.kind as keyof typeof KINDS];
    const waits = hearing ? "waits until the recording has been heard" : "waits for a free worker";
    return (
      <Progress
        label={job.status === "queued" ? `${what}: ${waits}` : what}
        value={job.progress}
        secondsLeft={job.seconds_left}
      />
    );
  }
  if (job.status === "failed") {
    return (
      <p role="alert" className="rounded border border-clay bg-card p-3">
        {job.error}
      </p>
    );
  }
  if (!job.report.length) return null;
  const rest = job.report.length - shown;
  return (
    <div className="rounded border border-line bg-card p-2.5 text-small">
      <p className="mb-1 font-bold">
        {job.kind === "script" ? "Where script and sound differ" : "What was read otherwise"}
      </p>
      <ul className="space-y-1">
        {job.report.slice(0, shown).map((note) => {
          const { at_us: at } = note;
          return (
            <li key={`${at}${note.text}`}>
              {at === null ? (
                note.text
              ) : (
                <button
                  type="button"
                  className="text-left hover:text-link"
                  onClick={() => goToNote(player, at)}
                >
                  <span className="tabular text-dim">{clock(at)}</span> {note.text}
                </button>
              )}
            </li>
          );
        })}
      </ul>
      {rest > 0 && (
        <button
          type="button"
          className="mt-1 text-link hover:underline"
          onClick={() => setShown(job.report.length)}
        >
          {rest} more
        </button>
      )}
    </div>
  );
}
