/** What can be set of a layer. */
import { useQuery } from "@tanstack/react-query";
import { useEffect, useRef, useState } from "react";
import { api, type FinishView, type Piece, type Schemas, type Shape, takeAs } from "../api/client";
import { Swatch } from "../dress/ColourField";
import { ENTRANCES, EXITS } from "../dress/MotionTab";
import { make } from "../dress/scope";
import { edit } from "../state/commands";
import { pickedWord } from "../state/session";
import { useProject } from "../state/store";
import { Button } from "../ui/Button";
import { say } from "../ui/notice";
import { Segments } from "../ui/Segments";
import { Select } from "../ui/Select";
import type { Layer, Lettered } from "./layers";
import { PictureChoice } from "./PictureChoice";
import { Amount } from "./PictureSection";
import { shapeName } from "./shapes";

type Place = Schemas["LayerPlace"];
type Changes = Schemas["LayerChanges"];
type Wave = Schemas["Wave"];
type Coming = Exclude<Changes["coming"], undefined>;
type Going = Exclude<Changes["going"], undefined>;

const NO_PIECES: Piece[] = [];
const WHEN = { cue_ids: [], intro: false };

export function LayerFields({ piece, shape, layer }: { piece: Piece; shape: Shape; layer: Layer }) {
  const picked = useProject((state) => state.picked);
  const word = useProject((state) => pickedWord(state, state.word ?? state.doubt));
  const pieces = useProject((state) => state.project?.pieces ?? NO_PIECES);
  const place = shape.places[layer.id];
  const ids = { piece_id: piece.id, layer_id: layer.id };
  const change = (changes: Partial<Changes>, dragged = false) =>
    make({ kind: "change_layer", ...ids, changes }, dragged);
  const put = (changes: Partial<Place>) =>
    make({ kind: "place_layer", ...ids, shape_id: shape.id, changes }, true);
  const letters = "finish" in layer;
  const ring = layer.kind === "waveform" && layer.wave.form === "ring";
  if (!place) return null;
  const share = { step: 0.5, unit: "%", per: 100 };
  const others = pieces.filter((one) => one.id !== piece.id);
  return (
    <div className="space-y-1 border-t border-line bg-page px-2 py-2">
      {layer.kind === "headline" && (
        <Headline text={layer.text} onChange={(text) => change({ text })} />
      )}
      {layer.kind === "picture" && (
        <PictureChoice chosen={layer.picture} onChoose={(picture) => change({ picture })} />
      )}
      {layer.kind === "waveform" && (
        <WaveFields wave={layer.wave} set={(wave, dragged) => change({ wave }, dragged)} />
      )}
      {letters && <LayerFinish piece={piece} layer={layer} />}
      {"colour" in layer && (
        <Field name="Colour">
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
        </Field>
      )}
      {layer.kind === "bubble" && (
        <Field name="Tail">
          <Select
            label="Tail of the bubble"
            options={TAILS}
            chosen={layer.tail}
            onChoose={(tail) => change({ tail })}
          />
        </Field>
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
      {letters && (
        <Amount
          {...{ label: "Size", min: 2, max: 24, ...share, step: 0.2 }}
          stored={place.size}
          set={(size) => put({ size })}
        />
      )}
      {!letters && layer.kind !== "picture" && !ring && (
        <Amount
          {...{ label: "Height", min: 0.2, max: 150, ...share, step: 0.1 }}
          stored={place.height}
          set={(height) => put({ height })}
        />
      )}
      {"radius" in layer && (
        <Amount
          {...{ label: "Roundness", min: 0, max: 100, step: 1, unit: "%", per: 200 }}
          stored={layer.radius}
          set={(radius) => change({ radius }, true)}
        />
      )}
      <Amount
        {...{ label: "Turn", min: -180, max: 180, step: 1, unit: "°", per: 1 }}
        stored={place.turn}
        set={(turn) => put({ turn })}
      />
      <Amount
        {...{ label: "Opacity", min: 0, max: 100, step: 1, unit: "%", per: 100 }}
        stored={layer.opacity}
        set={(opacity) => change({ opacity }, true)}
      />
      {layer.kind !== "clock" && (
        <Field name="Comes, goes">
          <Select
            label="How the layer comes"
            options={ways(letters, ENTRANCES)}
            chosen={wayOf(letters, layer.coming)}
            onChoose={(coming) => change({ coming: coming as Coming })}
          />
          <Select
            label="How the layer goes"
            options={ways(letters, EXITS)}
            chosen={wayOf(letters, layer.going)}
            onChoose={(going) => change({ going: going as Going })}
          />
        </Field>
      )}
      <Field name="Shows">
        <Select
          label="When the layer shows"
          options={[
            { value: "always", text: "all the time" },
            { value: "intro", text: "before the first caption" },
            ...(picked.size || layer.during
              ? [
                  {
                    value: "words",
                    text: `over the words of ${layer.during ? "a" : "this"} caption`,
                  },
                ]
              : []),
          ]}
          chosen={layer.during ? "words" : layer.intro ? "intro" : "always"}
          onChoose={(when) =>
            void edit({
              kind: "last_layer",
              ...ids,
              cue_ids: when === "words" ? [...picked] : [],
              intro: when === "intro",
            })
          }
        />
      </Field>
      {word && (
        <Field name="Of the word">
          <Button
            className="h-7 min-w-0 flex-1 px-1"
            title={`Show it from “${word.text}” on`}
            onClick={() => void edit({ kind: "last_layer", ...ids, ...WHEN, from_word: word.id })}
          >
            <span className="truncate">From “{word.text}”</span>
          </Button>
          <Button
            className="h-7 min-w-0 flex-1 px-1"
            title={`Show it up to the end of “${word.text}”`}
            onClick={() => void edit({ kind: "last_layer", ...ids, ...WHEN, to_word: word.id })}
          >
            <span className="truncate">To “{word.text}”</span>
          </Button>
        </Field>
      )}
      {others.length > 0 && (
        <Field name="Copy to">
          <Select
            label="Copy the layer to another piece"
            options={others.map((one) => ({ value: one.id, text: one.name }))}
            chosen={0}
            shown="another piece …"
            onChoose={(to) =>
              void edit({ kind: "copy_layer", ...ids, to_piece_id: to }).then(
                (made) =>
                  made && say(`It is in “${others.find((one) => one.id === to)?.name}” too.`),
              )
            }
          />
        </Field>
      )}
      <p className="text-small text-dim">Place and size in {shapeName(shape)} alone.</p>
    </div>
  );
}

function Field({ name, children }: { name: string; children: React.ReactNode }) {
  return (
    <div className="flex min-h-7 items-center gap-2">
      <span className="w-[86px] shrink-0">{name}</span>
      {children}
    </div>
  );
}

const TAILS = [
  { value: "lower_left", text: "Below, left" },
  { value: "lower_right", text: "Below, right" },
  { value: "upper_left", text: "Above, left" },
  { value: "upper_right", text: "Above, right" },
] as const;

const FORMS = [
  { value: "mirrored", text: "Mirrored" },
  { value: "bars", text: "Bars" },
  { value: "line", text: "Line" },
  { value: "ring", text: "Ring" },
] as const;

function WaveFields(props: { wave: Wave; set: (wave: Wave, dragged?: boolean) => void }) {
  const { wave, set } = props;
  return (
    <>
      <Segments
        label="Form of the waveform"
        choices={FORMS}
        chosen={wave.form}
        onChoose={(form) => set({ ...wave, form })}
      />
      <Amount
        {...{ label: "Marks", min: 8, max: 120, step: 1, unit: "", per: 1 }}
        stored={wave.count}
        set={(count) => set({ ...wave, count: Math.round(count) }, true)}
      />
      <Amount
        {...{ label: "Thickness", min: 8, max: 100, step: 1, unit: "%", per: 100 }}
        stored={wave.thick}
        set={(thick) => set({ ...wave, thick }, true)}
      />
      <Amount
        {...{ label: "Smoothness", min: 0, max: 400, step: 10, unit: "ms", per: 1 }}
        stored={wave.smooth_ms}
        set={(ms) => set({ ...wave, smooth_ms: Math.round(ms) }, true)}
      />
    </>
  );
}

const THE_PIECES = "";

/** The finish that a layer's letters are in. */
function LayerFinish({ piece, layer }: { piece: Piece; layer: Lettered }) {
  const { data } = useQuery({
    queryKey: ["finishes"],
    queryFn: () => takeAs<FinishView[]>(api.GET("/api/finishes")),
  });
  const all = data ?? [];
  return (
    <Field name="Finish">
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
    </Field>
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

type Way = { value: string; text: string };

/** How a layer can come or go: letters as their finish does it, what has none at once. */
function ways(letters: boolean, known: Way[]): Way[] {
  if (letters) return [{ value: "own", text: "as its finish" }, ...known];
  return [{ value: "own", text: "at once" }, ...known.filter((one) => one.value !== "none")];
}

const wayOf = (letters: boolean, chosen: string | null | undefined): string =>
  !chosen || (!letters && chosen === "none") ? "own" : chosen;
