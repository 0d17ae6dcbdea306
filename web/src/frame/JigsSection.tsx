/** Jigs: how a piece is made, under a name; made of this piece, given to it, taken along as files. */
import { useQuery, useQueryClient } from "@tanstack/react-query";
import { Trash2 } from "lucide-react";
import { useRef, useState } from "react";
import { api, type Piece, type Schemas, sendFile, take, takeAs } from "../api/client";
import { FileButton } from "../api/download";
import { edit } from "../state/commands";
import { Button } from "../ui/Button";
import { FilePick } from "../ui/FilePick";
import { IconButton } from "../ui/IconButton";
import { attempt, say } from "../ui/notice";
import { TraySection } from "../ui/TraySection";
import { Outline } from "./ShapeList";

type Jig = Schemas["JigView"];
const QUERY = ["jigs"];

export function JigsSection({ piece }: { piece: Piece }) {
  const client = useQueryClient();
  const [name, setName] = useState("");
  const file = useRef<HTMLInputElement>(null);
  const { data } = useQuery({
    queryKey: QUERY,
    queryFn: () => takeAs<Jig[]>(api.GET("/api/jigs")),
  });
  const again = () => client.invalidateQueries({ queryKey: QUERY });
  const save = async () => {
    await take(
      api.POST("/api/pieces/{piece_id}/jig", {
        params: { path: { piece_id: piece.id } },
        body: { name },
      }),
    );
    say(`“${name.trim()}” is kept.`);
    setName("");
    await again();
  };
  const remove = async (id: number) => {
    await take(api.DELETE("/api/jigs/{jig_id}", { params: { path: { jig_id: id } } }));
    await again();
  };
  const bringIn = async (chosen: File) => {
    const made = await sendFile<Jig>("/api/jigs/file", chosen);
    say(`“${made.jig.name}” is kept.`);
    await again();
  };
  return (
    <TraySection
      title="Jigs"
      about="Shapes, framing, layers, finish and pace in one action. What the piece says stays."
    >
      <ul aria-label="Jigs" className="space-y-1.5">
        {data?.map((one) => (
          <JigCard
            key={one.id ?? one.jig.name}
            one={one}
            onUse={() =>
              void edit({
                kind: "apply_jig",
                piece_id: piece.id,
                jig: one.jig,
                texts: [],
                pictures: [],
              })
            }
            onRemove={(id) => void attempt(remove(id))}
          />
        ))}
      </ul>
      <form
        className="flex gap-2 pt-1"
        onSubmit={(event) => {
          event.preventDefault();
          void attempt(save());
        }}
      >
        <input
          aria-label="Name of a jig made of this piece"
          placeholder="Keep this piece’s as …"
          maxLength={40}
          className="h-8 min-w-0 flex-1 rounded border border-line bg-card px-2"
          value={name}
          onChange={(event) => setName(event.target.value)}
        />
        <Button type="submit" disabled={!name.trim()}>
          Keep
        </Button>
        <Button onClick={() => file.current?.click()}>From a file</Button>
        <FilePick
          ref={file}
          label="A jig's file"
          accept=".json"
          onFiles={([chosen]) => chosen && void attempt(bringIn(chosen))}
        />
      </form>
    </TraySection>
  );
}

function JigCard(props: { one: Jig; onUse: () => void; onRemove: (id: number) => void }) {
  const { one, onUse, onRemove } = props;
  const { jig, id } = one;
  const parts = [
    jig.finish.name,
    ...(jig.layers?.length ? [`${jig.layers.length} layers`] : []),
    `${jig.pace.words} words a caption`,
  ];
  return (
    <li className="rounded border border-line bg-card px-2.5 py-2">
      <div className="flex items-center gap-1.5">
        <b className="min-w-0 flex-1 truncate">{jig.name}</b>
        {jig.shapes.map((shape) => (
          <Outline key={shape.id} shape={shape} />
        ))}
      </div>
      <p className="text-small text-dim">{jig.about || parts.join(" · ")}</p>
      <div className="mt-1 flex items-center gap-2">
        <Button aria-label={`Use ${jig.name}`} onClick={onUse}>
          Use
        </Button>
        {id !== null && (
          <>
            <FileButton
              className="rounded border border-line bg-card px-2.5 py-1 hover:border-dim"
              url={`/api/jigs/${id}/file`}
            >
              As a file
            </FileButton>
            <IconButton
              label={`Forget the jig ${jig.name}`}
              className="ml-auto"
              onClick={() => onRemove(id)}
            >
              <Trash2 size={14} />
            </IconButton>
          </>
        )}
      </div>
    </li>
  );
}
