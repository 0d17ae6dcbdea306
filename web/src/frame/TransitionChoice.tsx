/** Which transition: each is seen moving on the piece's own frames. */
import { Image, Scissors } from "lucide-react";
import { type ReactNode, useState } from "react";
import type { Piece, Shape } from "../api/client";
import { TRANSITION_LENGTHS, TRANSITION_STEPS } from "../api/values";
import { Swatch } from "../dress/ColourField";
import { PictureTile } from "../ui/PictureTile";
import { Segments } from "../ui/Segments";
import { PictureChoice } from "./PictureChoice";
import { Amount } from "./PictureSection";
import {
  isDirected,
  isEdged,
  type Kind,
  MOVING,
  type Transition,
  transitionSheet,
  usual,
} from "./transitions";

const WAYS: { value: Transition["direction"]; text: string; label: string }[] = [
  { value: "left", text: "←", label: "To the left" },
  { value: "right", text: "→", label: "To the right" },
  { value: "up", text: "↑", label: "Up" },
  { value: "down", text: "↓", label: "Down" },
];

export function TransitionChoice(props: {
  piece: Piece;
  shape: Shape;
  /** The moment of the piece whose frames are shown. */
  atUs: number;
  label: string;
  chosen: Transition | null;
  /** What is chosen where nothing happens; left out where something always does. */
  none?: string;
  onChoose: (transition: Transition | null, dragged?: boolean) => void;
}) {
  const { piece, shape, atUs, label, chosen, none, onChoose } = props;
  const sheet = transitionSheet(piece, shape, atUs);
  const pick = (kind: Kind) => onChoose({ ...(chosen ?? usual), kind });
  const [byPicture, setByPicture] = useState(chosen?.kind === "picture");
  const tall = shape.height > shape.width;
  return (
    <div className="space-y-2">
      <div role="radiogroup" aria-label={label} className="grid grid-cols-5 items-start gap-1.5">
        {none && (
          <Tile
            name={none}
            icon={<Scissors size={14} />}
            chosen={chosen === null && !byPicture}
            onPick={() => {
              setByPicture(false);
              onChoose(null);
            }}
          />
        )}
        {MOVING.map((one, row) => (
          <Tile
            key={one.kind}
            name={one.name}
            about={one.seen}
            chosen={chosen?.kind === one.kind && !byPicture}
            onPick={() => {
              setByPicture(false);
              pick(one.kind);
            }}
            frames={{ sheet, row, tall }}
          />
        ))}
        <Tile
          name="Picture"
          icon={<Image size={14} />}
          about="dark parts of a picture go first"
          chosen={byPicture}
          onPick={() => setByPicture(true)}
        />
      </div>
      {byPicture && (
        <PictureChoice
          chosen={chosen?.picture ?? null}
          onChoose={(picture) => onChoose({ ...(chosen ?? usual), kind: "picture", picture })}
        />
      )}
      {chosen && <Details transition={chosen} onChoose={onChoose} />}
    </div>
  );
}

function Details(props: {
  transition: Transition;
  onChoose: (transition: Transition, dragged?: boolean) => void;
}) {
  const { transition, onChoose } = props;
  const set = (changes: Partial<Transition>, dragged = false) =>
    onChoose({ ...transition, ...changes }, dragged);
  const [shortest, longest] = TRANSITION_LENGTHS;
  return (
    <div className="space-y-1">
      <Amount
        {...{ label: "Lasts", step: 0.05, unit: "s", per: 1e-6 }}
        min={shortest / 1e6}
        max={longest / 1e6}
        stored={transition.length_us}
        set={(us) => set({ length_us: Math.round(us) }, true)}
      />
      {isDirected(transition.kind) && (
        <div className="flex min-h-7 items-center gap-2">
          <span className="w-[86px] shrink-0">Goes</span>
          <Segments
            label="Which way it goes"
            choices={WAYS}
            chosen={transition.direction}
            onChoose={(direction) => set({ direction })}
          />
        </div>
      )}
      {isEdged(transition.kind) && (
        <Amount
          {...{ label: "Soft edge", min: 0, max: 100, step: 1, unit: "%", per: 100 }}
          stored={transition.soft}
          set={(soft) => set({ soft }, true)}
        />
      )}
      {transition.kind === "colour" && (
        <div className="flex min-h-7 items-center gap-2">
          <span className="w-[86px] shrink-0">Colour</span>
          <Swatch
            label="Colour in the middle"
            colour={transition.colour}
            onChange={(colour) => set({ colour }, true)}
          />
        </div>
      )}
    </div>
  );
}

function Tile(props: {
  name: string;
  about?: string;
  chosen: boolean;
  onPick: () => void;
  icon?: ReactNode;
  frames?: { sheet: string; row: number; tall: boolean };
}) {
  const { icon, frames, ...choice } = props;
  return (
    <PictureTile {...choice} size={`h-14 ${frames && !frames.tall ? "w-full" : "w-8 max-w-full"}`}>
      {icon && <span className="absolute inset-0 grid place-items-center text-dim">{icon}</span>}
      {frames && (
        <span
          className={`moving-frames absolute inset-0 ${props.chosen ? "is-moving" : ""}`}
          style={{
            ["--frames" as never]: TRANSITION_STEPS,
            backgroundImage: `url("${frames.sheet}")`,
            backgroundSize: `${TRANSITION_STEPS * 100}% ${MOVING.length * 100}%`,
            backgroundPositionY: `${(frames.row / (MOVING.length - 1)) * 100}%`,
          }}
        />
      )}
    </PictureTile>
  );
}
