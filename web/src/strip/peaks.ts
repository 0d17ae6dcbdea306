/** Sound peaks for any stretch, fetched in minutes and kept. */
import { useQueries } from "@tanstack/react-query";
import { api, take } from "../api/client";
import { openPiece, useProject } from "../state/store";

const BLOCK_US = 60_000_000;

export interface Peaks {
  startUs: number;
  stepUs: number;
  values: number[];
}

/** Peaks of the open piece in the blocks that a stretch touches; what has not arrived is missing. */
export function usePeaks(fromUs: number, toUs: number): Peaks[] {
  const pieceId = useProject((state) => openPiece(state)?.id ?? 0);
  const digest = useProject((state) => openPiece(state)?.digest);
  const first = Math.floor(fromUs / BLOCK_US);
  const last = Math.floor(Math.max(fromUs, toUs - 1) / BLOCK_US);
  const blocks = Array.from({ length: last - first + 1 }, (_, i) => first + i);
  return useQueries({
    queries: blocks.map((block) => ({
      queryKey: ["peaks", pieceId, digest, block],
      staleTime: Number.POSITIVE_INFINITY,
      refetchInterval: (query: { state: { data?: Peaks | undefined } }) =>
        query.state.data?.stepUs === 0 ? 1_000 : (false as const),
      queryFn: async (): Promise<Peaks> => {
        const found = await take(
          api.GET("/api/pieces/{piece_id}/peaks", {
            params: {
              path: { piece_id: pieceId },
              query: { from_us: block * BLOCK_US, to_us: (block + 1) * BLOCK_US, most: 3_000 },
            },
          }),
        );
        return { startUs: found.start_us, stepUs: found.step_us, values: found.peaks };
      },
    })),
    combine: (results) => results.flatMap((result) => (result.data ? [result.data] : [])),
  });
}

/** The loudest peak in a stretch, 0 to 1. */
export function loudest(peaks: Peaks[], fromUs: number, toUs: number): number {
  let most = 0;
  for (const { startUs, stepUs, values } of peaks) {
    if (!stepUs) continue;
    const first = Math.max(0, Math.floor((fromUs - startUs) / stepUs));
    const last = Math.min(values.length - 1, Math.floor((toUs - 1 - startUs) / stepUs));
    for (let i = first; i <= last; i++) most = Math.max(most, values[i] as number);
  }
  return most / 255;
}
