/** The open project and its server: opened, read, caught up with; the queue of what is asked of it. */
import { api, type EditAnswer, Problem, type Project, takeAs } from "../api/client";
import { sayWrong } from "../ui/notice";
import { merged } from "./document";
import { endProject } from "./projectSession";
import { createQueue } from "./queue";
import { openPiece, useProject } from "./store";

const { getState: get, setState: set } = useProject;

let openings = 0;
/** A number for the project that is open: answers for one that was open before are thrown away. */
export function opening(): number {
  return openings;
}

let pulses = 0;
/** Note that the server told what changed by itself. */
export function told(): void {
  pulses += 1;
}

/** Open a project, newest state. What comes late for another one does not replace it. */
export async function open(projectId: number): Promise<void> {
  openings += 1;
  await load(projectId, openings);
}

async function load(projectId: number, asked: number): Promise<void> {
  const before = pulses;
  try {
    const project = await takeAs<Project>(
      api.GET("/api/projects/{project_id}", {
        params: { path: { project_id: projectId }, query: { shown: get().pieceId ?? 0 } },
      }),
    );
    const { project: known, pieceId } = get();
    // Neither another project's state, nor an older one.
    if (asked !== openings || (known && known.revision > project.revision)) return;
    const piece = openPiece({ project, pieceId });
    // What was told while this was read may be newer.
    const newer = known?.id === project.id && pulses !== before ? selfChanging(known) : {};
    set((state) => ({
      project: { ...project, ...newer },
      problem: null,
      cues: project.cues.filter((cue) => cue.piece_id === piece?.id),
      sceneVersion: state.sceneVersion + 1,
    }));
  } catch (error) {
    if (asked === openings) {
      set({ problem: error instanceof Problem ? error.message : String(error) });
    }
  }
}

function selfChanging({ jobs, deliveries, sources }: Project) {
  return { jobs, deliveries, sources };
}

/** Read the open project again, after what is asked of it already. */
export async function reload(): Promise<void> {
  const { project } = get();
  if (project) await queue.between(() => load(project.id, openings));
}

/** Open another piece of the project. */
export async function showPiece(pieceId: number): Promise<void> {
  const { project } = get();
  if (!project || openPiece(get())?.id === pieceId) return;
  const nothing = { selected: null, anchor: null, typing: null, word: null, doubt: null };
  set({ ...nothing, pieceId, cues: [], checks: null, picked: new Set(), found: new Set() });
  await queue.between(() => load(project.id, openings));
  const first = get().cues[0]?.id ?? null;
  set({ selected: first, anchor: first, picked: new Set(first === null ? [] : [first]) });
}

export function close(): void {
  openings += 1;
  endProject();
}

/** Fetch what was changed since the revision that is known; everything where that is too long ago. */
export async function catchUp(): Promise<void> {
  const { project } = get();
  if (!project) return;
  const asked = openings;
  try {
    const answer = await takeAs<EditAnswer>(
      api.GET("/api/projects/{project_id}/changes", {
        params: { path: { project_id: project.id }, query: { since: project.revision } },
      }),
    );
    if (asked === openings) merge(answer);
  } catch {
    if (asked === openings) await load(project.id, asked);
  }
}

export const queue = createQueue<EditAnswer>({
  opening,
  revision: () => get().project?.revision ?? 0,
  merge,
  catchUp,
  isLate: (error) => error instanceof Problem && error.code === "stale",
  refuse: sayWrong,
});

/** Put an answer over what is known. */
function merge(answer: EditAnswer): void {
  const { project, cues } = get();
  const piece = openPiece(get());
  if (!project || !piece) return;
  const { revision, history, settings } = answer;
  const now = { ...project, ...settings, revision, history };
  if (openPiece({ project: now, pieceId: get().pieceId })?.id !== piece.id) {
    // The piece that was open is gone, or is there again.
    set({ project: now, cues: [] });
    void load(project.id, openings);
    return;
  }
  set((state) => ({
    project: now,
    cues: merged(cues, answer, piece.id),
    sceneVersion: state.sceneVersion + 1,
  }));
}
