/** The Tray: what the stage needs. One stop of Tab; Enter goes into it, Escape out of it. */
import { X } from "lucide-react";
import type { Project } from "../api/client";
import { DeliverTray } from "../deliver/DeliverTray";
import { DressTray } from "../dress/DressTray";
import { focusPage } from "../focus/page";
import { FrameTray } from "../frame/FrameTray";
import type { Player } from "../playback/player";
import { openPiece, useProject } from "../state/store";
import { TrimTray } from "../trim/TrimTray";
import { IconButton } from "../ui/IconButton";
import { useNarrow } from "../ui/width";
import { GatherTray } from "./GatherTray";
import { PaceTray } from "./PaceTray";
import { ProofTray } from "./ProofTray";
import { useStage } from "./stage";

export function Tray({ project, player }: { project: Project; player: Player | null }) {
  const stage = useStage((state) => state.stage);
  const narrow = useNarrow();
  const piece = useProject(openPiece);
  const source = project.sources.find((one) => one.id === piece?.source_id);
  if (!piece || !source) return null;
  return (
    <aside
      id="tray"
      aria-label={`Tray of ${stage}`}
      data-stop="fields"
      // biome-ignore lint/a11y/noNoninteractiveTabindex: one stop of Tab for all that is inside
      tabIndex={0}
      className="relative h-full min-h-0 overflow-y-auto border-l border-line bg-page p-4 outline-none focus-visible:shadow-[inset_0_0_0_2px_var(--chalk)]"
    >
      {narrow && (
        <IconButton
          label="Fold the Tray away"
          className="absolute top-1.5 right-1 z-10 bg-page"
          onClick={() => {
            useStage.setState({ trayOpen: false });
            focusPage();
          }}
        >
          <X size={16} />
        </IconButton>
      )}
      {stage === "Gather" && <GatherTray project={project} source={source} player={player} />}
      {stage === "Proof" && <ProofTray project={project} piece={piece} player={player} />}
      {stage === "Trim" && <TrimTray piece={piece} player={player} />}
      {stage === "Pace" && <PaceTray piece={piece} player={player} />}
      {stage === "Dress" && <DressTray piece={piece} player={player} />}
      {stage === "Frame" && <FrameTray piece={piece} player={player} />}
      {stage === "Deliver" && <DeliverTray project={project} piece={piece} player={player} />}
    </aside>
  );
}
