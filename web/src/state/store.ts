/** The open project as the server last told it, and what is chosen in it. */
import { create } from "zustand";
import type { Check, Cue, Piece, Project, Shape } from "../api/client";
import { whenProjectEnds } from "./projectSession";

export interface State {
  project: Project | null;
  problem: string | null;
  /** The piece that is open; the first one as long as none was chosen. */
  pieceId: number | null;
  /** The shape that is looked at, where the open piece has it; else its first one. */
  shapeId: number | null;
  /** Captions of the open piece, in time order. */
  cues: Cue[];
  /** Grows whenever what is painted may have changed. */
  sceneVersion: number;
  heard: number;
  /** Whether the server has no room on its disk. */
  diskFull: boolean;
  selected: number | null;
  /** All captions that commands work on; the selected one is among them. */
  picked: ReadonlySet<number>;
  /** Where a range of picked captions began. */
  anchor: number | null;
  /** The caption whose text is typed in, at time scale. */
  typing: number | null;
  /** The word whose start keys move. */
  word: number | null;
  /** What the rules found, newest first known; null until they have been asked. */
  checks: Check[] | null;
  /** The doubtful word being looked at. */
  doubt: number | null;
  /** Words that the text being looked for touches. */
  found: ReadonlySet<number>;
  /** The one speaker whose captions the Strip shows. */
  onlySpeaker: string | null;
}

/** What is known of a project before one is open. */
const NOTHING: Omit<State, "sceneVersion"> = {
  project: null,
  problem: null,
  pieceId: null,
  shapeId: null,
  cues: [],
  heard: 0,
  diskFull: false,
  selected: null,
  picked: new Set(),
  anchor: null,
  typing: null,
  word: null,
  checks: null,
  doubt: null,
  found: new Set(),
  onlySpeaker: null,
};

export const useProject = create<State>(() => ({ ...NOTHING, sceneVersion: 0 }));
// Scenes of the next project are newer than those of this one.
whenProjectEnds(() => useProject.setState(NOTHING));

/** The open piece, as requests name it. */
export function ofOpenPiece(): { piece_id?: number } {
  const piece = openPiece(useProject.getState());
  return piece ? { piece_id: piece.id } : {};
}

/** The shape a piece is looked at in. */
export function shapeOf(piece: Piece, shapeId: number | null): Shape {
  const found = piece.shapes.find((one) => one.id === shapeId) ?? piece.shapes[0];
  if (!found) throw new Error("A piece has a shape.");
  return found;
}

/** The same, followed. */
export function useShape(piece: Piece): Shape {
  return shapeOf(
    piece,
    useProject((state) => state.shapeId),
  );
}

/** The piece that is open. */
export function openPiece({
  project,
  pieceId,
}: Pick<State, "project" | "pieceId">): Piece | undefined {
  return project?.pieces.find((piece) => piece.id === pieceId) ?? project?.pieces[0];
}
