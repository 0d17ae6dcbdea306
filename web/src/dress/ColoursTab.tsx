/** Paints, rims, shadow and plates. */

import type { Piece } from "../api/client";
import { MOST_OUTLINES } from "../api/values";
import { Button } from "../ui/Button";
import { TraySection } from "../ui/TraySection";
import { PaintField } from "./ColourField";
import { PartField, PickField, SliderField } from "./fields";
import { ScopeBar } from "./ScopeBar";
import { useTarget } from "./scope";

const LIT = [
  { value: "word", text: "The word being said" },
  { value: "line", text: "The line being said" },
];
const BEHIND = [
  { value: "caption", text: "The whole caption" },
  { value: "line", text: "Each line" },
  { value: "word", text: "Each word" },
];
const TRAVEL = [
  { value: "slide", text: "Slide" },
  { value: "jump", text: "Jump" },
];

export function ColoursTab({ piece }: { piece: Piece }) {
  const target = useTarget(piece);
  const rims = (target.value("outlines") as { width: number; colour: number[] }[]) ?? [];
  const share = { min: 0, max: 60, step: 1, per: 100, unit: " %" };
  return (
    <>
      <ScopeBar />
      <TraySection title="Words" about="Not yet spoken, being spoken, spoken.">
        <PickField target={target} path="lit" label="Lit" choices={LIT} />
        <PaintField target={target} path="ahead" label="Ahead" gradient />
        <PaintField target={target} path="live" label="Live" gradient />
        <PaintField target={target} path="past" label="Past" gradient />
      </TraySection>
      <TraySection title="Around the letters">
        {rims.map((_, number) => (
          // biome-ignore lint/suspicious/noArrayIndexKey: rims are known by their order
          <div key={number} className="space-y-1 border-t border-line pt-2">
            <PaintField
              target={target}
              path={`outlines.${number}.colour`}
              label={`Outline ${number + 1}`}
            />
            <SliderField
              {...{
                target,
                path: `outlines.${number}.width`,
                label: "Width",
                of: `Outline ${number + 1}`,
                min: 0,
                max: 20,
                step: 0.5,
              }}
              per={100}
              unit=" %"
            />
          </div>
        ))}
        <div className="flex gap-2">
          {rims.length < MOST_OUTLINES && (
            <Button
              onClick={() =>
                target.set({ outlines: [...rims, { width: 0.05, colour: [20, 18, 16, 255] }] })
              }
            >
              Add an outline
            </Button>
          )}
          {rims.length > 0 && (
            <Button kind="quiet" onClick={() => target.set({ outlines: rims.slice(0, -1) })}>
              Remove the outer one
            </Button>
          )}
        </div>
        <PartField target={target} path="shadow" label="Shadow" make={{ "shadow.blur": 0.16 }}>
          <PaintField target={target} path="shadow.colour" of="Shadow" label="Colour" />
          <SliderField
            {...{ target, path: "shadow.blur", of: "Shadow", label: "Blur", ...share }}
          />
          <SliderField
            {...{ target, path: "shadow.dx", of: "Shadow", label: "Offset right", ...share }}
            min={-30}
            max={30}
          />
          <SliderField
            {...{ target, path: "shadow.dy", of: "Shadow", label: "Offset down", ...share }}
            min={-30}
            max={30}
          />
        </PartField>
      </TraySection>
      <TraySection title="Behind the letters">
        <PartField target={target} path="plate" label="Plate" make={{ "plate.behind": "line" }}>
          <PickField target={target} path="plate.behind" label="Behind" choices={BEHIND} />
          <PaintField target={target} path="plate.colour" of="Plate" label="Colour" />
          <SliderField
            {...{ target, path: "plate.pad_x", of: "Plate", label: "Sides", ...share }}
          />
          <SliderField
            {...{ target, path: "plate.pad_y", of: "Plate", label: "Top, foot", ...share }}
            min={-20}
          />
          <SliderField
            {...{ target, path: "plate.radius", of: "Plate", label: "Corners", ...share }}
          />
        </PartField>
        <PartField target={target} path="plank" label="Plank" make={{ "plank.travel": "slide" }}>
          <PickField target={target} path="plank.travel" label="Travel" choices={TRAVEL} />
          <PaintField target={target} path="plank.colour" of="Plank" label="Colour" />
          <SliderField
            {...{ target, path: "plank.pad_x", of: "Plank", label: "Sides", ...share }}
          />
          <SliderField
            {...{ target, path: "plank.pad_y", of: "Plank", label: "Top, foot", ...share }}
            min={-20}
          />
          <SliderField
            {...{ target, path: "plank.radius", of: "Plank", label: "Corners", ...share }}
          />
        </PartField>
      </TraySection>
    </>
  );
}
