/** What is delivered: the files, of which shapes and stretches, under which names. */
import { useQuery } from "@tanstack/react-query";
import { useState } from "react";
import { api, type Piece, type Project, take, takeAs } from "../api/client";
import { TEXT_NAMES } from "../api/values";
import { shapeName } from "../frame/shapes";
import type { Player } from "../playback/player";
import { useStage } from "../stages/stage";
import { edit } from "../state/commands";
import { ofPiece } from "../state/samePiece";
import { Button } from "../ui/Button";
import { Check } from "../ui/Check";
import { bytes } from "../ui/format";
import { say } from "../ui/notice";
import { Select } from "../ui/Select";
import { TraySection } from "../ui/TraySection";
import { useAsked } from "../ui/useAsked";
import { FilePace } from "./FilePace";
import { Naming } from "./Naming";
import { OutputCard } from "./OutputCard";
import { OutputSets } from "./OutputSets";
import { about, type Form, newOutput } from "./outputs";
import { type Stretch, Stretches } from "./Stretches";
import { Unfinished } from "./Unfinished";

const NOTHING = "";

export function FilesTab(props: { project: Project; piece: Piece; player: Player | null }) {
  const { project, piece, player } = props;
  const [left, setLeft] = useState<ReadonlySet<number>>(new Set());
  const [stretches, setStretches] = useState<readonly Stretch[]>([]);
  const wanted = piece.shapes.filter((one) => !left.has(one.id));
  const body = { shape_ids: wanted.map((one) => one.id), stretches: [...stretches] };
  const path = { piece_id: piece.id };
  const { data: forms = [] } = useQuery({
    queryKey: ["forms"],
    queryFn: () => takeAs<Form[]>(api.GET("/api/forms")),
  });
  const { data: planned = [] } = useQuery({
    queryKey: ["planned", piece.id, project.revision, project.deliveries.length, body],
    placeholderData: ofPiece(piece.id),
    retry: false,
    queryFn: () => take(api.POST("/api/pieces/{piece_id}/planned", { params: { path }, body })),
  });
  const [outputs, set] = useAsked(piece.outputs, (asked) =>
    edit({ kind: "set_outputs", piece_id: piece.id, outputs: asked }),
  );
  const deliver = () =>
    take(api.POST("/api/pieces/{piece_id}/deliveries", { params: { path }, body }))
      .then(() => useStage.setState({ deliverTab: "Deliveries" }))
      .catch((error: Error) => say(error.message, "wrong"));
  const size = planned.reduce((sum, one) => sum + one.size, 0);
  const seconds = planned.reduce((sum, one) => sum + one.seconds, 0);
  return (
    <>
      <TraySection>
        <OutputSets outputs={outputs} onChoose={set} />
        <ul aria-label="Files to deliver" className="space-y-1.5">
          {outputs.map((output, index) => (
            <OutputCard
              // Two of a kind may be alike but for what is being changed.
              // biome-ignore lint/suspicious/noArrayIndexKey: they are known by their place alone
              key={index}
              output={output}
              forms={forms}
              planned={planned.filter(
                (one) => JSON.stringify(one.output) === JSON.stringify(output),
              )}
              alone={outputs.length === 1}
              player={player}
              onChange={(changed) => set(outputs.with(index, changed))}
              onRemove={() => set(outputs.filter((_, other) => other !== index))}
            />
          ))}
        </ul>
        <Select
          label="Add a file"
          options={[
            { value: NOTHING, text: "Add a file …" },
            ...forms.map((one) => ({ value: `video:${one.form}`, text: one.name })),
            ...Object.entries(TEXT_NAMES).map(([form, name]) => ({
              value: `text:${form}`,
              text: name,
            })),
            { value: "still:jpeg", text: "Cover frame" },
          ]}
          chosen={NOTHING}
          onChoose={(value) => value && set([...outputs, newOutput(value, player?.at ?? 0)])}
        />
      </TraySection>
      {piece.shapes.length > 1 && (
        <TraySection title="Shapes">
          {piece.shapes.map((one) => (
            <Check
              key={one.id}
              label={`${shapeName(one)}, ${one.width} × ${one.height}`}
              checked={!left.has(one.id)}
              onChange={(on) => {
                const next = new Set(left);
                if (on) next.delete(one.id);
                else next.add(one.id);
                setLeft(next);
              }}
            />
          ))}
        </TraySection>
      )}
      <Stretches piece={piece} player={player} chosen={stretches} onChange={setStretches} />
      <Naming piece={piece} outputs={outputs} example={planned[0]?.name} />
      <FilePace piece={piece} />
      <div className="sticky -bottom-4 -mx-4 -mb-4 border-t border-line bg-page px-4 py-3">
        <Unfinished project={project} />
        <Button
          kind="main"
          className="w-full"
          disabled={!wanted.length || !planned.length}
          onClick={() => void deliver()}
        >
          {wanted.length > 1 ? `Deliver ${wanted.length} shapes` : "Deliver this piece"}
        </Button>
        <p className="mt-1 text-center text-small text-dim">
          {planned.length} {planned.length === 1 ? "file" : "files"}, about {bytes(size)},{" "}
          {about(seconds)}
        </p>
      </div>
    </>
  );
}
