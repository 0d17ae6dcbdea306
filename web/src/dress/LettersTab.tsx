/** Letters and where they stand. */
import { useQuery } from "@tanstack/react-query";
import { api, type Piece, take } from "../api/client";
import { TraySection } from "../ui/TraySection";
import { PickField, SliderField } from "./fields";
import { OwnFonts } from "./OwnFonts";
import { ScopeBar } from "./ScopeBar";
import { useTarget } from "./scope";

const CASES = [
  { value: "as_written", text: "As written" },
  { value: "upper", text: "CAPITALS" },
  { value: "lower", text: "small letters" },
  { value: "title", text: "First Letters" },
];
const ALIGN = [
  { value: "left", text: "Left" },
  { value: "centre", text: "Centre" },
  { value: "right", text: "Right" },
];
const ACROSS = [
  { value: "left", text: "Left edge" },
  { value: "centre", text: "Centre" },
  { value: "right", text: "Right edge" },
];
const DOWN = [
  { value: "top", text: "Top" },
  { value: "middle", text: "Middle" },
  { value: "bottom", text: "Foot" },
];
const LINES = [1, 2, 3, 4].map((value) => ({ value, text: String(value) }));

export function LettersTab({ piece }: { piece: Piece }) {
  const target = useTarget(piece);
  const fonts = useQuery({
    queryKey: ["fonts"],
    queryFn: () => take(api.GET("/api/fonts")),
    staleTime: Number.POSITIVE_INFINITY,
  });
  const family = String(target.value("font"));
  const known = fonts.data?.find((one) => one.name === family);
  const weights = known?.weights ?? [];
  return (
    <>
      <ScopeBar />
      <TraySection title="Letters">
        <PickField
          target={target}
          path="font"
          label="Font"
          choices={(fonts.data ?? []).map((one) => ({
            value: one.name,
            text: one.own ? `${one.name} (yours)` : one.name,
          }))}
        />
        <OwnFonts piece={piece} family={family} own={known?.own ?? false} />
        {weights.length > 1 && (
          <PickField
            target={target}
            path="weight"
            label="Weight"
            choices={weights.map((value) => ({ value, text: value >= 600 ? "Bold" : "Regular" }))}
          />
        )}
        <SliderField
          {...{ target, path: "size", label: "Size", min: 3, max: 24, step: 0.2 }}
          per={100}
          unit=" %"
        />
        <PickField target={target} path="case" label="Case" choices={CASES} />
        <SliderField
          {...{ target, path: "letter_gap", label: "Letter gap", min: -5, max: 30, step: 1 }}
          per={100}
          unit=" %"
        />
        <SliderField
          {...{ target, path: "word_gap", label: "Word gap", min: 5, max: 100, step: 1 }}
          per={100}
          unit=" %"
        />
        <SliderField
          {...{ target, path: "line_height", label: "Line height", min: 0.8, max: 2, step: 0.02 }}
        />
        <PickField target={target} path="align" label="Alignment" choices={ALIGN} />
        <PickField target={target} path="max_lines" label="Most lines" choices={LINES} />
      </TraySection>
      <TraySection title="Place">
        <PickField target={target} path="place.across" label="Horizontal" choices={ACROSS} />
        <PickField target={target} path="place.down" label="Vertical" choices={DOWN} />
        <SliderField
          {...{ target, path: "place.dx", label: "Offset across", min: -50, max: 50, step: 0.5 }}
          per={100}
          unit=" %"
        />
        <SliderField
          {...{ target, path: "place.dy", label: "Offset down", min: -50, max: 50, step: 0.5 }}
          per={100}
          unit=" %"
        />
        <SliderField
          {...{ target, path: "place.width", label: "Width", min: 20, max: 100, step: 1 }}
          per={100}
          unit=" %"
        />
        <SliderField
          {...{ target, path: "place.turn", label: "Turn", min: -45, max: 45, step: 0.5 }}
          unit="°"
        />
      </TraySection>
    </>
  );
}
