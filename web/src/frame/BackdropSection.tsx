/** What lies behind a picture that does not cover the frame. */
import type { Piece, Schemas, Shape } from "../api/client";
import { Swatch } from "../dress/ColourField";
import { make } from "../dress/scope";
import { Segments } from "../ui/Segments";
import { TraySection } from "../ui/TraySection";
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
          { value: "blur", text: "Picture, blurred" },
          { value: "colour", text: "Colour" },
          { value: "gradient", text: "Gradient" },
        ]}
        onChoose={(kind) => set({ kind })}
      />
      {backdrop.kind === "blur" ? (
        <Amount
          {...{ label: "Darkened by", min: 0, max: 90, step: 1, unit: "%", per: 100 }}
          stored={backdrop.dark}
          set={(dark) => set({ dark }, true)}
        />
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
