/** Transitions by name, and what belongs to each. */
import type { Piece, Schemas, Shape } from "../api/client";
import { DIRECTED, EDGED, TRANSITION_NAMES, USUAL_TRANSITION } from "../api/values";

export type Transition = Schemas["Transition"];
export type Kind = Transition["kind"];

/** Those in the sheet, in the order of its rows. */
export const MOVING = TRANSITION_NAMES.filter((one) => one.kind !== "picture");

export const usual: Transition = {
  ...USUAL_TRANSITION,
  colour: [...USUAL_TRANSITION.colour],
};

export const nameOf = (kind: Kind): string =>
  TRANSITION_NAMES.find((one) => one.kind === kind)?.name ?? kind;

export const isDirected = (kind: Kind): boolean => DIRECTED.some((one) => one === kind);
export const isEdged = (kind: Kind): boolean => EDGED.some((one) => one === kind);

/** What names a picture of a moment of a piece, as it is cut and framed now. */
function named(what: string, piece: Piece, shape: Shape, atUs: number): string {
  const query = new URLSearchParams({
    at_us: String(Math.round(atUs)),
    shape_id: String(shape.id),
    of: `${piece.digest}-${shape.digest}`,
  });
  return `/api/pieces/${piece.id}/${what}.jpg?${query}`;
}

export const transitionSheet = (piece: Piece, shape: Shape, atUs: number): string =>
  named("transitions", piece, shape, atUs);

export const gradeSheet = (piece: Piece, shape: Shape, atUs: number): string =>
  named("grades", piece, shape, atUs);
