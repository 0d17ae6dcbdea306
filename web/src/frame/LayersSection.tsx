/** What stands over the picture besides captions: headline, progress bar, clock, who speaks, plate. */
import { useQuery } from "@tanstack/react-query";
import {
  ArrowDown,
  ArrowUp,
  Clock,
  Heading,
  type LucideIcon,
  Minus,
  RectangleHorizontal,
  Trash2,
  User,
} from "lucide-react";
import { useEffect, useRef, useState } from "react";
import { api, type FinishView, type Piece, type Schemas, type Shape, takeAs } from "../api/client";
import { Swatch } from "../dress/ColourField";
import { make } from "../dress/scope";
import { edit } from "../state/commands";
import { openPiece, useProject } from "../state/store";
import { Button } from "../ui/Button";
import { IconButton } from "../ui/IconButton";
import { Select } from "../ui/Select";
import { TraySection } from "../ui/TraySection";
import { type Kind, type Layer, NAMES } from "./layers";
import { Amount } from "./PictureSection";
import { shapeName } from "./shapes";

type Place = Schemas["LayerPlace"];
type Changes = Schemas["LayerChanges"];

const ICONS: [Kind, LucideIcon][] = [
  ["headline", Heading],
  ["bar", Minus],
  ["plate", RectangleHorizontal],
  ["clock", Clock],
  ["speaker", User],
];

export function LayersSection({ piece, shape }: { piece: Piece; shape: Shape }) {
  const [open, setOpen] = useState<number | null>(null);
  const add = async (kind: Kind) => {
    const text = kind === "headline" ? piece.name : "";
    const known = new Set(piece.layers.map((one) => one.id));
    if (!(await edit({ kind: "add_layer", piece_id: piece.id, layer: kind, text }))) return;
    const fresh = openPiece(useProject.getState())?.layers.find((one) => !known.has(one.id));
    if (fresh) setOpen(fresh.id);
  };
  return (
    <TraySection
      title="Layers"
      about="Under the captions, in every shape; each shape has its own places."
    >
      <div className="flex flex-wrap gap-1.5">
        {ICONS.map(([kind, Icon]) => (
          <Button key={kind} className="gap-1.5 px-2" onClick={() => void add(kind)}>
            <Icon size={14} /> {NAMES[kind]}
          </Button>
        ))}
      </div>
      {piece.layers.length > 0 && (
        <ul aria-label="Layers" className="divide-y divide-line rounded border border-line bg-card">
          {[...piece.layers].reverse().map((layer) => (
            <li key={layer.id}>
              <div className="flex items-center gap-1 px-2 py-1">
                <button
                  type="button"
                  aria-expanded={open === layer.id}
                  className="min-w-0 flex-1 truncate text-left hover:underline"
                  onClick={() => setOpen(open === layer.id ? null : layer.id)}
                >
                  {NAMES[layer.kind]}
                  {layer.text && <span className="text-dim"> · {layer.text}</span>}
                </button>
                {piece.layers.length > 1 && (
                  <>
                    <Raise piece={piece} layer={layer} by={1} />
                    <Raise piece={piece} layer={layer} by={-1} />
                  </>
                )}
                <IconButton
                  label={`Take ${NAMES[layer.kind]} away`}
                  onClick={() =>
                    void edit({ kind: "drop_layer", piece_id: piece.id, layer_id: layer.id })
                  }
                >
                  <Trash2 size={14} />
                </IconButton>
              </div>
              {open === layer.id && <LayerFields piece={piece} shape={shape} layer={layer} />}
            </li>
          ))}
        </ul>
      )}
    </TraySection>
  );
}

function Raise({ piece, layer, by }: { piece: Piece; layer: Layer; by: 1 | -1 }) {
  const Icon = by > 0 ? ArrowUp : ArrowDown;
  return (
    <IconButton
      label={`${NAMES[layer.kind]} ${by > 0 ? "higher" : "lower"}`}
      onClick={() => void edit({ kind: "raise_layer", piece_id: piece.id, layer_id: layer.id, by })}
    >
      <Icon size={14} />
    </IconButton>
  );
}

function LayerFields({ piece, shape, layer }: { piece: Piece; shape: Shape; layer: Layer }) {
  const picked = useProject((state) => state.picked);
  const place = shape.places[layer.id];
  const ids = { piece_id: piece.id, layer_id: layer.id };
  const change = (changes: Partial<Changes>, dragged = false) =>
    make({ kind: "change_layer", ...ids, changes }, dragged);
  const put = (changes: Partial<Place>) =>
    make({ kind: "place_layer", ...ids, shape_id: shape.id, changes }, true);
  const letters = layer.kind !== "bar" && layer.kind !== "plate";
  if (!place) return null;
  const share = { step: 0.5, unit: "%", per: 100 };
  return (
    <div className="space-y-1 border-t border-line bg-page px-2 py-2">
      {layer.kind === "headline" && (
        <Headline text={layer.text} onChange={(text) => change({ text })} />
      )}
      {letters && <LayerFinish piece={piece} layer={layer} />}
      {!letters && (
        <div className="flex min-h-7 items-center gap-2">
          <span className="w-[86px]">Colour</span>
          <Swatch
            label="Colour of the layer"
            colour={layer.colour}
            onChange={(colour) => change({ colour }, true)}
          />
          {layer.kind === "bar" && (
            <Swatch
              label="Colour under the bar"
              colour={layer.under}
              onChange={(under) => change({ under }, true)}
            />
          )}
        </div>
      )}
      <Amount
        {...{ label: "Up and down", min: 0, max: 100, ...share }}
        stored={place.y}
        set={(y) => put({ y })}
      />
      <Amount
        {...{ label: "Sideways", min: 0, max: 100, ...share }}
        stored={place.x}
        set={(x) => put({ x })}
      />
      <Amount
        {...{ label: "Width", min: 5, max: 100, ...share }}
        stored={place.width}
        set={(width) => put({ width })}
      />
      {letters ? (
        <Amount
          {...{ label: "Size", min: 2, max: 24, ...share, step: 0.2 }}
          stored={place.size}
          set={(size) => put({ size })}
        />
      ) : (
        <>
          <Amount
            {...{ label: "Height", min: 0.2, max: 150, ...share, step: 0.1 }}
            stored={place.height}
            set={(height) => put({ height })}
          />
          <Amount
            {...{ label: "Roundness", min: 0, max: 100, step: 1, unit: "%", per: 200 }}
            stored={layer.radius}
            set={(radius) => change({ radius }, true)}
          />
        </>
      )}
      <Amount
        {...{ label: "Opacity", min: 0, max: 100, step: 1, unit: "%", per: 100 }}
        stored={layer.opacity}
        set={(opacity) => change({ opacity }, true)}
      />
      <div className="flex min-h-7 items-center gap-2">
        <span className="w-[86px]">Shows</span>
        <span className="flex-1">{layer.during ? "for some words" : "all the time"}</span>
        <Button
          kind="quiet"
          disabled={!layer.during && !picked.size}
          onClick={() =>
            void edit({ kind: "last_layer", ...ids, cue_ids: layer.during ? [] : [...picked] })
          }
        >
          {layer.during ? "All the time" : "Only over this"}
        </Button>
      </div>
      <p className="text-small text-dim">Place and size in {shapeName(shape)} alone.</p>
    </div>
  );
}

const THE_PIECES = "";

/** The finish that a layer's letters are in. */
function LayerFinish({ piece, layer }: { piece: Piece; layer: Layer }) {
  const { data } = useQuery({
    queryKey: ["finishes"],
    queryFn: () => takeAs<FinishView[]>(api.GET("/api/finishes")),
  });
  const all = data ?? [];
  return (
    <div className="flex min-h-7 items-center gap-2">
      <span className="w-[86px] shrink-0">Finish</span>
      <Select
        label="Finish of the layer"
        className="min-w-0 flex-1"
        options={[
          { value: THE_PIECES, text: `the piece’s, ${piece.finish.name}` },
          ...all.map((one) => ({ value: one.finish.name, text: one.finish.name })),
        ]}
        chosen={layer.finish?.name ?? THE_PIECES}
        onChoose={(name) =>
          void edit({
            kind: "finish_layer",
            piece_id: piece.id,
            layer_id: layer.id,
            finish: all.find((one) => one.finish.name === name)?.finish ?? null,
          })
        }
      />
    </div>
  );
}

/** Typed text is sent when the field is left, or after a rest. */
function Headline({ text, onChange }: { text: string; onChange: (text: string) => void }) {
  const [typed, setTyped] = useState(text);
  const kept = useRef({ typed, text, onChange });
  kept.current = { typed, text, onChange };
  useEffect(() => setTyped(text), [text]);
  // What was typed is kept, also where the field goes away.
  useEffect(
    () => () => {
      const last = kept.current;
      if (last.typed !== last.text) last.onChange(last.typed);
    },
    [],
  );
  useEffect(() => {
    if (typed === text) return;
    const timer = window.setTimeout(() => onChange(typed), 700);
    return () => window.clearTimeout(timer);
  }, [typed, text, onChange]);
  return (
    <textarea
      aria-label="Text of the headline"
      rows={2}
      maxLength={400}
      className="w-full rounded border border-line bg-card px-2 py-1"
      value={typed}
      onChange={(event) => setTyped(event.target.value)}
      onBlur={() => typed !== text && onChange(typed)}
    />
  );
}
