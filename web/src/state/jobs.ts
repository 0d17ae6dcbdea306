/** Which job is about what. */
import type { Job, Project } from "../api/client";
import { openPiece, useProject } from "./store";

/** The newest job of a kind for the recording of the open piece. */
export function jobOf(project: Project, kind: Job["kind"]): Job | undefined {
  const source = openPiece({ ...useProject.getState(), project })?.source_id;
  return project.jobs.findLast((job) => job.kind === kind && job.source_id === source);
}
