/** How the picture lies in the frame: of the whole piece, or of the clips that say the chosen captions. */
import { FlipHorizontal2, RotateCw } from "lucide-react";
import { Toggle } from "radix-ui";
import type { Framing, Piece, Shape } from "../api/client";
import { useDragged } from "../dress/fields";
import { make } from "../dress/scope";
import type { Player } from "../playback/player";
import { edit } from "../state/commands";
import { useProject } from "../state/store";
import { IconButton } from "../ui/IconButton";
import { NumberField } from "../ui/NumberField";
import { Segments } from "../ui/Segments";
import { Slider } from "../ui/Slider";
import { Tip } from "../ui/Tip";
import { TraySection } from "../ui/TraySection";
import { FaceSection } from "./FaceSection";
import { type Changes, type Scope, useChosen, useFrame } from "./shapes";

export function PictureSection(props: { piece: Piece; shape: Shape; player: Player | null }) {
  const { piece, shape, player } = props;
  const scope = useFrame((state) => state.scope);
  const picked = useProject((state) => state.picked.size);
  const { framing, cueIds, count, own } = useChosen(piece, shape);
  const ids = { piece_id: piece.id, shape_id: shape.id };
  const idle = scope === "clips" && !cueIds.length;
  const set = (changes: Changes, dragged = false) => {
    if (!idle) make({ kind: "frame_clips", ...ids, cue_ids: cueIds, changes }, dragged);
  };
  const moved = framing.zoom !== 1 || framing.x !== 0.5 || framing.y !== 0.5 || framing.turn !== 0;
  const first = cueIds[0];
  return (
    <TraySection title="Picture" about="Drag it in the preview; the wheel shows it nearer.">
      <Segments<Scope>
        label="What to frame"
        chosen={scope}
        choices={[
          { value: "piece", text: "Whole piece" },
          {
            value: "clips",
            text: scope === "clips" && count > 1 ? `These ${count} clips` : "This clip",
          },
        ]}
        onChoose={(value) => useFrame.setState({ scope: value })}
      />
      {idle && <p className="text-dim">Click a caption that the clip says.</p>}
      {scope === "clips" && !idle && (
        <p className="flex flex-wrap gap-x-3 text-dim">
          <span>{own ? "Framed on its own." : "Framed as the whole piece."}</span>
          {own && (
            <button
              type="button"
              className="text-link underline"
              onClick={() => void edit({ kind: "frame_back", ...ids, cue_ids: cueIds })}
            >
              Back to the piece’s
            </button>
          )}
          {picked > 1 && count > 1 && first !== undefined && (
            <button
              type="button"
              className="text-link underline"
              onClick={() =>
                void edit({ kind: "copy_framing", ...ids, from_cue_id: first, cue_ids: cueIds })
              }
            >
              Give all the first one’s
            </button>
          )}
        </p>
      )}
      <div className="flex items-center gap-2">
        <Segments
          label="Fit"
          chosen={framing.fit}
          choices={[
            { value: "fill", text: "Fill the frame" },
            { value: "whole", text: "Whole" },
          ]}
          onChoose={(fit) => set({ fit, zoom: 1, x: 0.5, y: 0.5 })}
        />
        <span className="ml-auto flex">
          <IconButton
            label="Turn by a quarter"
            onClick={() => set({ quarters: ((framing.quarters + 1) % 4) as Framing["quarters"] })}
          >
            <RotateCw size={16} />
          </IconButton>
          <Tip text="Mirror left and right">
            <Toggle.Root
              pressed={framing.mirror}
              aria-label="Mirror left and right"
              className="rounded p-1 text-dim hover:bg-tint data-[state=on]:bg-chalk data-[state=on]:text-white"
              onPressedChange={(mirror) => set({ mirror })}
            >
              <FlipHorizontal2 size={16} />
            </Toggle.Root>
          </Tip>
        </span>
      </div>
      <Amount
        {...{ label: "Zoom", min: 50, max: 300, step: 1, unit: "%", per: 100 }}
        stored={framing.zoom}
        set={(zoom) => set({ zoom }, true)}
      />
      <Amount
        {...{ label: "Level", min: -15, max: 15, step: 0.1, unit: "°", per: 1 }}
        stored={framing.turn}
        set={(turn) => set({ turn }, true)}
      />
      <FaceSection {...{ framing, piece, shape, player, set }} />
      {moved && (
        <button
          type="button"
          className="text-link underline"
          onClick={() => set({ zoom: 1, x: 0.5, y: 0.5, turn: 0 })}
        >
          Back to the middle
        </button>
      )}
    </TraySection>
  );
}

/** A number with its slider. */
export function Amount(props: {
  label: string;
  min: number;
  max: number;
  step: number;
  unit: string;
  /** How many of the shown unit make one of the stored. */
  per: number;
  stored: number;
  set: (value: number) => void;
}) {
  const { label, min, max, step, unit, per, stored, set } = props;
  const { moving, move, rest } = useDragged((value: number) => set(+(value / per).toFixed(4)));
  const shown = moving ?? +(stored * per).toFixed(2);
  return (
    <div className="flex min-h-7 items-center gap-2">
      <span className="w-[86px] shrink-0">{label}</span>
      <Slider
        {...{ label, min, max, step, value: shown }}
        className="flex-1"
        valueText={`${shown} ${unit}`}
        onMove={move}
        onRest={rest}
      />
      <NumberField {...{ label, step, min, max, unit, value: shown }} onMove={move} onRest={rest} />
    </div>
  );
}
