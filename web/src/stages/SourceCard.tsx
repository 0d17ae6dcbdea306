/** A recording of the project: what it is, and the way to the piece that is made of it. */
import { FileAudio, FileVideo } from "lucide-react";
import { useRef, useState } from "react";
import type { Project, Source } from "../api/client";
import { upload } from "../start/upload";
import { showPiece } from "../state/server";
import { Button } from "../ui/Button";
import { FilePick } from "../ui/FilePick";
import { bytes, length } from "../ui/format";
import { attempt } from "../ui/notice";
import { Progress } from "../ui/Progress";
import { AsMicrophone, Microphone } from "./Microphone";
import { RemoveRecording } from "./RemoveRecording";

/** What is said of a recording whose file is gone, and the way to bring it back. */
function Missing({ source }: { source: Source }) {
  const picker = useRef<HTMLInputElement>(null);
  const [part, setPart] = useState<number | null>(null);
  const bring = async (file: File | undefined) => {
    if (!file) return;
    setPart(0);
    const sent = upload(`/api/sources/${source.id}/recording`, file, {}, setPart).done;
    if (await attempt(sent)) location.reload();
    setPart(null);
  };
  return (
    <div role="alert" className="mt-1 text-small text-clay">
      <p>Its file is not where it was. Words and captions are all there; nothing can be played.</p>
      {part === null ? (
        <Button className="mt-1" onClick={() => picker.current?.click()}>
          Choose the file again
        </Button>
      ) : (
        <Progress label={source.name} value={part} />
      )}
      <FilePick
        ref={picker}
        label={`The file of ${source.name}`}
        accept="video/*,audio/*,.mkv,.mov"
        onFiles={(files) => void bring(files[0])}
      />
    </div>
  );
}

export function SourceCard(props: { project: Project; source: Source; open: boolean }) {
  const { project, source, open } = props;
  const piece = project.pieces.find((one) => one.source_id === source.id);
  const Icon = source.kind === "video" ? FileVideo : FileAudio;
  const rate = source.frame_rate.toFixed(2).replace(/\.?0+$/, "");
  return (
    <div
      className={`flex gap-3 rounded border bg-card p-3 ${open ? "border-chalk" : "border-line"}`}
    >
      <Icon size={20} className="shrink-0" />
      <div className="min-w-0 flex-1">
        <p className="truncate">{source.name}</p>
        <p className="text-small text-dim">
          {length(source.duration_us)} · {bytes(source.size_bytes)}
          {source.kind === "video" &&
            ` · ${source.width} × ${source.height} · ${rate} frames/s${source.variable_rate ? " (variable)" : ""}`}
        </p>
        {source.audio_tracks > 1 && (
          <p className="text-small text-dim">
            Of {source.audio_tracks} sound tracks “{source.track_names[source.audio_track]}” is
            used.
          </p>
        )}
        {source.missing && <Missing source={source} />}
        {source.microphone ? (
          <Microphone project={project} source={source} microphone={source.microphone} />
        ) : (
          source.kind === "audio" && <AsMicrophone project={project} source={source} />
        )}
        <div className="mt-1 flex flex-wrap gap-x-4">
          {!open && piece && (
            <button
              type="button"
              className="text-small text-link hover:underline"
              onClick={() => void showPiece(piece.id)}
            >
              Open the piece “{piece.name}”
            </button>
          )}
          <RemoveRecording project={project} source={source} />
        </div>
      </div>
    </div>
  );
}
