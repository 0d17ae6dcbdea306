/** What the page asks of the server: edits, undo, redo. They go out one after another. */
import {
  api,
  type Edit,
  type EditAnswer,
  type GlossaryApplied,
  type Project,
  takeAs,
} from "../api/client";
import { say } from "../ui/notice";
import { whenProjectEnds } from "./projectSession";
import { queue } from "./server";
import { ofOpenPiece, useProject } from "./store";

const { getState: get } = useProject;

function inOrder(work: (project: Project) => Promise<EditAnswer | null>): Promise<boolean> {
  return queue.run(() => {
    const { project } = get();
    return project ? work(project) : Promise.resolve(null);
  });
}

/** Make an edit. Resolves to whether it was taken; a refusal is said to the user. */
export function edit(command: Edit): Promise<boolean> {
  return send(command, false);
}

/** Write the captions that are there as the glossary says; says how many places it changed. */
export async function applyGlossary(): Promise<void> {
  let changes = 0;
  await inOrder(async (project) => {
    const found = await takeAs<GlossaryApplied>(
      api.POST("/api/projects/{project_id}/glossary", {
        params: { path: { project_id: project.id }, query: ofOpenPiece() },
        body: { base_revision: project.revision },
      }),
    );
    changes = found.changes;
    return found.answer;
  });
  if (changes) say(`The glossary changed ${changes} ${changes === 1 ? "place" : "places"} here.`);
}

function send(command: Edit, goesOn: boolean): Promise<boolean> {
  return inOrder((project) =>
    takeAs<EditAnswer>(
      api.POST("/api/projects/{project_id}/edits", {
        params: { path: { project_id: project.id } },
        body: { base_revision: project.revision, edit: command, goes_on: goesOn },
      }),
    ),
  );
}

interface Dragging {
  begun: boolean;
  waiting: Edit | null;
  sent: Promise<void> | null;
}

let dragging: Dragging | null = null;
whenProjectEnds(() => {
  dragging = null;
});

/**
 * Make an edit while something is dragged. The newest goes out as soon as the one before is
 * answered, those between are left out, and one undo takes the whole dragging back.
 */
export function drag(command: Edit): void {
  dragging ??= { begun: false, waiting: null, sent: null };
  dragging.waiting = command;
  dragging.sent ??= sendWaiting(dragging);
}

async function sendWaiting(mine: Dragging): Promise<void> {
  while (mine.waiting) {
    const next: Edit = mine.waiting;
    mine.waiting = null;
    if (await send(next, mine.begun)) mine.begun = true;
  }
  mine.sent = null;
}

/** What was dragged is let go: the next change is one of its own. Resolves when all is sent. */
export async function drop(): Promise<void> {
  const mine = dragging;
  dragging = null;
  await mine?.sent;
}

/** Take the newest edit back, or make it again. */
export function step(direction: "undo" | "redo"): Promise<boolean> {
  return inOrder((project) =>
    takeAs<EditAnswer>(
      api.POST(`/api/projects/{project_id}/${direction}`, {
        params: { path: { project_id: project.id } },
        body: { base_revision: project.revision },
      }),
    ),
  );
}
