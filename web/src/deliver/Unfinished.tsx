/** What is still open in the stages before, to go to or to deliver with. */

import type { Piece, Project } from "../api/client";
import { useInTheWay } from "../frame/guides";
import { goTo, type Stage, stageNote } from "../stages/stage";
import { useLegibility } from "../state/legibility";
import { openPiece, useProject, useShape } from "../state/store";
import { TypedLeft } from "./TypedLeft";

export function Unfinished({ project }: { project: Project }) {
  const piece = useProject(openPiece);
  if (!piece) return null;
  return (
    <>
      <TypedLeft />
      <Open project={project} piece={piece} />
    </>
  );
}

function Open({ project, piece }: { project: Project; piece: Piece }) {
  const cues = useProject((state) => state.cues);
  const checks = useProject((state) => state.checks);
  const faint = useLegibility((state) => state.faint.length);
  const shape = useShape(piece);
  const found = useInTheWay(piece, shape);
  const open: { stage: Stage; text: string }[] = [];
  for (const stage of ["Proof", "Trim", "Pace", "Dress"] as const) {
    const note = stageNote(stage, project, cues, checks, faint);
    if (note.wrong) open.push({ stage, text: note.text });
  }
  const hidden = new Set(found?.troubles.map((one) => one.cue_id)).size;
  if (hidden) open.push({ stage: "Frame", text: `${hidden} in the way` });
  if (!open.length) return null;
  return (
    <div className="mb-2 text-small">
      <p className="text-dim">Still open; deliver all the same, or go there:</p>
      <ul aria-label="Still open" className="mt-0.5 flex flex-wrap gap-x-3 gap-y-0.5">
        {open.map(({ stage, text }) => (
          <li key={stage}>
            <button type="button" className="text-clay hover:underline" onClick={() => goTo(stage)}>
              {stage}: {text}
            </button>
          </li>
        ))}
      </ul>
    </div>
  );
}
