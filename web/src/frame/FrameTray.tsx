/** The Tray of Frame: shapes, how the picture lies in the one looked at, and what is in the way there. */
import { Tabs } from "radix-ui";
import { useEffect } from "react";
import type { Piece } from "../api/client";
import type { Player } from "../playback/player";
import { FRAME_TABS, type FrameTab, useStage } from "../stages/stage";
import { useProject, useShape } from "../state/store";
import { TrayTabs } from "../ui/TrayTabs";
import { BackdropSection } from "./BackdropSection";
import { BetweenClips } from "./BetweenClips";
import { CaptionsHere } from "./CaptionsHere";
import { CutawaysSection } from "./CutawaysSection";
import { GuidesSection } from "./GuidesSection";
import { useInTheWay } from "./guides";
import { JigsSection } from "./JigsSection";
import { LayersSection } from "./LayersSection";
import { LookSection } from "./LookSection";
import { MovesSection } from "./MovesSection";
import { PictureSection } from "./PictureSection";
import { ShapeList } from "./ShapeList";
import { lookForFaces } from "./shapes";

export function FrameTray({ piece, player }: { piece: Piece; player: Player | null }) {
  const shape = useShape(piece);
  const tab = useStage((state) => state.frameTab);
  const seen = useProject((state) => state.project?.sources.some((one) => one.width > 0));
  const found = useInTheWay(piece, shape);
  const count =
    new Set(found?.troubles.map((one) => one.cue_id)).size +
    new Set(found?.layers.map((one) => one.layer_id)).size;
  useEffect(() => lookForFaces(piece.id), [piece.id]);
  return (
    <Tabs.Root
      value={tab}
      onValueChange={(value) => useStage.setState({ frameTab: value as FrameTab })}
    >
      <TrayTabs label="Frame" names={FRAME_TABS} counts={{ "In the way": count }} />
      <ShapeList piece={piece} player={player} />
      <Tabs.Content value="Picture">
        {seen && (
          <>
            <PictureSection piece={piece} shape={shape} player={player} />
            <MovesSection piece={piece} shape={shape} player={player} />
          </>
        )}
        <BackdropSection piece={piece} shape={shape} />
        <CaptionsHere piece={piece} shape={shape} />
      </Tabs.Content>
      <Tabs.Content value="Layers">
        <LayersSection piece={piece} shape={shape} />
      </Tabs.Content>
      <Tabs.Content value="Look">
        <LookSection piece={piece} shape={shape} player={player} />
      </Tabs.Content>
      <Tabs.Content value="Cuts">
        <CutawaysSection piece={piece} shape={shape} player={player} />
        <BetweenClips piece={piece} shape={shape} player={player} />
      </Tabs.Content>
      <Tabs.Content value="In the way">
        <GuidesSection piece={piece} shape={shape} player={player} found={found} />
      </Tabs.Content>
      <Tabs.Content value="Jigs">
        <JigsSection piece={piece} />
      </Tabs.Content>
    </Tabs.Root>
  );
}
