/** One project open for work: the rule of stages, Strip, preview with Loupe, and Tray. */
import { type ReactNode, useEffect, useRef, useState } from "react";
import { Group, Panel, Separator, useDefaultLayout } from "react-resizable-panels";
import { Link } from "wouter";
import { listenToKeys } from "./actions/keyboard";
import type { ProjectStatus } from "./api/client";
import { DiskNote } from "./DiskNote";
import { openDrafts } from "./drafts/store";
import { focusPage, guardFocus } from "./focus/page";
import { LibraryDialog } from "./frame/LibraryDialog";
import { Loupe } from "./loupe/Loupe";
import { PaceSection } from "./pace/PaceSection";
import type { Player } from "./playback/player";
import { Preview } from "./preview/Preview";
import { StageRule } from "./stages/StageRule";
import { goTo, useStage } from "./stages/stage";
import { Tray } from "./stages/Tray";
import { followAddress, goToPlace, placeOf } from "./state/address";
import { watchChecks } from "./state/checks";
import { onStatus } from "./state/following";
import { watchLegibility } from "./state/legibility";
import { close, open } from "./state/server";
import { select } from "./state/session";
import { openPiece, useProject } from "./state/store";
import { seekWhole } from "./state/whole";
import { Strip } from "./strip/Strip";
import { CutLoupe } from "./trim/CutLoupe";
import { TrimStrip } from "./trim/TrimStrip";
import { UnreadableNote } from "./UnreadableNote";
import { KeySheet } from "./ui/KeySheet";
import { useNarrow } from "./ui/width";

export function Workbench({ projectId }: { projectId: number }) {
  const project = useProject((state) => state.project);
  const problem = useProject((state) => state.problem);
  const [player, setPlayer] = useState<Player | null>(null);
  const stage = useStage((state) => state.stage);
  const piece = useProject(openPiece);
  const pieceId = piece?.id;
  const newest = useRef<Player | null>(null);
  newest.current = player;

  useEffect(() => (pieceId === undefined ? undefined : watchChecks()), [pieceId]);
  useEffect(
    () => (pieceId === undefined || stage !== "Dress" ? undefined : watchLegibility(pieceId)),
    [pieceId, stage],
  );
  useEffect(() => listenToKeys(() => newest.current), []);
  useEffect(guardFocus, []);
  useEffect(() => {
    // A project opens on its first caption, not on an empty picture.
    const { cues, selected } = useProject.getState();
    const first = cues.find((cue) => cue.id === selected) ?? cues[0];
    if (player && first && player.seeks === 0) void seekWhole(player, first.id, first.start_us);
  }, [player]);
  useEffect(() => {
    // What is dressed is seen whole.
    const { selected, cues } = useProject.getState();
    const cue = cues.find((one) => one.id === selected);
    if (stage === "Dress" && player && !player.playing && cue) {
      void seekWhole(player, cue.id, cue.start_us);
    }
  }, [stage, player]);

  useEffect(() => {
    let events: EventSource | null = null;
    let letGo: (() => void) | null = null;
    let leave: (() => void) | null = null;
    let over = false;
    void open(projectId).then(() => {
      if (over) return;
      const { project: loaded, cues } = useProject.getState();
      if (!loaded) return;
      document.title = `${loaded.name} · Mortiser`;
      const heard = loaded.jobs.every((job) => job.kind !== "transcribe" || job.status === "done");
      goTo(heard ? "Proof" : "Gather");
      if (cues[0]) select(cues[0].id);
      letGo = openDrafts(projectId);
      void goToPlace(placeOf(location.search)).then(() => {
        if (!over) leave = followAddress();
      });
      focusPage();
      events = new EventSource(`/api/projects/${projectId}/events`);
      events.addEventListener(
        "status",
        (event) => void onStatus(JSON.parse(event.data) as ProjectStatus),
      );
    });
    return () => {
      over = true;
      events?.close();
      leave?.();
      letGo?.();
      close();
    };
  }, [projectId]);

  if (problem) {
    return (
      <main className="grid h-full place-items-center">
        <div className="text-center">
          <p>{problem}</p>
          <Link href="/" className="mt-3 inline-block text-link underline">
            Back to all projects
          </Link>
        </div>
      </main>
    );
  }
  const source = project?.sources.find((one) => one.id === piece?.source_id);
  if (!project || !piece || !source) return null;
  return (
    <div className="flex h-full flex-col">
      <button
        type="button"
        className="absolute top-1 left-1 z-50 -translate-y-20 rounded bg-chalk px-3 py-1.5 text-white focus:translate-y-0"
        onClick={focusPage}
      >
        Go to the captions
      </button>
      <StageRule player={player} />
      <DiskNote />
      <UnreadableNote />
      <Panes
        strip={
          stage === "Pace" ? (
            <PaceSection piece={piece} player={player} />
          ) : stage === "Trim" ? (
            <TrimStrip piece={piece} player={player} />
          ) : (
            <Strip piece={piece} player={player} />
          )
        }
        preview={
          <div className="flex h-full min-h-0 flex-col">
            <Preview piece={piece} source={source} player={player} onPlayer={setPlayer} />
            {stage === "Trim" ? (
              <CutLoupe piece={piece} player={player} />
            ) : (
              <Loupe piece={piece} player={player} />
            )}
          </div>
        }
        tray={<Tray project={project} player={player} />}
      />
      <KeySheet />
      <LibraryDialog />
    </div>
  );
}

const EDGE =
  "w-px bg-line outline-none data-[separator=hover]:bg-chalk data-[separator=drag]:bg-chalk focus-visible:bg-chalk focus-visible:ring-1 focus-visible:ring-chalk";

/** Three panes whose borders are moved; the Tray folds away where the window is narrow. */
function Panes(props: { strip: ReactNode; preview: ReactNode; tray: ReactNode }) {
  const { strip, preview, tray } = props;
  const narrow = useNarrow();
  const open = useStage((state) => state.trayOpen);
  const kept = useDefaultLayout({ id: "mortiser.panes", storage: localStorage });
  if (narrow) {
    return (
      <main className="relative grid min-h-0 flex-1 grid-cols-[minmax(0,1.15fr)_minmax(0,1fr)]">
        {strip}
        <div className="min-h-0 border-l border-line">{preview}</div>
        {open && (
          <div className="absolute inset-y-0 right-0 z-20 flex w-[min(360px,92%)] flex-col shadow-xl">
            {tray}
          </div>
        )}
      </main>
    );
  }
  return (
    <main className="min-h-0 flex-1">
      <Group {...kept} orientation="horizontal" className="h-full">
        <Panel id="pane-strip" minSize={380} className="min-h-0">
          {strip}
        </Panel>
        <Separator aria-label="Border of Strip and preview" className={EDGE} />
        <Panel id="pane-preview" defaultSize={430} minSize={300} className="min-h-0">
          {preview}
        </Panel>
        <Separator aria-label="Border of preview and Tray" className={EDGE} />
        <Panel id="pane-tray" defaultSize={340} minSize={300} maxSize={560} className="min-h-0">
          {tray}
        </Panel>
      </Group>
    </main>
  );
}
