import { useQuery } from "@tanstack/react-query";
import { Archive, Download } from "lucide-react";
import { useState } from "react";
import { api, type Delivery, type Pace, type Piece, type Project, take } from "../api/client";
import { FileButton } from "../api/download";
import { shapeName } from "../frame/shapes";
import { edit } from "../state/commands";
import { Button } from "../ui/Button";
import { Check } from "../ui/Check";
import { ago, bytes } from "../ui/format";
import { say } from "../ui/notice";
import { Progress } from "../ui/Progress";
import { Select } from "../ui/Select";
import { TraySection } from "../ui/TraySection";
import { PostSection } from "./PostSection";

type File = Delivery["files"][number];

/** What a file is; of several of a kind, by the end of their names. */
function fileText(file: File, all: readonly File[]): string {
  const kind = KINDS[file.kind as Output] ?? file.name;
  const several = all.filter((one) => one.kind === file.kind).length > 1;
  return several
    ? `${kind}, ${file.name.replace(/^.*-(?=[a-z]+(-\d+x\d+)?\.)|\.\w+$/g, "")}`
    : kind;
}

const CUT_LISTS = [
  ["otio", "OpenTimelineIO"],
  ["edl", "EDL (CMX 3600)"],
] as const;

type Output = Piece["outputs"][number];

const KINDS: Record<Output, string> = {
  mp4: "Video with captions",
  srt: "Captions, SubRip",
  vtt: "Captions, WebVTT",
  ttml: "Captions, TTML",
  txt: "Running text",
  csv: "Table of words",
  json: "Words and captions",
};

export function DeliverTray({ project, piece }: { project: Project; piece: Piece }) {
  const busy = project.deliveries.some((d) => d.status === "running" || d.status === "queued");
  const [left, setLeft] = useState<ReadonlySet<number>>(new Set());
  const wanted = piece.shapes.filter((one) => !left.has(one.id));
  const deliver = () =>
    take(
      api.POST("/api/pieces/{piece_id}/deliveries", {
        params: { path: { piece_id: piece.id } },
        body: { shape_ids: wanted.map((one) => one.id) },
      }),
    ).catch((error: Error) => say(error.message, "wrong"));
  return (
    <>
      <TraySection
        title="Deliver"
        about="The captions burned into a video of each shape, and as files."
      >
        <fieldset className="space-y-1">
          <legend className="pb-1 text-dim">Files</legend>
          {(Object.keys(KINDS) as Output[]).map((kind) => (
            <Check
              key={kind}
              label={`${KINDS[kind]} (${kind.toUpperCase()})`}
              checked={piece.outputs.includes(kind)}
              disabled={piece.outputs.length === 1 && piece.outputs.includes(kind)}
              onChange={(wanted) =>
                void edit({
                  kind: "set_outputs",
                  piece_id: piece.id,
                  outputs: wanted
                    ? [...piece.outputs, kind]
                    : piece.outputs.filter((one) => one !== kind),
                })
              }
            />
          ))}
        </fieldset>
        <fieldset className="space-y-1">
          <legend className="pb-1 text-dim">Shapes</legend>
          {piece.shapes.map((one) => (
            <Check
              key={one.id}
              label={`${shapeName(one)}, ${one.width} × ${one.height}`}
              checked={!left.has(one.id)}
              disabled={piece.shapes.length === 1}
              onChange={(wanted) => {
                const next = new Set(left);
                if (wanted) next.delete(one.id);
                else next.add(one.id);
                setLeft(next);
              }}
            />
          ))}
        </fieldset>
        <Button
          kind="main"
          className="mt-2 w-full"
          disabled={busy || !wanted.length}
          onClick={() => void deliver()}
        >
          {wanted.length > 1 && piece.outputs.includes("mp4")
            ? `Deliver ${wanted.length} shapes`
            : "Deliver this piece"}
        </Button>
      </TraySection>
      <FilePace piece={piece} />
      <PostSection piece={piece} />
      {project.deliveries.length > 0 && (
        <TraySection title="Deliveries">
          {project.deliveries.map((delivery) => (
            <DeliveryCard key={delivery.id} delivery={delivery} current={project.revision} />
          ))}
        </TraySection>
      )}
      {!piece.untouched && (
        <TraySection
          title="Cut list"
          about="Where the piece is cut, for an editing suite that has the same recordings."
        >
          <div className="flex gap-2">
            {CUT_LISTS.map(([ending, name]) => (
              <FileButton
                key={ending}
                className="rounded border border-line bg-card px-2.5 py-1 hover:border-dim"
                url={`/api/pieces/${piece.id}/cuts.${ending}`}
              >
                {name}
              </FileButton>
            ))}
          </div>
        </TraySection>
      )}
      <TraySection title="Caption files now" about="As the captions stand at this moment.">
        <div className="flex flex-wrap gap-2">
          {["srt", "vtt", "ttml", "txt", "csv", "json"].map((ending) => (
            <FileButton
              key={ending}
              className="rounded border border-line bg-card px-2.5 py-1 hover:border-dim"
              url={`/api/pieces/${piece.id}/captions.${ending}`}
            >
              {ending.toUpperCase()}
            </FileButton>
          ))}
        </div>
      </TraySection>
    </>
  );
}

const AS_PICTURE = "";

/** How captions in files are grouped and broken: as on the picture, or at a pace of their own. */
function FilePace({ piece }: { piece: Piece }) {
  const paces = useQuery({ queryKey: ["paces"], queryFn: () => take(api.GET("/api/paces")) });
  const own = piece.file_pace;
  const same = (pace: Pace) => JSON.stringify(pace) === JSON.stringify(own);
  const known = own ? paces.data?.find((one) => same(one.pace)) : undefined;
  const options = [
    { value: AS_PICTURE, text: "as on the picture" },
    ...(paces.data ?? []).map((one) => ({ value: one.name, text: paceText(one.name, one.pace) })),
    ...(own && !known ? [{ value: "*", text: paceText("a pace of its own", own) }] : []),
  ];
  return (
    <TraySection
      title="Captions in files"
      about={
        own
          ? `At most ${own.lines} ${own.lines === 1 ? "line" : "lines"} of ${own.line_chars} characters, whatever the picture shows.`
          : "Grouped and broken as the picture shows them."
      }
    >
      <Select
        label="Captions in files"
        options={options}
        chosen={own ? (known?.name ?? "*") : AS_PICTURE}
        onChoose={(name) => {
          const found = paces.data?.find((one) => one.name === name);
          if (name === "*") return;
          void edit({ kind: "set_file_pace", piece_id: piece.id, pace: found?.pace ?? null });
        }}
      />
    </TraySection>
  );
}

const paceText = (name: string, pace: Pace): string =>
  `${name}: ${pace.lines} × ${pace.line_chars} characters`;

function DeliveryCard({ delivery, current }: { delivery: Delivery; current: number }) {
  const act = (action: "cancel" | "retry") =>
    void take(
      api.POST(`/api/jobs/{job_id}/${action}`, { params: { path: { job_id: delivery.job_id } } }),
    ).catch((error: Error) => say(error.message, "wrong"));
  return (
    <div className="rounded border border-line bg-card p-3">
      {(delivery.status === "running" || delivery.status === "queued") && (
        <Progress
          label={delivery.status === "queued" ? "Waiting for a free worker" : "Burning in"}
          value={delivery.progress}
          secondsLeft={delivery.seconds_left}
          onCancel={() => act("cancel")}
        />
      )}
      {delivery.status === "done" && (
        <>
          <p className="mb-2 text-small text-dim">
            {ago(delivery.created_us)}
            {delivery.revision === current ? "" : " · changed since"}
          </p>
          {delivery.files.map((file) => (
            <a
              key={file.name}
              className="flex items-center gap-2 rounded px-1.5 py-1 hover:bg-tint"
              href={`/api/deliveries/${delivery.id}/files/${encodeURIComponent(file.name)}`}
              download={file.name}
            >
              <Download size={15} className="shrink-0 text-link" />
              <span className="flex-1">{fileText(file, delivery.files)}</span>
              <span className="text-small text-dim">{bytes(file.size)}</span>
            </a>
          ))}
          {delivery.files.length > 1 && (
            <a
              className="flex items-center gap-2 rounded px-1.5 py-1 hover:bg-tint"
              href={`/api/deliveries/${delivery.id}/all.zip`}
              download
            >
              <Archive size={15} className="shrink-0 text-link" />
              <span className="flex-1">All of them as one ZIP</span>
            </a>
          )}
        </>
      )}
      {(delivery.status === "failed" || delivery.status === "cancelled") && (
        <div className="flex items-center justify-between gap-3">
          <span className={delivery.status === "failed" ? "text-clay" : "text-dim"}>
            {delivery.error ?? "Stopped; nothing was kept."}
          </span>
          <Button onClick={() => act("retry")}>Do it again</Button>
        </div>
      )}
    </div>
  );
}
