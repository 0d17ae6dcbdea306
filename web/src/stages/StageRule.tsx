/** The rule across the top: where one is in the work, and what is left where. */
import { Keyboard, PanelRight, Redo2, Undo2 } from "lucide-react";
import { Toolbar } from "radix-ui";
import { Link } from "wouter";
import { hintOf } from "../actions/action";
import { action } from "../actions/index";
import type { Player } from "../playback/player";
import { useLegibility } from "../state/legibility";
import { openPiece, useProject } from "../state/store";
import { Tip } from "../ui/Tip";
import { useNarrow } from "../ui/width";
import { PastEdits } from "./PastEdits";
import { PieceMenu } from "./PieceMenu";
import { STAGES, stageNote, useStage } from "./stage";

export function StageRule({ player }: { player: Player | null }) {
  const project = useProject((state) => state.project);
  const cues = useProject((state) => state.cues);
  const piece = useProject(openPiece);
  const checks = useProject((state) => state.checks);
  const faint = useLegibility((state) => state.faint.length);
  const stage = useStage((state) => state.stage);
  const narrow = useNarrow();
  if (!project) return null;
  const { undo, redo } = project.history;
  return (
    <header>
      <Toolbar.Root
        aria-label="Stages and history"
        data-stop="rule"
        className="flex h-13 shrink-0 border-b border-line bg-page"
      >
        <div className="flex min-w-0 flex-1 items-center gap-3 px-3.5">
          <Tip text="All projects">
            <Toolbar.Link asChild>
              <Link href="/" className="text-[16px] font-bold hover:text-link">
                Mortiser
              </Link>
            </Toolbar.Link>
          </Tip>
          {piece && <PieceMenu project={project} piece={piece} />}
        </div>
        <nav aria-label="Stages" className="flex">
          {STAGES.map((name) => {
            const note = stageNote(name, project, cues, checks, faint);
            const here = name === stage;
            const done = action(`stage-${name}`);
            return (
              <Tip key={name} text={`${note.text} (${done.keys})`}>
                <Toolbar.Button
                  aria-current={here ? "step" : undefined}
                  className={`border-l border-line text-left last:border-r ${
                    narrow ? "px-1.5" : "w-[96px] px-2.5"
                  } ${here ? "border-b-3 border-b-chalk bg-birch pt-[3px]" : "hover:bg-birch"}`}
                  onClick={() => done.run(player)}
                >
                  <span className={`block leading-5 ${here ? "font-bold" : ""}`}>{name}</span>
                  <span
                    className={`block truncate text-small leading-4 ${note.wrong ? "text-clay" : "text-dim"}`}
                  >
                    {narrow ? (note.wrong ? note.short : " ") : note.text}
                  </span>
                </Toolbar.Button>
              </Tip>
            );
          })}
        </nav>
        <div className="flex min-w-0 flex-1 items-center justify-end gap-0.5 px-2">
          <Tip text={hintOf({ ...action("undo"), name: undo ? `Undo: ${undo}` : "Undo" })}>
            <Toolbar.Button
              disabled={!undo}
              aria-label={narrow ? (undo ? `Undo: ${undo}` : "Undo") : undefined}
              className="inline-flex min-w-0 items-center gap-1.5 rounded px-2 py-1 hover:bg-tint disabled:opacity-45 disabled:hover:bg-transparent"
              onClick={() => action("undo").run(player)}
            >
              <Undo2 size={15} className="shrink-0" />
              <span className="truncate max-[1119px]:hidden">
                {undo ? `Undo: ${undo}` : "Undo"}
              </span>
            </Toolbar.Button>
          </Tip>
          <PastEdits project={project} />
          <Tip text={hintOf({ ...action("redo"), name: redo ? `Redo: ${redo}` : "Redo" })}>
            <Toolbar.Button
              disabled={!redo}
              aria-label={redo ? `Redo: ${redo}` : "Redo"}
              className="rounded p-1.5 hover:bg-tint disabled:opacity-45 disabled:hover:bg-transparent"
              onClick={() => action("redo").run(player)}
            >
              <Redo2 size={15} />
            </Toolbar.Button>
          </Tip>
          <Tip text="All keys (?)">
            <Toolbar.Button
              aria-label="Show all keys"
              className="rounded p-1.5 text-dim hover:bg-tint hover:text-ink"
              onClick={() => action("keys").run(player)}
            >
              <Keyboard size={15} />
            </Toolbar.Button>
          </Tip>
          {narrow && (
            <Tip text={hintOf(action("tray"))}>
              <Toolbar.Button
                aria-label="Tray"
                className="rounded p-1.5 text-dim hover:bg-tint hover:text-ink"
                onClick={() => useStage.setState((now) => ({ trayOpen: !now.trayOpen }))}
              >
                <PanelRight size={15} />
              </Toolbar.Button>
            </Tip>
          )}
        </div>
      </Toolbar.Root>
    </header>
  );
}
