import { useLocation } from "wouter";
import { api, type Project, type Source, take } from "../api/client";
import type { Player } from "../playback/player";
import { languageName } from "../start/HearingFields";
import { jobOf } from "../state/jobs";
import { Button } from "../ui/Button";
import { say } from "../ui/notice";
import { Progress } from "../ui/Progress";
import { TraySection } from "../ui/TraySection";
import { AddRecordings } from "./AddRecordings";
import { HearAgain } from "./HearAgain";
import { SourceCard } from "./SourceCard";
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
  const hearing = jobOf(project, "transcribe");
  const again = jobOf(project, "doubt");
  const translating = jobOf(project, "translate");
  const preparing = jobOf(project, "prepare");
  return (
    <>
      <TraySection title={project.sources.length > 1 ? "Recordings" : "Recording"}>
        {project.sources.map((one) => (
          <SourceCard key={one.id} project={project} source={one} open={one.id === source.id} />
        ))}
        <AddRecordings project={project} />
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
