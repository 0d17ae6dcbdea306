/** Shapes by name, and what the settings of the stage are about. */
import { useQuery } from "@tanstack/react-query";
import { api, type Framing, type Piece, type Schemas, type Shape, take } from "../api/client";
import { NAMED_SHAPES } from "../api/values";
import { lastBy } from "../playback/player";
import { projectStore } from "../state/projectSession";
import { ofPiece } from "../state/samePiece";
import { useProject } from "../state/store";

export type Clips = Schemas["FramedClipsView"];
export type Clip = Schemas["FramedClipView"];

/** What stands for a picture that is not there. */
const NO_PICTURE = "#2e3c40";

/** A shape in words: common ones by name, others by their numbers. */
export function shapeName({ width, height }: Pick<Shape, "width" | "height">): string {
  const same = (one: { width: number; height: number }) =>
    Math.abs((width * one.height) / (height * one.width) - 1) < 0.01;
  return NAMED_SHAPES.find(same)?.name ?? `${width} × ${height}`;
}

/** What is seen where there is no picture, as CSS. */
export function backdropOf({ backdrop }: Pick<Shape, "backdrop">): string {
  const css = (colour: readonly number[]) => `rgb(${colour[0]}, ${colour[1]}, ${colour[2]})`;
  if (backdrop.kind === "blur") return NO_PICTURE;
  if (backdrop.kind !== "gradient") return css(backdrop.first);
  return `linear-gradient(${css(backdrop.first)}, ${css(backdrop.last)})`;
}

export type Changes = Partial<Schemas["FramingChanges"]>;
export type Scope = "piece" | "clips";

/** What the next press on the preview says: where a box lies, where the face is, where a speaker sits. */
export type Saying = { kind: "box" } | { kind: "place" } | { kind: "seat"; speaker: string };

export const useFrame = projectStore<{ scope: Scope; saying: Saying | null }>(() => ({
  scope: "piece",
  saying: null,
}));

/** The clips of a piece as they are framed in a shape. */
export function useClips(piece: Piece, shape: Shape): Clips | undefined {
  const path = { piece_id: piece.id };
  const query = { shape_id: shape.id };
  return useQuery({
    queryKey: ["framing", piece.id, shape.id, piece.digest, shape.digest],
    placeholderData: ofPiece(piece.id),
    queryFn: () => take(api.GET("/api/pieces/{piece_id}/framing", { params: { path, query } })),
  }).data;
}

export function clipAt(clips: readonly Clip[], atUs: number): Clip | undefined {
  return clips[
    Math.max(
      0,
      lastBy(clips, atUs, (one) => one.at_us),
    )
  ];
}

export interface Chosen {
  /** The captions that edits name; none stands for the whole piece. */
  cueIds: number[];
  framing: Framing;
  /** How many clips it is about. */
  count: number;
  own: boolean;
}

/** What the settings are about, and the framing that holds there. */
export function useChosen(piece: Piece, shape: Shape): Chosen {
  const scope = useFrame((state) => state.scope);
  const picked = useProject((state) => state.picked);
  const cues = useProject((state) => state.cues);
  const found = useClips(piece, shape);
  const chosen = scope === "clips" ? cues.filter((cue) => picked.has(cue.id)) : [];
  const clips = new Set<Clip>();
  for (const cue of chosen) {
    const middle = (cue.start_us + cue.end_us) / 2;
    const clip = found && clipAt(found.clips, middle);
    if (clip) clips.add(clip);
  }
  const [first] = clips;
  return {
    cueIds: chosen.map((cue) => cue.id),
    framing: first?.framing ?? shape.framing,
    count: clips.size,
    own: [...clips].some((clip) => clip.own),
  };
}

/** Have faces looked for; what comes of it arrives with the jobs. */
export function lookForFaces(pieceId: number): void {
  void api.POST("/api/pieces/{piece_id}/faces", { params: { path: { piece_id: pieceId } } });
}
