/** The settings of one cutaway: which part is seen, how fast, how it lies in the frame, over which words. */
import type { Piece, Schemas, Shape } from "../api/client";
import { CUTAWAY_SPEEDS } from "../api/values";
import { make } from "../dress/scope";
import { edit } from "../state/commands";
import { pickedWord } from "../state/session";
import { useProject } from "../state/store";
import { Button } from "../ui/Button";
import { Segments } from "../ui/Segments";
import { Unfold } from "../ui/Unfold";
import { PlaceFields } from "./CutawayPlaceFields";
import type { Cutaway } from "./cutaways";
import { Amount } from "./PictureSection";
import { TransitionChoice } from "./TransitionChoice";
import { nameOf, type Transition } from "./transitions";

type Changes = Partial<Schemas["CutawayChanges"]>;

type Fit = Cutaway["framing"]["fit"];

const SOUNDS: { value: Cutaway["sound"]; text: string }[] = [
  { value: "off", text: "Off" },
  { value: "quiet", text: "Quiet" },
  { value: "heard", text: "Heard" },
];

const FITS: { value: Fit; text: string }[] = [
  { value: "fill", text: "Fills" },
  { value: "whole", text: "Whole" },
];

export function CutawayFields(props: {
  piece: Piece;
  shape: Shape;
  cutaway: Cutaway;
  /** Where in the piece it is seen first. */
  atUs: number;
  sources: readonly Schemas["SourceView"][];
}) {
  const { piece, shape, cutaway, atUs, sources } = props;
  const { seen, framing } = cutaway;
  const word = useProject((state) => pickedWord(state, state.word ?? state.doubt));
  const cue = useProject((state) => state.cues.find((one) => state.picked.has(one.id)));
  const ids = { piece_id: piece.id, cutaway_id: cutaway.id };
  const set = (changes: Changes) => make({ kind: "change_cutaway", ...ids, changes }, true);
  const recording =
    seen.kind === "recording" ? sources.find((one) => one.id === seen.source_id) : undefined;
  const first = word ?? cue?.words[0];
  const last = word ?? cue?.words.at(-1);
  const percent = { step: 0.5, unit: "%", per: 100 };
  const [slowest = 1, fastest = 1] = CUTAWAY_SPEEDS;
  return (
    <div className="space-y-1 border-t border-line bg-page px-2 py-2">
      {seen.kind === "recording" && recording && (
        <>
          <Amount
            {...{ label: "Begins at", min: 0, step: 0.1, unit: "s", per: 1e-6 }}
            max={Math.floor(recording.duration_us / 1e5) / 10}
            stored={seen.from_us}
            set={(us) => set({ from_us: Math.round(us) })}
          />
          <Amount
            {...{ label: "Speed", min: slowest, max: fastest, step: 0.05, unit: "×", per: 1 }}
            stored={cutaway.speed}
            set={(speed) => set({ speed })}
          />
        </>
      )}
      {seen.kind === "recording" && cutaway.speed === 1 && (
        <div className="flex min-h-7 items-center gap-2">
          <span className="w-[86px] shrink-0">Its sound</span>
          <Segments
            label="The sound of what is seen"
            choices={SOUNDS}
            chosen={cutaway.sound}
            onChoose={(sound) => set({ sound })}
          />
        </div>
      )}
      <div className="flex min-h-7 items-center gap-2">
        <span className="w-[86px] shrink-0">Frame</span>
        <Segments
          label="How the cutaway lies in the frame"
          choices={FITS}
          chosen={framing.fit}
          onChoose={(fit) =>
            void edit({ kind: "change_cutaway", ...ids, changes: { fit: fit as Fit } })
          }
        />
      </div>
      <PlaceFields cutaway={cutaway} set={set} />
      <Amount
        {...{ label: "Nearer", min: 20, max: 400, step: 1, unit: "%", per: 100 }}
        stored={framing.zoom}
        set={(zoom) => set({ zoom })}
      />
      <Amount
        {...{ label: "Sideways", min: 0, max: 100, ...percent }}
        stored={framing.x}
        set={(x) => set({ x })}
      />
      <Amount
        {...{ label: "Up and down", min: 0, max: 100, ...percent }}
        stored={framing.y}
        set={(y) => set({ y })}
      />
      <Amount
        {...{ label: "Comes nearer", min: -50, max: 50, step: 1, unit: "%", per: 100 }}
        stored={cutaway.drift}
        set={(drift) => set({ drift })}
      />
      <Amount
        {...{ label: "Opacity", min: 5, max: 100, step: 1, unit: "%", per: 100 }}
        stored={cutaway.opacity}
        set={(opacity) => set({ opacity })}
      />
      <Edge
        {...{ piece, shape, atUs }}
        name="Comes"
        chosen={cutaway.comes ?? null}
        onChoose={(comes) => set({ comes })}
      />
      <Edge
        {...{ piece, shape, atUs }}
        name="Goes"
        chosen={cutaway.goes ?? null}
        onChoose={(goes) => set({ goes })}
      />
      {first && last && (
        <div className="flex min-h-7 items-center gap-2">
          <Button
            className="h-7 min-w-0 flex-1 px-1"
            title={`See it from “${first.text}” on`}
            onClick={() => void edit({ kind: "move_cutaway", ...ids, from_word: first.id })}
          >
            <span className="truncate">From “{first.text}”</span>
          </Button>
          <Button
            className="h-7 min-w-0 flex-1 px-1"
            title={`See it up to the end of “${last.text}”`}
            onClick={() => void edit({ kind: "move_cutaway", ...ids, to_word: last.id })}
          >
            <span className="truncate">To “{last.text}”</span>
          </Button>
        </div>
      )}
    </div>
  );
}

/** How it comes, or goes: folded, since most come and go at once. */
function Edge(props: {
  piece: Piece;
  shape: Shape;
  atUs: number;
  name: "Comes" | "Goes";
  chosen: Transition | null;
  onChoose: (transition: Transition | null) => void;
}) {
  const { piece, shape, atUs, name, chosen, onChoose } = props;
  return (
    <Unfold title={`${name}: ${chosen ? nameOf(chosen.kind).toLowerCase() : "at once"}`}>
      <TransitionChoice
        {...{ piece, shape, atUs, chosen, onChoose, none: "At once" }}
        label={`How the cutaway ${name.toLowerCase()}`}
      />
    </Unfold>
  );
}
