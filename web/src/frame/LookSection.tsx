/** How the picture looks: grades of our own on a frame of the piece, and each part by itself. */
import { useState } from "react";
import type { Piece, Schemas, Shape } from "../api/client";
import { GRADES } from "../api/values";
import { make } from "../dress/scope";
import type { Player } from "../playback/player";
import { edit } from "../state/commands";
import { useProject } from "../state/store";
import { Button } from "../ui/Button";
import { PictureTile } from "../ui/PictureTile";
import { Select } from "../ui/Select";
import { TraySection } from "../ui/TraySection";
import { Amount } from "./PictureSection";
import { gradeSheet } from "./transitions";

type Grade = Schemas["Grade"];
type Part = keyof Grade;

const NO_SOURCES: Schemas["SourceView"][] = [];
const WHOLE = 0;
const NAMES = ["As recorded", ...Object.keys(GRADES)];

/** Parts whose middle changes nothing, and parts that are put on. */
const BOTH_WAYS: [Part, string][] = [
  ["contrast", "Contrast"],
  ["shadows", "Shadows"],
  ["lights", "Lights"],
  ["saturation", "Colourful"],
  ["warmth", "Warmth"],
  ["tint", "Tint"],
];
const PUT_ON: [Part, string][] = [
  ["vignette", "Dark corners"],
  ["grain", "Grain"],
  ["softness", "Softness"],
];

export function LookSection(props: { piece: Piece; shape: Shape; player: Player | null }) {
  const { piece, shape, player } = props;
  const sources = useProject((state) => state.project?.sources ?? NO_SOURCES);
  const pictured = sources.filter((one) => one.width > 0);
  const [scope, setScope] = useState(WHOLE);
  const [atUs] = useState(() => (player?.media.currentTime ?? 0) * 1e6 || piece.duration_us / 3);
  const source_id = scope === WHOLE ? null : scope;
  const grade =
    scope === WHOLE
      ? piece.grades.whole
      : piece.grades.sources.find((one) => one.source_id === scope)?.grade;
  const ids = { kind: "grade_picture", piece_id: piece.id, source_id } as const;
  const set = (part: Part) => (value: number) =>
    make({ ...ids, changes: { [part]: value }, afresh: false }, true);
  const graded = grade && Object.values(grade).some((value) => value !== 0);
  return (
    <>
      <TraySection title="Look" about="How bright, how warm, how clear; delivered as it is seen.">
        {pictured.length > 1 && (
          <Select
            label="What it is about"
            options={[
              { value: WHOLE, text: "The whole picture" },
              ...pictured.map((one) => ({ value: one.id, text: one.name })),
            ]}
            chosen={scope}
            onChoose={setScope}
          />
        )}
        <div role="radiogroup" aria-label="Grades" className="grid grid-cols-4 items-start gap-1.5">
          {NAMES.map((name, column) => (
            <GradeTile
              key={name}
              name={name}
              sheet={gradeSheet(piece, shape, atUs)}
              column={column}
              tall={shape.height > shape.width}
              chosen={same(grade, name)}
              onPick={() => void edit({ ...ids, changes: of(name), afresh: true })}
            />
          ))}
        </div>
      </TraySection>
      <TraySection title="By hand">
        <Amount
          {...{ label: "Exposure", min: -2, max: 2, step: 0.05, unit: "EV", per: 1 }}
          stored={grade?.exposure ?? 0}
          set={set("exposure")}
        />
        {BOTH_WAYS.map(([part, label]) => (
          <Amount
            key={part}
            {...{ label, min: -100, max: 100, step: 1, unit: "%", per: 100 }}
            stored={grade?.[part] ?? 0}
            set={set(part)}
          />
        ))}
        {PUT_ON.map(([part, label]) => (
          <Amount
            key={part}
            {...{ label, min: 0, max: 100, step: 1, unit: "%", per: 100 }}
            stored={grade?.[part] ?? 0}
            set={set(part)}
          />
        ))}
        {graded && (
          <Button
            className="w-full"
            onClick={() => void edit({ ...ids, changes: {}, afresh: true })}
          >
            As recorded again
          </Button>
        )}
      </TraySection>
    </>
  );
}

const of = (name: string): Partial<Grade> => GRADES[name as keyof typeof GRADES] ?? {};

/** Whether a grade is one of ours, or none of them as nothing is set. */
function same(grade: Grade | undefined, name: string): boolean {
  const wanted = of(name);
  const values = Object.entries(grade ?? {});
  return (
    values.every(([part, value]) => value === (wanted[part as Part] ?? 0)) && named(name, grade)
  );
}

const named = (name: string, grade: Grade | undefined): boolean =>
  grade !== undefined || name === NAMES[0];

function GradeTile(props: {
  name: string;
  sheet: string;
  column: number;
  tall: boolean;
  chosen: boolean;
  onPick: () => void;
}) {
  const { sheet, column, tall, ...choice } = props;
  return (
    <PictureTile {...choice} size={tall ? "h-20 w-[45px]" : "h-11 w-full"}>
      <span
        className="absolute inset-0"
        style={{
          backgroundImage: `url("${sheet}")`,
          backgroundSize: `${NAMES.length * 100}% 100%`,
          backgroundPositionX: `${(column / (NAMES.length - 1)) * 100}%`,
        }}
      />
    </PictureTile>
  );
}
