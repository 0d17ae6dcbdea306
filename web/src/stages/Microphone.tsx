/** The sound that is heard in a recording's stead: how it lies, moved by milliseconds, dropped. */
import { useState } from "react";
import { api, type Project, type Schemas, type Source, take } from "../api/client";
import { edit } from "../state/commands";
import { FIELD } from "../ui/fields";
import { say } from "../ui/notice";
import { Progress } from "../ui/Progress";
import { SoundPair } from "./SoundPair";

const LINK = "text-small text-link hover:underline";

interface Props {
  project: Project;
  source: Source;
  microphone: Schemas["MicrophoneView"];
}

export function Microphone({ project, source, microphone }: Props) {
  const [by, setBy] = useState("");
  const sound = project.sources.find((one) => one.id === microphone.sound_id);
  const seconds = microphone.offset_us / 1e6;
  const move = () => {
    const typed = Number(by.replace(",", "."));
    if (!by.trim() || !Number.isFinite(typed)) {
      say("Type by how many milliseconds: 12 hears the sound later, -12 earlier.", "wrong");
      return;
    }
    void edit({ kind: "move_microphone", source_id: source.id, by_us: Math.round(typed * 1000) });
    setBy("");
  };
  return (
    <div className="mt-2 space-y-1 border-t border-line pt-2 text-small">
      <p>
        {microphone.laid ? "Heard: " : "Being laid under it: "}
        <b>{sound?.name}</b>
      </p>
      <p className="text-dim">
        It began {Math.abs(seconds).toFixed(3)} s {seconds >= 0 ? "earlier" : "later"}
        {microphone.drift_ppm !== 0 &&
          ` and its clock is ${Math.abs(microphone.drift_ppm).toFixed(1)} millionths ${
            microphone.drift_ppm > 0 ? "fast" : "slow"
          }`}
        . {Math.round(microphone.sure * 100)} % of the places compared agree.
      </p>
      {sound && <SoundPair source={source} microphone={microphone} />}
      <form
        className="flex items-center gap-2 whitespace-nowrap pt-1"
        onSubmit={(event) => {
          event.preventDefault();
          move();
        }}
      >
        <label className="flex items-center gap-2">
          Later by
          <input
            className={`${FIELD} max-w-16 text-right`}
            inputMode="decimal"
            value={by}
            placeholder="0"
            onChange={(event) => setBy(event.target.value)}
            aria-label="Hear the sound later by so many milliseconds"
          />
        </label>
        ms
        <button type="submit" className={LINK}>
          Move
        </button>
      </form>
      <button
        type="button"
        className={LINK}
        onClick={() => void edit({ kind: "drop_microphone", source_id: source.id })}
      >
        Use its own sound
      </button>
    </div>
  );
}

/** A sound that stands alone: the way to have it heard in a video's stead, and why it is not. */
export function AsMicrophone({ project, source }: { project: Project; source: Source }) {
  const used = project.sources.find((one) => one.microphone?.sound_id === source.id);
  if (used)
    return <p className="text-small text-dim">Heard in place of {used.name}'s own sound.</p>;
  const job = project.jobs.findLast(
    (one) => one.kind === "microphone" && one.sound_id === source.id,
  );
  if (job?.status === "queued" || job?.status === "running")
    return <Progress label="Comparing it with the videos" value={job.progress} />;
  if (!project.sources.some((one) => one.kind === "video" && !one.microphone)) return null;
  const look = () =>
    take(
      api.POST("/api/projects/{project_id}/microphone", {
        params: { path: { project_id: project.id } },
        body: { sound_id: source.id },
      }),
    ).catch((error: Error) => say(error.message, "wrong"));
  return (
    <>
      {job?.report.map((note) => (
        <p key={note.text} className="text-small text-dim">
          {note.text}
        </p>
      ))}
      <button type="button" className={LINK} onClick={() => void look()}>
        Use it as the sound of a video
      </button>
    </>
  );
}
