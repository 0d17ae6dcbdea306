/** How many words make a caption, and the paces to choose from and to keep. */
import { useQuery, useQueryClient } from "@tanstack/react-query";
import { Trash2 } from "lucide-react";
import { Toggle } from "radix-ui";
import { useEffect, useState } from "react";
import { api, type Pace, type Piece, type Schemas, take } from "../api/client";
import { edit } from "../state/commands";
import { pickedIds } from "../state/picks";
import { useProject } from "../state/store";
import { Button } from "../ui/Button";
import { FIELD } from "../ui/fields";
import { attempt } from "../ui/notice";
import { Segments } from "../ui/Segments";
import { Slider } from "../ui/Slider";
import { Tip } from "../ui/Tip";
import { TraySection } from "../ui/TraySection";
import { PaceField, setPace } from "./PaceField";

const LINES = [1, 2, 3].map((value) => ({
  value,
  text: String(value),
  label: value === 1 ? "1 line" : `${value} lines`,
}));
const STEPS = [1, 2, 3, 4, 5, 6, 8, 10, 16];

export function GroupingSection({ piece }: { piece: Piece }) {
  const picked = useProject((state) => state.picked.size);
  const regroup = (cue_ids: number[], keep: boolean) =>
    void edit({ kind: "regroup", piece_id: piece.id, cue_ids, keep });
  return (
    <>
      <Paces piece={piece} />
      <TraySection
        title="Captions"
        about="Whole piece. Breaks and joins made by hand, pinned times and line ends stay."
      >
        <WordsSlider piece={piece} />
        <div className="flex items-center gap-2">
          <span className="flex-1">Lines</span>
          <Segments
            label="Lines"
            choices={LINES}
            chosen={piece.pace.lines}
            onChoose={(lines) => setPace(piece, { lines })}
          />
          <span className="w-[62px] text-dim">at most</span>
        </div>
        <PaceField piece={piece} name="line_chars" label="Line length" unit="characters" />
        <PaceField
          piece={piece}
          name="chars_per_s"
          label="Reading speed"
          unit="characters/s"
          hint="Faster captions are avoided, shown longer where there is room, and pointed out."
        />
      </TraySection>
      <TraySection title="Regroup">
        <div className="flex flex-wrap gap-2">
          <Button disabled={picked < 1} onClick={() => regroup(pickedIds(), true)}>
            Regroup {picked > 1 ? `these ${picked}` : "this caption"}
          </Button>
          <Tip text="Also where captions were split, joined or pinned by hand">
            <Button onClick={() => regroup([], false)}>Regroup all from scratch</Button>
          </Tip>
        </div>
      </TraySection>
    </>
  );
}

function Paces({ piece }: { piece: Piece }) {
  const client = useQueryClient();
  const [name, setName] = useState("");
  const paces = useQuery({ queryKey: ["paces"], queryFn: () => take(api.GET("/api/paces")) });
  const act = async (work: Promise<unknown>): Promise<boolean> => {
    const taken = await attempt(work);
    if (taken) await client.invalidateQueries({ queryKey: ["paces"] });
    return taken;
  };
  const known = paces.data?.find((one) => same(one.pace, piece.pace));
  const save = async () => {
    const body = { name, pace: piece.pace };
    if (await act(take(api.POST("/api/paces", { body })))) setName("");
  };
  return (
    <TraySection title="Pace">
      <ul className="grid grid-cols-2 gap-1.5">
        {paces.data?.map((one) => (
          <PaceRow
            key={one.name}
            pace={one}
            chosen={one === known}
            onChoose={() => setPace(piece, one.pace)}
            onRemove={(id) =>
              void act(
                take(api.DELETE("/api/paces/{pace_id}", { params: { path: { pace_id: id } } })),
              )
            }
          />
        ))}
      </ul>
      {paces.data && !known && (
        <form
          className="flex gap-2"
          onSubmit={(event) => {
            event.preventDefault();
            void save();
          }}
        >
          <input
            dir="auto"
            className={FIELD}
            aria-label="Name of the pace"
            placeholder="Keep this pace as …"
            value={name}
            onChange={(event) => setName(event.target.value)}
          />
          <Button type="submit" disabled={!name.trim()}>
            Keep
          </Button>
        </form>
      )}
    </TraySection>
  );
}

function PaceRow(props: {
  pace: Schemas["PaceView"];
  chosen: boolean;
  onChoose: () => void;
  onRemove: (id: number) => void;
}) {
  const { pace, chosen, onChoose, onRemove } = props;
  const { id } = pace;
  return (
    <li
      className={`flex items-center rounded border bg-card ${chosen ? "border-chalk" : "border-line hover:border-dim"}`}
    >
      <Toggle.Root
        pressed={chosen}
        onPressedChange={onChoose}
        className="min-w-0 flex-1 truncate px-2.5 py-1.5 text-left"
      >
        <b className="block truncate">{id === null ? capital(pace.name) : pace.name}</b>
        <span className="block truncate text-small text-dim">{inSize(pace.pace.words)}</span>
      </Toggle.Root>
      {id !== null && (
        <Tip text="Forget this pace; pieces keep it">
          <button
            type="button"
            aria-label={`Forget ${pace.name}`}
            className="mr-1 rounded p-1 text-dim hover:bg-tint hover:text-ink"
            onClick={() => onRemove(id)}
          >
            <Trash2 size={14} />
          </button>
        </Tip>
      )}
    </li>
  );
}

function WordsSlider({ piece }: { piece: Piece }) {
  const { words } = piece.pace;
  const [step, setStep] = useState(nearest(words));
  useEffect(() => setStep(nearest(words)), [words]);
  const commit = (last: number) => {
    if (last !== nearest(words)) setPace(piece, { words: STEPS[last] ?? 3 });
  };
  return (
    <div>
      <span className="flex justify-between">
        <span>Words</span>
        <span className="text-dim">{inSize(STEPS[step] ?? words)}</span>
      </span>
      <Slider
        label="Words a caption"
        valueText={inSize(STEPS[step] ?? words)}
        className="mt-1 w-full"
        min={0}
        max={STEPS.length - 1}
        step={1}
        value={step}
        onMove={setStep}
        onRest={commit}
      />
      <span className="flex justify-between text-small text-dim">
        <span>one word</span>
        <span>sentence</span>
      </span>
    </div>
  );
}

const nearest = (words: number): number => {
  const found = STEPS.findIndex((step) => step >= words);
  return found < 0 ? STEPS.length - 1 : found;
};

function inSize(words: number): string {
  if (words === 1) return "one word at a time";
  return words >= 16 ? "a sentence or a clause" : `up to ${words} words`;
}

const capital = (text: string): string => text.charAt(0).toUpperCase() + text.slice(1);

function same(a: Pace, b: Pace): boolean {
  return (Object.keys(a) as (keyof Pace)[]).every((key) => a[key] === b[key]);
}
