/** What lies behind a picture that does not cover the frame. */
import type { Piece, Schemas, Shape } from "../api/client";
import { Swatch } from "../dress/ColourField";
import { make } from "../dress/scope";
import { Segments } from "../ui/Segments";
import { TraySection } from "../ui/TraySection";
import { PictureChoice } from "./PictureChoice";
import { Amount } from "./PictureSection";

type Backdrop = Schemas["Backdrop"];

export function BackdropSection({ piece, shape }: { piece: Piece; shape: Shape }) {
  const { backdrop } = shape;
  const set = (changes: Partial<Backdrop>, dragged = false) =>
    make(
      {
        kind: "set_backdrop",
        piece_id: piece.id,
        shape_id: shape.id,
        backdrop: { ...backdrop, ...changes },
      },
      dragged,
    );
  return (
    <TraySection title="Backdrop" about="Seen where the picture leaves room.">
      <Segments
        label="Backdrop"
        chosen={backdrop.kind}
        choices={[
          { value: "blur", text: "Blurred" },
          { value: "colour", text: "Colour" },
          { value: "gradient", text: "Gradient" },
          { value: "picture", text: "Picture" },
        ]}
        onChoose={(kind) => set({ kind })}
      />
      {backdrop.kind === "picture" ? (
        <>
          <PictureChoice chosen={backdrop.picture} onChoose={(picture) => set({ picture })} />
          <Amount
            {...{ label: "Blurred by", min: 0, max: 100, step: 1, unit: "%", per: 100 }}
            stored={backdrop.soft}
            set={(soft) => set({ soft }, true)}
          />
          <Darkness dark={backdrop.dark} set={(dark) => set({ dark }, true)} />
        </>
      ) : backdrop.kind === "blur" ? (
        <Darkness dark={backdrop.dark} set={(dark) => set({ dark }, true)} />
      ) : (
        <div className="flex items-center gap-2">
          <span className="w-[86px]">{backdrop.kind === "colour" ? "Colour" : "From, to"}</span>
          <Swatch
            label="Backdrop"
            colour={backdrop.first}
            onChange={(first) => set({ first }, true)}
          />
          {backdrop.kind === "gradient" && (
            <Swatch
              label="Backdrop, at the foot"
              colour={backdrop.last}
              onChange={(last) => set({ last }, true)}
            />
          )}
        </div>
      )}
    </TraySection>
  );
}

function Darkness({ dark, set }: { dark: number; set: (dark: number) => void }) {
  return (
    <Amount
      {...{ label: "Darkened by", min: 0, max: 90, step: 1, unit: "%", per: 100 }}
      stored={dark}
      set={set}
    />
  );
}
