/** The rule across the top: where one is in the work, and what is left where. */
import { Keyboard, Redo2, Undo2 } from "lucide-react";
import { Link } from "wouter";
import { useLegibility } from "../state/legibility";
import { step, useProject } from "../state/project";
import { goTo, STAGES, stageNote, useStage } from "./stage";

export function StageRule({ onKeys }: { onKeys: () => void }) {
  const project = useProject((state) => state.project);
  const cues = useProject((state) => state.cues);
  const checks = useProject((state) => state.checks);
  const faint = useLegibility((state) => state.faint.length);
  const stage = useStage((state) => state.stage);
  if (!project) return null;
  const { undo, redo } = project.history;
  return (
    <header className="grid h-13 shrink-0 grid-cols-[minmax(0,1fr)_auto_minmax(0,1fr)] border-b border-line bg-page">
      <div className="flex min-w-0 items-center gap-3 px-3.5">
        <Link href="/" className="text-[16px] font-bold hover:text-chalk" title="All projects">
          Mortiser
        </Link>
        <span className="truncate text-dim">{project.name}</span>
      </div>
      <nav aria-label="Stages" className="flex">
        {STAGES.map((name) => {
          const note = stageNote(name, project, cues, checks, faint);
          const here = name === stage;
          return (
            <button
              key={name}
              type="button"
              aria-current={here ? "step" : undefined}
              className={`w-[98px] border-l border-line px-2.5 text-left last:border-r ${
                here ? "border-b-3 border-b-chalk bg-birch pt-[3px]" : "hover:bg-birch"
              }`}
              onClick={() => goTo(name)}
            >
              <span className={`block leading-5 ${here ? "font-bold" : ""}`}>{name}</span>
              <span
                className={`block truncate text-small leading-4 ${note.wrong ? "text-clay" : "text-dim"}`}
              >
                {note.text}
              </span>
            </button>
          );
        })}
      </nav>
      <div className="flex min-w-0 items-center justify-end gap-1 px-2">
        <button
          type="button"
          disabled={!undo}
          title="Undo (Ctrl+Z)"
          className="inline-flex min-w-0 items-center gap-1.5 rounded px-2 py-1 hover:bg-tint disabled:opacity-45 disabled:hover:bg-transparent"
          onClick={() => void step("undo")}
        >
          <Undo2 size={15} className="shrink-0" />
          <span className="truncate">{undo ? `Undo: ${undo}` : "Undo"}</span>
        </button>
        <button
          type="button"
          disabled={!redo}
          aria-label={redo ? `Redo: ${redo}` : "Redo"}
          title={redo ? `Redo: ${redo} (Ctrl+Shift+Z)` : "Redo (Ctrl+Shift+Z)"}
          className="rounded p-1.5 hover:bg-tint disabled:opacity-45 disabled:hover:bg-transparent"
          onClick={() => void step("redo")}
        >
          <Redo2 size={15} />
        </button>
        <button
          type="button"
          aria-label="Show all keys"
          title="Keys (?)"
          className="rounded p-1.5 text-dim hover:bg-tint hover:text-ink"
          onClick={onKeys}
        >
          <Keyboard size={15} />
        </button>
      </div>
    </header>
  );
}
