/** Reads the talk and what can go of it, anew whenever the project changed. */
import { useQuery } from "@tanstack/react-query";
import { useEffect, useMemo } from "react";
import { api, type Piece, type Schemas, take } from "../api/client";
import { ofPiece } from "../state/samePiece";
import { useProject } from "../state/store";
import { itemsOf, type Row } from "./selection";
import { useTrim } from "./store";

export type Beyond = Schemas["BeyondView"];
const NONE: Row[] = [];
const NOTHING: Beyond[] = [];

/** What is left around words, as the server is asked. */
function useRoom(): { before_us: number; after_us: number } {
  const before_us = useTrim((state) => state.beforeUs);
  const after_us = useTrim((state) => state.afterUs);
  return { before_us, after_us };
}

/** The rows of the talk, and what the recordings say beyond them; the store gets their items. */
export function useTalk(piece: Piece): { rows: Row[]; beyond: Beyond[] } {
  const revision = useProject((state) => state.project?.revision ?? 0);
  const heard = useProject((state) => state.heard);
  const path = { piece_id: piece.id };
  const query = useRoom();
  const { data } = useQuery({
    queryKey: ["talk", piece.id, revision, heard, query],
    placeholderData: ofPiece(piece.id),
    queryFn: () => take(api.GET("/api/pieces/{piece_id}/talk", { params: { path, query } })),
  });
  const rows = data?.rows ?? NONE;
  const items = useMemo(() => itemsOf(rows), [rows]);
  useEffect(() => {
    useTrim.setState({ items, clips: data?.clips ?? [] });
  }, [items, data]);
  return { rows, beyond: data?.beyond ?? NOTHING };
}

/** Keeps what can go in the store. */
export function useRemovals(piece: Piece): void {
  const revision = useProject((state) => state.project?.revision ?? 0);
  const heard = useProject((state) => state.heard);
  const quietUs = useTrim((state) => state.quietUs);
  const leaveUs = useTrim((state) => state.leaveUs);
  const order = useTrim((state) => state.order);
  const path = { piece_id: piece.id };
  const query = { quiet_us: quietUs, leave_us: leaveUs, order, ...useRoom() };
  const { data } = useQuery({
    queryKey: ["removals", piece.id, revision, heard, query],
    placeholderData: ofPiece(piece.id),
    queryFn: () => take(api.GET("/api/pieces/{piece_id}/removals", { params: { path, query } })),
  });
  useEffect(() => {
    if (data) useTrim.setState({ removals: data });
  }, [data]);
}
