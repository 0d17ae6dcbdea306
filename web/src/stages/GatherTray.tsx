import { FileAudio, FileVideo } from "lucide-react";
import { Link, useLocation } from "wouter";
import { api, type Project, type Source, take } from "../api/client";
import type { Player } from "../playback/player";
import { languageName } from "../start/HearingFields";
import { Button } from "../ui/Button";
import { bytes, length } from "../ui/format";
import { say } from "../ui/notice";
import { Progress } from "../ui/Progress";
import { TraySection } from "../ui/TraySection";
import { HearAgain } from "./HearAgain";
import { TapSection } from "./TapSection";
import { WordsIn } from "./WordsIn";

const jobAction = (id: number, action: "cancel" | "retry") =>
  take(api.POST(`/api/jobs/{job_id}/${action}`, { params: { path: { job_id: id } } })).catch(
    (error: Error) => say(error.message, "wrong"),
  );

interface Props {
  project: Project;
  source: Source;
  player: Player | null;
}

export function GatherTray({ project, source, player }: Props) {
  const hearing = project.jobs.findLast((job) => job.kind === "transcribe");
  const again = project.jobs.findLast((job) => job.kind === "doubt");
  const translating = project.jobs.findLast((job) => job.kind === "translate");
  const preparing = project.jobs.find((job) => job.kind === "prepare");
  return (
    <>
      <TraySection title="Recording">
        {project.sources.map((source) => (
          <div key={source.id} className="flex gap-3 rounded border border-line bg-card p-3">
            {source.kind === "video" ? <FileVideo size={20} /> : <FileAudio size={20} />}
            <div className="min-w-0">
              <p className="truncate">{source.name}</p>
              <p className="text-small text-dim">
                {length(source.duration_us)} · {bytes(source.size_bytes)}
                {source.kind === "video" &&
                  ` · ${source.width} × ${source.height} · ${source.frame_rate.toFixed(2).replace(/\.?0+$/, "")} frames/s${source.variable_rate ? " (variable)" : ""}`}
              </p>
              {source.audio_tracks > 1 && (
                <p className="text-small text-dim">
                  Sound track {source.audio_track + 1} of {source.audio_tracks} is used.
                </p>
              )}
            </div>
          </div>
        ))}
        {preparing?.status === "running" && (
          <Progress
            label="Making a copy to play"
            value={preparing.progress}
            secondsLeft={preparing.seconds_left}
          />
        )}
        {preparing?.status === "failed" && (
          <Failed text={preparing.error} onRetry={() => void jobAction(preparing.id, "retry")} />
        )}
      </TraySection>
      <TraySection title="Transcription" about="Heard on this machine. Nothing leaves it.">
        {(hearing?.status === "running" || hearing?.status === "queued") && (
          <Progress
            label={hearing.status === "queued" ? "Waiting for a free worker" : "Listening"}
            value={hearing.progress}
            secondsLeft={hearing.seconds_left}
            onCancel={() => void jobAction(hearing.id, "cancel")}
          />
        )}
        {hearing?.status === "done" && (
          <p>All of it has been heard, in {languageName(source.language)}.</p>
        )}
        {again?.status === "running" && (
          <Progress
            label="Listening again, to put words right"
            value={again.progress}
            secondsLeft={again.seconds_left}
            onCancel={() => void jobAction(again.id, "cancel")}
          />
        )}
        {(translating?.status === "running" || translating?.status === "queued") && (
          <Progress
            label="Translating to English"
            value={translating.progress}
            secondsLeft={translating.seconds_left}
            onCancel={() => void jobAction(translating.id, "cancel")}
          />
        )}
        {translating?.status === "failed" && (
          <Failed
            text={translating.error}
            onRetry={() => void jobAction(translating.id, "retry")}
          />
        )}
        {hearing?.status === "cancelled" && (
          <div className="flex items-center justify-between">
            <span>Stopped. What was heard is kept.</span>
            <Button onClick={() => void jobAction(hearing.id, "retry")}>Go on listening</Button>
          </div>
        )}
        {hearing?.status === "failed" && (
          <Failed text={hearing.error} onRetry={() => void jobAction(hearing.id, "retry")} />
        )}
        {hearing?.status !== "running" && hearing?.status !== "queued" && (
          <HearAgain projectId={project.id} source={source} />
        )}
        {hearing?.status === "done" && !translating && source.language !== "en" && (
          <Translate projectId={project.id} />
        )}
      </TraySection>
      <WordsIn project={project} player={player} />
      <TapSection player={player} />
      <TraySection title="Another recording">
        <p className="text-dim">
          Each recording is a project of its own.{" "}
          <Link href="/" className="text-link underline">
            Drop the next one on the start page
          </Link>
          .
        </p>
      </TraySection>
    </>
  );
}

/** English captions are a project of their own, so that both can be styled and delivered. */
function Translate({ projectId }: { projectId: number }) {
  const [, go] = useLocation();
  const start = () =>
    take(
      api.POST("/api/projects/{project_id}/translation", {
        params: { path: { project_id: projectId } },
      }),
    )
      .then((made) => go(`/projects/${made.project_id}`))
      .catch((error: Error) => say(error.message, "wrong"));
  return (
    <Button onClick={() => void start()} title="Makes a copy of this project">
      Translate to English in a copy
    </Button>
  );
}

function Failed({ text, onRetry }: { text: string | null; onRetry: () => void }) {
  return (
    <div className="rounded border border-clay bg-card p-3">
      <p>{text}</p>
      <Button className="mt-2" onClick={onRetry}>
        Try again
      </Button>
    </div>
  );
}
