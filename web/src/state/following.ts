/** What the server tells by itself: what jobs and other windows change in the open project. */
import { api, type Cue, type Job, type ProjectStatus, take } from "../api/client";
import { withTail } from "./document";
import { catchUp, opening, queue, reload, told } from "./server";
import { openPiece, useProject } from "./store";

const { getState: get, setState: set } = useProject;

/** Take in what changed by itself; fetch new captions while a recording is being heard. */
export async function onStatus(status: ProjectStatus): Promise<void> {
  const { project, heard } = get();
  if (!project) return;
  told();
  const others = status.sources.length !== project.sources.length;
  set({
    heard: status.heard,
    diskFull: status.disk_full,
    project: {
      ...project,
      jobs: status.jobs,
      deliveries: status.deliveries,
      sources: status.sources,
    },
  });
  // A recording that comes or goes does so with pieces, which are read with the project.
  // Where faces are known, frames follow them.
  if (others || foundFaces(status.jobs) > foundFaces(project.jobs)) await reload();
  if (status.heard !== heard) await fetchTail();
  await followDoubts(project.jobs, status.jobs);
  await queue.between(async () => {
    if (status.revision > (get().project?.revision ?? 0)) await catchUp();
  });
}

const foundFaces = (jobs: Job[]): number =>
  jobs.filter(({ kind, status }) => (kind === "faces" || kind === "follow") && status === "done")
    .length;

/** Doubts come while the second listening goes on: all captions are read again now and then. */
async function followDoubts(before: Job[], now: Job[]): Promise<void> {
  const was = before.findLast((job) => job.kind === "doubt");
  const is = now.findLast((job) => job.kind === "doubt");
  if (!is) return;
  const grown = Math.floor(is.progress * 8) > Math.floor((was?.progress ?? 0) * 8);
  if (grown || is.status !== was?.status) await fetchFrom(() => 0);
}

function fetchTail(): Promise<void> {
  return fetchFrom((cues) => cues.at(-2)?.start_us ?? 0);
}

/** Read the captions that end after a moment again; in turn with edits, so that none is hidden. */
function fetchFrom(moment: (cues: Cue[]) => number): Promise<void> {
  return queue.between(async () => {
    const piece = openPiece(get());
    if (!piece) return;
    const from = moment(get().cues);
    const asked = opening();
    const fresh = await take(
      api.GET("/api/pieces/{piece_id}/cues", {
        params: { path: { piece_id: piece.id }, query: { from_us: from } },
      }),
    ).catch(() => null);
    if (!fresh || asked !== opening()) return;
    set((state) => ({
      cues: withTail(state.cues, fresh, from),
      sceneVersion: state.sceneVersion + 1,
    }));
  });
}
