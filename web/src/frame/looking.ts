/** Captions that something to be seen is looked for in the libraries. */
import { create } from "zustand";
import { api, type Cue, take } from "../api/client";
import { cueAt } from "../state/document";
import { openPiece, useProject } from "../state/store";
import { visibleCues } from "../state/visible";
import { attempt, say } from "../ui/notice";

interface State {
  /** None while nothing is looked for. */
  cues: readonly Cue[] | null;
}

export const useLooking = create<State>(() => ({ cues: null }));

/** Where a small picture of a thing in a library is. */
export const smallUrl = (library: string, ref: string): string =>
  `/api/libraries/${library}/small?ref=${encodeURIComponent(ref)}`;

/** Look for something to be seen over captions. */
export function lookFor(cueIds: readonly number[]): void {
  const { cues } = useProject.getState();
  useLooking.setState({ cues: cues.filter((cue) => cueIds.includes(cue.id)) });
}

/** Look for something to be seen over the chosen captions, or over the one that shows. */
export function lookForChosen(atUs: number): void {
  const { cues, picked } = useProject.getState();
  const chosen = cues.filter((cue) => picked.has(cue.id));
  const here = cueAt(visibleCues(), atUs);
  const found = chosen.length ? chosen : here ? [here] : [];
  if (found.length) useLooking.setState({ cues: found });
  else say("Choose the captions first that it is to be seen over.", "wrong");
}

/** Fetch something; it is seen over these captions once it is there. */
export function fetchFound(
  library: string,
  found: { ref: string; name: string },
  cueIds: readonly number[],
): void {
  const { project } = useProject.getState();
  const piece = openPiece(useProject.getState());
  if (!project || !piece) return;
  void attempt(
    take(
      api.POST("/api/projects/{project_id}/fetched", {
        params: { path: { project_id: project.id } },
        body: {
          library,
          ref: found.ref,
          name: found.name,
          piece_id: piece.id,
          cue_ids: [...cueIds],
        },
      }),
    ),
  );
}
