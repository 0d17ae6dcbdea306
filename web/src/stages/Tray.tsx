/** The Tray: what the stage needs. */
import type { Project } from "../api/client";
import { DressTray } from "../dress/DressTray";
import type { Player } from "../playback/player";
import { DeliverTray } from "./DeliverTray";
import { FrameTray } from "./FrameTray";
import { GatherTray } from "./GatherTray";
import { PaceTray } from "./PaceTray";
import { ProofTray } from "./ProofTray";
import { useStage } from "./stage";

export function Tray({ project, player }: { project: Project; player: Player | null }) {
  const stage = useStage((state) => state.stage);
  const piece = project.pieces[0];
  const source = project.sources[0];
  if (!piece || !source) return null;
  return (
    <aside aria-label="Tray" className="min-h-0 overflow-y-auto border-l border-line bg-page p-4">
      {stage === "Gather" && <GatherTray project={project} source={source} player={player} />}
      {stage === "Proof" && <ProofTray project={project} piece={piece} player={player} />}
      {stage === "Pace" && <PaceTray piece={piece} player={player} />}
      {stage === "Dress" && <DressTray piece={piece} player={player} />}
      {stage === "Frame" && <FrameTray piece={piece} source={source} />}
      {stage === "Deliver" && <DeliverTray project={project} piece={piece} />}
    </aside>
  );
}
