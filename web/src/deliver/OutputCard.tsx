/** One output of a piece: what it is, how large it will be, and its settings where they are opened. */
import { ChevronDown, ChevronRight, X } from "lucide-react";
import { useState } from "react";
import type { Schemas } from "../api/client";
import type { Player } from "../playback/player";
import { usePlayed } from "../playback/usePlayed";
import { Button } from "../ui/Button";
import { Check } from "../ui/Check";
import { bytes, clock } from "../ui/format";
import { IconButton } from "../ui/IconButton";
import { NumberField } from "../ui/NumberField";
import { Segments } from "../ui/Segments";
import { Select } from "../ui/Select";
import {
  about,
  CAPTION_NAMES,
  type Form,
  type Output,
  outputName,
  outputNote,
  type StillOutput,
  type TextOutput,
  type VideoOutput,
} from "./outputs";

type Planned = Schemas["PlannedView"];

/** Chosen, a size of one's own can be typed, beginning with this many lines or megabytes. */
const OWN_SIZE = -1;
const FIRST_OWN = 900;

export function OutputCard(props: {
  output: Output;
  forms: readonly Form[];
  /** The files it comes to. */
  planned: readonly Planned[];
  alone: boolean;
  player: Player | null;
  onChange: (output: Output) => void;
  onRemove: () => void;
}) {
  const { output, forms, planned, alone, player, onChange, onRemove } = props;
  const [open, setOpen] = useState(false);
  const name = outputName(output, forms);
  const note = outputNote(output);
  const lost = planned[0]?.not_held ?? [];
  const Arrow = open ? ChevronDown : ChevronRight;
  const size = planned.reduce((sum, one) => sum + one.size, 0);
  const seconds = planned.reduce((sum, one) => sum + one.seconds, 0);
  const work = output.kind === "video" && size > 0 ? about(seconds) : "";
  return (
    <li className="rounded border border-line bg-card">
      <div className="flex items-start gap-1 py-1 pr-1 pl-1.5">
        <button
          type="button"
          aria-expanded={open}
          className="flex min-w-0 flex-1 items-start gap-1 text-left hover:text-link"
          onClick={() => setOpen(!open)}
        >
          <Arrow size={15} aria-hidden className="mt-1 shrink-0" />
          <span className="min-w-0 flex-1">
            <span className="flex items-baseline gap-2">
              <span className="min-w-0 flex-1 truncate">{name}</span>
              <span className="shrink-0 text-small text-dim tabular">
                {size > 0 && `about ${bytes(size)}`}
              </span>
            </span>
            <span className="flex items-baseline gap-2 text-small text-dim">
              <span className="min-w-0 flex-1">{[note, work].filter(Boolean).join(" · ")}</span>
              <span className="shrink-0 text-link">{open ? "Fold settings" : "Settings"}</span>
            </span>
          </span>
        </button>
        <IconButton label={`Leave out ${name}`} disabled={alone} onClick={onRemove}>
          <X size={14} />
        </IconButton>
      </div>
      {open && (
        <div className="space-y-2 border-t border-line px-2.5 py-2">
          {output.kind === "video" && (
            <VideoFields output={output} forms={forms} onChange={onChange} />
          )}
          {output.kind === "text" && <TextFields output={output} onChange={onChange} />}
          {output.kind === "still" && (
            <StillFields output={output} player={player} onChange={onChange} />
          )}
          {lost.length > 0 && <p className="text-small text-dim">Not in it: {lost.join("; ")}.</p>}
          <ul aria-label={`Files of ${name}`} className="text-small wrap-anywhere text-dim">
            {planned.map((one) => (
              <li key={one.name}>{one.name}</li>
            ))}
          </ul>
        </div>
      )}
    </li>
  );
}

const SIZES = [0, 2160, 1440, 1080, 720, 540, 480, 360].map((value) => ({
  value,
  text: value ? `${value} lines` : "as the shape",
}));
const LARGEST = [0, 8, 10, 25, 50, 100, 250, 500].map((value) => ({
  value,
  text: value ? `${value} MB` : "as large as it comes",
}));
const FIRST_LARGEST = 20;
const RATES = [0, 24, 25, 30, 50, 60, 15, 12, 10].map((value) => ({
  value,
  text: value ? `${value} a second` : "as recorded",
}));
const QUALITIES = [
  { value: "small", text: "Small" },
  { value: "good", text: "Good" },
  { value: "fine", text: "Finest" },
] as const;
const LEFT_AS_IT_IS = "";
const LOUDNESS = [LEFT_AS_IT_IS, "-14", "-16", "-19", "-23"].map((value) => ({
  value,
  text: value ? `to ${value} LUFS` : "as it is",
}));

function VideoFields(props: {
  output: VideoOutput;
  forms: readonly Form[];
  onChange: (output: Output) => void;
}) {
  const { output, forms, onChange } = props;
  const form = forms.find((one) => one.form === output.form);
  const change = (changes: Partial<VideoOutput>) => onChange({ ...output, ...changes });
  const captions = (Object.keys(CAPTION_NAMES) as VideoOutput["captions"][])
    .filter((one) => form?.switchable || (one !== "switchable" && one !== "both"))
    .map((value) => ({ value, text: CAPTION_NAMES[value] }));
  return (
    <>
      <p className="text-small text-dim">{form?.about}</p>
      <Row label="Quality">
        <Segments
          label="Quality"
          choices={QUALITIES}
          chosen={output.quality}
          onChoose={(quality) => change({ quality })}
        />
      </Row>
      <Row label="Size">
        <KnownOrTyped
          label="Size"
          typedLabel="Size in lines"
          known={SIZES}
          value={output.lines}
          first={FIRST_OWN}
          texts={{ other: "Another size", typed: `${output.lines} lines` }}
          step={2}
          min={120}
          max={2160}
          onChange={(lines) => change({ lines: lines && Math.max(120, Math.round(lines)) })}
        />
      </Row>
      {form?.sized && (
        <Row label="At most">
          <KnownOrTyped
            label="Largest file"
            typedLabel="Largest file in megabytes"
            known={LARGEST}
            value={output.most_mb}
            first={FIRST_LARGEST}
            texts={{ other: "another size", typed: "this size" }}
            step={1}
            min={0.1}
            max={100_000}
            onChange={(most_mb) => change({ most_mb })}
          />
        </Row>
      )}
      <Row label="Frames">
        <Select
          label="Frames"
          options={RATES}
          chosen={output.rate}
          onChoose={(rate) => change({ rate })}
        />
      </Row>
      {output.form !== "overlay" && (
        <Row label="Captions">
          <Select
            label="Captions"
            options={captions}
            chosen={output.captions}
            onChoose={(chosen) => change({ captions: chosen })}
          />
        </Row>
      )}
      {form?.sound && (
        <Row label="Loudness">
          <Select
            label="Loudness"
            options={LOUDNESS}
            chosen={output.loudness === null ? LEFT_AS_IT_IS : String(output.loudness)}
            onChoose={(text) => change({ loudness: text ? Number(text) : null })}
          />
        </Row>
      )}
    </>
  );
}

/** One of some values, or a number of one's own that is typed beside them. */
function KnownOrTyped(props: {
  label: string;
  typedLabel: string;
  known: { value: number; text: string }[];
  value: number;
  /** What is typed over, once a number of one's own is chosen. */
  first: number;
  texts: { other: string; typed: string };
  step: number;
  min: number;
  max: number;
  onChange: (value: number) => void;
}) {
  const { label, typedLabel, known, value, first, texts, step, min, max, onChange } = props;
  const typed = !known.some((one) => one.value === value);
  const own = typed ? { value, text: texts.typed } : { value: OWN_SIZE, text: texts.other };
  return (
    <div className="flex items-center gap-1">
      <Select
        label={label}
        className="min-w-0 flex-1"
        options={[...known, own]}
        chosen={value}
        onChoose={(chosen) => onChange(chosen === OWN_SIZE ? first : chosen)}
      />
      {typed && (
        <NumberField
          label={typedLabel}
          {...{ value, step, min, max }}
          onMove={onChange}
          onRest={() => undefined}
        />
      )}
    </div>
  );
}

function TextFields(props: { output: TextOutput; onChange: (output: Output) => void }) {
  const { output, onChange } = props;
  const change = (changes: Partial<TextOutput>) => onChange({ ...output, ...changes });
  const timed = { vtt: "When each word is said", ass: "Words light up", txt: "When each comes" };
  return (
    <>
      <Check
        label="Grouped as on the picture"
        checked={output.as_picture}
        onChange={(as_picture) => change({ as_picture })}
      />
      {output.form in timed && (
        <Check
          label={timed[output.form as keyof typeof timed]}
          checked={output.timed}
          onChange={(on) => change({ timed: on })}
        />
      )}
      {output.form === "vtt" && (
        <Check
          label="Places and a style sheet"
          checked={output.styled}
          onChange={(styled) => change({ styled })}
        />
      )}
      <Check
        label="Byte order mark, for older players"
        checked={output.mark}
        onChange={(mark) => change({ mark })}
      />
      <Check
        label="CRLF line ends, for older players"
        checked={output.crlf}
        onChange={(crlf) => change({ crlf })}
      />
    </>
  );
}

function StillFields(props: {
  output: StillOutput;
  player: Player | null;
  onChange: (output: Output) => void;
}) {
  const { output, player, onChange } = props;
  const { at } = usePlayed(player);
  const change = (changes: Partial<StillOutput>) => onChange({ ...output, ...changes });
  return (
    <>
      <div className="flex items-center gap-2">
        <button
          type="button"
          className="tabular text-link hover:underline"
          onClick={() => player?.seek(output.at_us)}
        >
          {clock(output.at_us)}
        </button>
        <Button className="ml-auto h-7" onClick={() => change({ at_us: Math.round(at) })}>
          Take this frame, {clock(at)}
        </Button>
      </div>
      <Row label="Kind">
        <Segments
          label="Kind"
          choices={[
            { value: "jpeg", text: "JPEG" },
            { value: "png", text: "PNG" },
          ]}
          chosen={output.form}
          onChoose={(form) => change({ form })}
        />
      </Row>
      <Check
        label="With its caption"
        checked={output.captions}
        onChange={(captions) => change({ captions })}
      />
      <Check
        label="With headline and other layers"
        checked={output.layers}
        onChange={(layers) => change({ layers })}
      />
    </>
  );
}

function Row({ label, children }: { label: string; children: React.ReactNode }) {
  return (
    <div className="flex items-center gap-2">
      <span className="w-[72px] shrink-0">{label}</span>
      <div className="min-w-0 flex-1">{children}</div>
    </div>
  );
}
