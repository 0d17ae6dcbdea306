/** A delivery: its files as they are made, and when they are there to be kept or looked at. */
import { Archive, ArrowUpToLine, Download, Pause, Play, RotateCcw, Trash2, X } from "lucide-react";
import { type ReactNode, useState } from "react";
import { api, type Delivery, take } from "../api/client";
import { ago, bytes, clock, timeLeft } from "../ui/format";
import { IconButton } from "../ui/IconButton";
import { attempt } from "../ui/notice";

export type DeliveredFile = Delivery["files"][number];
type Action = "cancel" | "retry" | "pause" | "resume" | "first";

const SEEN = new Set(["mp4", "webm", "jpg", "png", "gif", "webp"]);

export function DeliveryCard({ delivery, current }: { delivery: Delivery; current: number }) {
  const made = delivery.files.filter((one) => one.size > 0);
  const making = delivery.status === "running" || delivery.status === "queued";
  const remove = () =>
    attempt(
      take(
        api.DELETE("/api/deliveries/{delivery_id}", {
          params: { path: { delivery_id: delivery.id } },
        }),
      ),
    );
  return (
    <li className="rounded border border-line bg-card p-2.5">
      <div className="mb-1 flex items-center gap-1">
        <span className="flex-1 text-small text-dim">
          {ago(delivery.created_us)}
          {delivery.revision === current ? "" : " · changed since"}
        </span>
        {made.length > 1 && !making && (
          <a
            className="flex items-center gap-1 rounded px-1.5 py-0.5 text-small text-link hover:bg-tint"
            href={`/api/deliveries/${delivery.id}/all.zip`}
            download
          >
            <Archive size={14} aria-hidden /> All as one ZIP
          </a>
        )}
        {!delivery.files.some((one) => one.status === "running") && (
          <IconButton label="Remove this delivery with its files" onClick={() => void remove()}>
            <Trash2 size={14} />
          </IconButton>
        )}
      </div>
      <ul className="space-y-1.5">
        {delivery.files.map((file) => (
          <FileRow key={file.id} file={file} deliveryId={delivery.id} />
        ))}
      </ul>
    </li>
  );
}

function FileRow({ file, deliveryId }: { file: DeliveredFile; deliveryId: number }) {
  const [shown, setShown] = useState(false);
  const url = `/api/deliveries/${deliveryId}/files/${encodeURIComponent(file.name)}`;
  if (file.status !== "done") return <Making file={file} />;
  return (
    <li>
      <div className="flex items-center gap-1">
        <a
          className="flex min-w-0 flex-1 items-center gap-2 rounded px-1 py-0.5 hover:bg-tint"
          href={url}
          download={file.name}
        >
          <Download size={15} className="shrink-0 text-link" aria-hidden />
          <span className="min-w-0 flex-1 wrap-anywhere">{file.name}</span>
          <span className="shrink-0 text-small text-dim">{bytes(file.size)}</span>
        </a>
        {SEEN.has(file.kind) && (
          <IconButton
            label={shown ? `Close ${file.name}` : `Look at ${file.name}`}
            aria-expanded={shown}
            onClick={() => setShown(!shown)}
          >
            {shown ? <X size={14} /> : <Play size={14} />}
          </IconButton>
        )}
      </div>
      {file.report.map((one) => (
        <p key={one.text} className="text-small text-clay">
          {one.at_us === null ? "" : `${clock(one.at_us)}: `}
          {one.text}
        </p>
      ))}
      {shown && <Shown file={file} url={`${url}?inline=true`} />}
    </li>
  );
}

function Shown({ file, url }: { file: DeliveredFile; url: string }) {
  const look = "mx-auto mt-1 max-h-80 max-w-full rounded bg-black";
  if (file.kind === "mp4" || file.kind === "webm") {
    return (
      // biome-ignore lint/a11y/useMediaCaption: its captions are in the picture
      <video className={look} src={url} controls autoPlay aria-label={file.name} />
    );
  }
  return <img className={look} src={url} alt={file.name} />;
}

/** A file that waits, is being made, or was not. */
export function Making({ file, of }: { file: DeliveredFile; of?: ReactNode }) {
  const act = (action: Action) =>
    void attempt(
      take(api.POST(`/api/jobs/{job_id}/${action}`, { params: { path: { job_id: file.job_id } } })),
    );
  const over = file.status === "failed" || file.status === "cancelled";
  const percent = Math.round(file.progress * 100);
  return (
    <li>
      <div className="flex items-center gap-0.5">
        <span className="min-w-0 flex-1 wrap-anywhere">
          {of && <span className="text-dim">{of}: </span>}
          {file.name}
        </span>
        {file.status === "queued" && !file.paused && (
          <IconButton label={`Make ${file.name} first`} onClick={() => act("first")}>
            <ArrowUpToLine size={14} />
          </IconButton>
        )}
        {!over && (
          <IconButton
            label={file.paused ? `Go on with ${file.name}` : `Pause ${file.name}`}
            tip={
              file.status === "running"
                ? "Pause; it begins anew when it goes on"
                : file.paused
                  ? "Go on"
                  : "Pause"
            }
            onClick={() => act(file.paused ? "resume" : "pause")}
          >
            {file.paused ? <Play size={14} /> : <Pause size={14} />}
          </IconButton>
        )}
        {over ? (
          <IconButton label={`Make ${file.name} again`} onClick={() => act("retry")}>
            <RotateCcw size={14} />
          </IconButton>
        ) : (
          <IconButton label={`Cancel ${file.name}`} onClick={() => act("cancel")}>
            <X size={14} />
          </IconButton>
        )}
      </div>
      {file.status === "running" && (
        <div
          role="progressbar"
          aria-label={`Making ${file.name}`}
          aria-valuenow={percent}
          aria-valuemin={0}
          aria-valuemax={100}
          className="my-1 h-1.5 overflow-hidden rounded-full bg-line"
        >
          <div
            className="h-full bg-chalk transition-[width] duration-150"
            style={{ width: `${percent}%` }}
          />
        </div>
      )}
      <p className={`text-small ${file.status === "failed" ? "text-clay" : "text-dim"}`}>
        {note(file)}
      </p>
    </li>
  );
}

function note(file: DeliveredFile): string {
  if (file.status === "failed") return file.error ?? "It was not made.";
  if (file.status === "cancelled") return "Stopped; nothing was kept.";
  if (file.paused) return "Paused.";
  if (file.status === "queued") return "Waits for a free worker.";
  const words = [];
  if (file.frames)
    words.push(`${Math.round(file.progress * file.frames)} of ${file.frames} frames`);
  if (file.speed) words.push(`${Math.round(file.speed)} a second`);
  words.push(timeLeft(file.seconds_left));
  return words.join(" · ");
}
