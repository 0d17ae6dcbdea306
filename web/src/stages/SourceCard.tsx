/** A recording of the project: what it is, and the way to the piece that is made of it. */
import { FileAudio, FileVideo } from "lucide-react";
import type { Project, Source } from "../api/client";
import { showPiece } from "../state/server";
import { bytes, length } from "../ui/format";
import { AsMicrophone, Microphone } from "./Microphone";

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
            Sound track {source.audio_track + 1} of {source.audio_tracks} is used.
          </p>
        )}
        {source.microphone ? (
          <Microphone project={project} source={source} microphone={source.microphone} />
        ) : (
          source.kind === "audio" && <AsMicrophone project={project} source={source} />
        )}
        {!open && piece && (
          <button
            type="button"
            className="text-small text-link hover:underline"
            onClick={() => void showPiece(piece.id)}
          >
            Open the piece “{piece.name}”
          </button>
        )}
      </div>
    </div>
  );
}
