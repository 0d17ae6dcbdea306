/** Which guide is laid over the preview, and what is in the way in the shape that is looked at. */
import { useQuery } from "@tanstack/react-query";
import { create } from "zustand";
import { api, type Piece, type Schemas, type Shape, take } from "../api/client";
import { ofPiece } from "../state/samePiece";
import { useProject } from "../state/store";

export type Guide = Schemas["Guide"];
export type InTheWay = Schemas["InTheWayView"];
const KEPT = "mortiser.guides";
const NONE: Guide[] = [];

function kept(): Record<string, string> {
  try {
    return JSON.parse(localStorage.getItem(KEPT) ?? "{}") as Record<string, string>;
  } catch {
    return {};
  }
}

/** The chosen guide of each shape, by the shape's word. */
export const useGuides = create<{ chosen: Record<string, string> }>(() => ({ chosen: kept() }));

export function chooseGuide(word: string, name: string): void {
  const chosen = { ...useGuides.getState().chosen, [word]: name };
  localStorage.setItem(KEPT, JSON.stringify(chosen));
  useGuides.setState({ chosen });
}

/** All guides of a shape. */
export function useGuidesOf(shape: Shape): Guide[] {
  const { data } = useQuery({ queryKey: ["guides"], queryFn: () => take(api.GET("/api/guides")) });
  return data?.filter((one) => one.shape === shape.word) ?? NONE;
}

/** The guide that is laid over a shape, if any. */
export function useGuide(shape: Shape): Guide | undefined {
  const name = useGuides((state) => state.chosen[shape.word]);
  return useGuidesOf(shape).find((one) => one.name === name);
}

/** What is in the way, read anew whenever the project changed. */
export function useInTheWay(piece: Piece, shape: Shape): InTheWay | undefined {
  const revision = useProject((state) => state.project?.revision ?? 0);
  const guide = useGuide(shape)?.name ?? "";
  const path = { piece_id: piece.id };
  const query = { shape_id: shape.id, guide };
  return useQuery({
    queryKey: ["in-the-way", piece.id, shape.id, shape.digest, revision, guide],
    placeholderData: ofPiece(piece.id),
    queryFn: () => take(api.GET("/api/pieces/{piece_id}/in-the-way", { params: { path, query } })),
  }).data;
}
