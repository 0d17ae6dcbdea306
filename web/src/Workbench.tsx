/** One project open for work: the rule of stages, Strip, preview with Loupe, and Tray. */
import { useEffect, useState } from "react";
import { Link } from "wouter";
import type { Pulse } from "./api/client";
import { Loupe } from "./loupe/Loupe";
import { PaceSection } from "./pace/PaceSection";
import { PACE_KEYS, WORD_KEYS } from "./pace/paceKeys";
import type { Player } from "./playback/player";
import { Preview } from "./preview/Preview";
import { StageRule } from "./stages/StageRule";
import { goTo, useStage } from "./stages/stage";
import { Tray } from "./stages/Tray";
import { watchChecks } from "./state/checks";
import { allDoubts, visitNext } from "./state/doubts";
import { watchLegibility } from "./state/legibility";
import { close, load, onPulse, useProject } from "./state/project";
import { passageKey } from "./strip/passage";
import { Strip } from "./strip/Strip";
import { KeySheet } from "./ui/KeySheet";
import { DRESS_KEYS, isTyping, KEYS } from "./ui/keys";

export function Workbench({ projectId }: { projectId: number }) {
  const project = useProject((state) => state.project);
  const problem = useProject((state) => state.problem);
  const [player, setPlayer] = useState<Player | null>(null);
  const [sheet, setSheet] = useState(false);
  const stage = useStage((state) => state.stage);
  const pieceId = project?.pieces[0]?.id;

  useEffect(() => (pieceId === undefined ? undefined : watchChecks()), [pieceId]);
  useEffect(
    () => (pieceId === undefined || stage !== "Dress" ? undefined : watchLegibility(pieceId)),
    [pieceId, stage],
  );

  useEffect(() => {
    let events: EventSource | null = null;
    let over = false;
    void load(projectId).then(() => {
      if (over) return;
      const { project: loaded } = useProject.getState();
      if (!loaded) return;
      document.title = `${loaded.name} · Mortiser`;
      const heard = loaded.jobs.every((job) => job.kind !== "transcribe" || job.status === "done");
      goTo(heard ? "Proof" : "Gather");
      events = new EventSource(`/api/projects/${projectId}/events`);
      events.addEventListener("pulse", (event) => void onPulse(JSON.parse(event.data) as Pulse));
    });
    return () => {
      over = true;
      events?.close();
      close();
    };
  }, [projectId]);

  useEffect(() => {
    const onKey = (event: KeyboardEvent) => {
      if (event.defaultPrevented) return;
      if (event.key === "Tab" && document.activeElement === document.body && !event.shiftKey) {
        // Nothing has the focus: the next doubt is where an editor wants to go.
        if (!allDoubts(useProject.getState().cues).length) return;
        event.preventDefault();
        visitNext(player);
        return;
      }
      if (!isTyping(event) && passageKey(event)) return;
      if (isTyping(event) || document.querySelector("[role=dialog]")) return;
      if (event.key === "?") {
        setSheet(true);
        return;
      }
      const here = useStage.getState().stage;
      const keys = here === "Pace" ? PACE_KEYS : here === "Dress" ? DRESS_KEYS : [];
      const key = [...keys, ...WORD_KEYS, ...KEYS].find((candidate) => candidate.matches(event));
      if (!key) return;
      const onButton =
        event.target instanceof HTMLButtonElement && (event.key === " " || event.key === "Enter");
      if (onButton) return;
      event.preventDefault();
      key.run(player);
    };
    window.addEventListener("keydown", onKey);
    return () => window.removeEventListener("keydown", onKey);
  }, [player]);

  if (problem) {
    return (
      <div className="grid h-full place-items-center">
        <div className="text-center">
          <p>{problem}</p>
          <Link href="/" className="mt-3 inline-block text-chalk underline">
            Back to all projects
          </Link>
        </div>
      </div>
    );
  }
  const piece = project?.pieces[0];
  const source = project?.sources[0];
  if (!project || !piece || !source) return null;
  return (
    <div className="flex h-full flex-col">
      <StageRule onKeys={() => setSheet(true)} />
      <main className="grid min-h-0 flex-1 grid-cols-[minmax(440px,1fr)_430px_340px] max-xl:grid-cols-[minmax(400px,1fr)_400px_320px]">
        {stage === "Pace" ? (
          <PaceSection piece={piece} player={player} />
        ) : (
          <Strip piece={piece} player={player} />
        )}
        <div className="flex min-h-0 flex-col">
          <Preview piece={piece} source={source} player={player} onPlayer={setPlayer} />
          <Loupe piece={piece} player={player} />
        </div>
        <Tray project={project} player={player} />
      </main>
      <KeySheet open={sheet} onOpen={setSheet} />
    </div>
  );
}
