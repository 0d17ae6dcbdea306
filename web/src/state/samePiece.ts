/** What is shown of a piece until the server has answered anew. */
import type { Query } from "@tanstack/react-query";

/** What was read before, as long as it is about the same piece, whose id comes second in the key. */
export const ofPiece =
  (id: number) =>
  <T>(before: T | undefined, query?: Query<T, Error, T, readonly unknown[]>): T | undefined =>
    query?.queryKey[1] === id ? before : undefined;
