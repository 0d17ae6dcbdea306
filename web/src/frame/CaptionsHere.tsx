/** Where captions stand in one shape, in place of what their finish says. */

import type { Piece, Shape } from "../api/client";
import { SliderField } from "../dress/fields";
import { inside, make, type Target } from "../dress/scope";
import { edit } from "../state/commands";
import { TraySection } from "../ui/TraySection";
import { shapeName } from "./shapes";

function targetOf(piece: Piece, shape: Shape): Target {
  const ids = { piece_id: piece.id, shape_id: shape.id };
  return {
    value: (path) => shape.look[path] ?? inside(piece.finish, path.split(".")),
    set: (changes, dragged) => make({ kind: "dress_shape", ...ids, changes }, dragged),
    own: (path) => path in shape.look,
    back: (...paths) =>
      void edit({
        kind: "dress_shape",
        ...ids,
        changes: Object.fromEntries(paths.map((path) => [path, null])),
      }),
  };
}

export function CaptionsHere({ piece, shape }: { piece: Piece; shape: Shape }) {
  const target = targetOf(piece, shape);
  return (
    <TraySection title={`Captions in ${shapeName(shape)}`} about="In this shape alone.">
      <SliderField
        {...{ target, path: "place.dy", label: "Up and down", min: -80, max: 80, step: 0.5 }}
        per={100}
        unit=" %"
      />
      <SliderField
        {...{ target, path: "place.dx", label: "Sideways", min: -50, max: 50, step: 0.5 }}
        per={100}
        unit=" %"
      />
      <SliderField
        {...{ target, path: "size", label: "Size", min: 3, max: 24, step: 0.2 }}
        per={100}
        unit=" %"
      />
      <SliderField
        {...{ target, path: "place.width", label: "Width", min: 20, max: 100, step: 1 }}
        per={100}
        unit=" %"
      />
    </TraySection>
  );
}
