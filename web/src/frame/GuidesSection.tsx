/** Guides over the preview, and the captions that are in the way. */
import { useQueryClient } from "@tanstack/react-query";
import { MoveVertical, Plus, X } from "lucide-react";
import { useState } from "react";
import { api, type Piece, type Shape, take } from "../api/client";
import type { Player } from "../playback/player";
import { edit } from "../state/commands";
import { select } from "../state/session";
import { useProject } from "../state/store";
import { Button } from "../ui/Button";
import { clock } from "../ui/format";
import { IconButton } from "../ui/IconButton";
import { NumberField } from "../ui/NumberField";
import { attempt } from "../ui/notice";
import { Select } from "../ui/Select";
import { TraySection } from "../ui/TraySection";
import { chooseGuide, type Guide, type InTheWay, useGuide, useGuidesOf } from "./guides";
import { LayerTroubles } from "./LayerTroubles";

const SHOWN = 6;
const SIDES = ["x", "y", "width", "height"] as const;
const NAMES = { x: "left", y: "top", width: "width", height: "height" };

export function GuidesSection(props: {
  piece: Piece;
  shape: Shape;
  player: Player | null;
  found: InTheWay | undefined;
}) {
  const { piece, shape, player, found } = props;
  const all = useGuidesOf(shape);
  const guide = useGuide(shape);
  const [editing, setEditing] = useState(false);
  return (
    <TraySection
      title="Guides"
      about="Where feeds and players put their own buttons. Never in what is delivered."
    >
      <div className="flex items-center gap-2">
        <Select
          label="Guide"
          className="min-w-0 flex-1"
          options={[
            { value: "", text: "No guide" },
            ...all.map((one) => ({ value: one.name, text: one.name })),
          ]}
          chosen={guide?.name ?? ""}
          onChoose={(name) => chooseGuide(shape.word, name)}
        />
        {guide && (
          <Button kind="quiet" aria-expanded={editing} onClick={() => setEditing(!editing)}>
            {editing ? "Done" : "Change"}
          </Button>
        )}
      </div>
      {guide && editing && <Areas guide={guide} />}
      {found && <Troubles piece={piece} shape={shape} player={player} found={found} />}
    </TraySection>
  );
}

/** The areas of a guide in per cent of the frame, typed over. */
function Areas({ guide }: { guide: Guide }) {
  const client = useQueryClient();
  const keep = (areas: Guide["areas"]) =>
    void attempt(
      (async () => {
        const known = await take(api.GET("/api/guides"));
        const guides = known.map((one) =>
          one.name === guide.name && one.shape === guide.shape ? { ...one, areas } : one,
        );
        client.setQueryData(["guides"], await take(api.PUT("/api/guides", { body: { guides } })));
        await client.invalidateQueries({ queryKey: ["in-the-way"] });
      })(),
    );
  const set = (at: number, change: Partial<Guide["areas"][number]>) =>
    keep(guide.areas.map((one, index) => (index === at ? { ...one, ...change } : one)));
  return (
    <div className="space-y-2 rounded border border-line bg-card p-2">
      {guide.areas.map((area, at) => (
        // biome-ignore lint/suspicious/noArrayIndexKey: areas have no name of their own
        <fieldset key={at} className="space-y-1">
          <legend className="sr-only">{area.about}</legend>
          <div className="flex gap-1">
            <input
              aria-label="What covers it"
              className="h-7 min-w-0 flex-1 rounded border border-line bg-page px-1.5"
              defaultValue={area.about}
              onBlur={(event) => {
                const about = event.target.value.trim();
                if (about && about !== area.about) set(at, { about });
              }}
            />
            <IconButton
              label={`Take the area “${area.about}” away`}
              onClick={() => keep(guide.areas.filter((_, index) => index !== at))}
            >
              <X size={14} />
            </IconButton>
          </div>
          <div className="flex justify-between">
            {SIDES.map((side) => (
              <span key={side} className="flex flex-col text-small text-dim">
                {NAMES[side]}
                <NumberField
                  label={`${area.about}: ${NAMES[side]}`}
                  value={area[side] * 100}
                  step={1}
                  min={0}
                  max={100}
                  unit="%"
                  onMove={(value) => set(at, { [side]: value / 100 })}
                  onRest={() => undefined}
                />
              </span>
            ))}
          </div>
        </fieldset>
      ))}
      <div className="flex justify-between">
        <Button
          kind="quiet"
          onClick={() =>
            keep([...guide.areas, { about: "area", x: 0.3, y: 0.4, width: 0.4, height: 0.2 }])
          }
        >
          <Plus size={14} /> Area
        </Button>
        <Button
          kind="quiet"
          onClick={() =>
            void attempt(
              take(api.DELETE("/api/guides")).then((guides) =>
                client.setQueryData(["guides"], guides),
              ),
            )
          }
        >
          All guides as at first
        </Button>
      </div>
    </div>
  );
}

function Troubles(props: { piece: Piece; shape: Shape; player: Player | null; found: InTheWay }) {
  const { piece, shape, player, found } = props;
  const cues = useProject((state) => state.cues);
  const [all, setAll] = useState(false);
  const { troubles, layers, help } = found;
  if (!troubles.length && !layers.length)
    return <p className="text-dim">No caption and no layer is in the way.</p>;
  const count = new Set(troubles.map((one) => one.cue_id)).size;
  const name = (id: number) =>
    cues
      .find((cue) => cue.id === id)
      ?.words.map((word) => word.text)
      .join(" ") ?? "";
  return (
    <div className="space-y-2">
      <LayerTroubles piece={piece} shape={shape} player={player} troubles={layers} />
      {count > 0 && (
        <p>
          <b className="text-clay">
            {count} {count === 1 ? "caption is" : "captions are"} in the way
          </b>
          {!help && (
            <span className="text-dim"> wherever they stand; try “Whole” or another zoom.</span>
          )}
        </p>
      )}
      {help && (
        <Button
          className="h-auto min-h-8 w-full whitespace-normal py-1"
          onClick={() =>
            void edit({
              kind: "dress_shape",
              piece_id: piece.id,
              shape_id: shape.id,
              changes: { ...shape.look, ...help.changes },
            })
          }
        >
          Move all of them{"size" in help.changes ? ", and make them smaller" : ""}:{" "}
          {help.left ? `${help.left} left` : "none left"}
        </Button>
      )}
      {count > 0 && (
        <ul className="divide-y divide-line rounded border border-line bg-card">
          {(all ? troubles : troubles.slice(0, SHOWN)).map((one) => (
            <li key={`${one.cue_id} ${one.kind} ${one.about}`} className="flex items-center">
              <button
                type="button"
                className="flex min-w-0 flex-1 gap-2 px-2 py-1 text-left hover:bg-tint"
                onClick={() => {
                  select(one.cue_id);
                  player?.seek(one.at_us);
                }}
              >
                <span className="tabular text-dim">{clock(one.at_us)}</span>
                <span className="min-w-0 flex-1 truncate">{name(one.cue_id)}</span>
                <span className="text-clay">{one.about.replace(".", "")}</span>
              </button>
              {one.alone && (
                <IconButton
                  label="Move this caption alone, in all shapes"
                  onClick={() => {
                    select(one.cue_id);
                    void edit({
                      kind: "dress_cues",
                      cue_ids: [one.cue_id],
                      changes: one.alone as Record<string, number>,
                    });
                  }}
                >
                  <MoveVertical size={14} />
                </IconButton>
              )}
            </li>
          ))}
        </ul>
      )}
      {troubles.length > SHOWN && (
        <button type="button" className="text-link underline" onClick={() => setAll(!all)}>
          {all ? "Fewer" : `All ${troubles.length}`}
        </button>
      )}
    </div>
  );
}
