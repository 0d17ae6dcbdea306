/** The Dress stage's tray: finishes, letters, colours, motion, accents. */
import { Tabs } from "radix-ui";
import type { Piece } from "../api/client";
import type { Player } from "../playback/player";
import { DRESS_TABS, type DressTab, useStage } from "../stages/stage";
import { useLegibility } from "../state/legibility";
import { useProject } from "../state/store";
import { TrayTabs } from "../ui/TrayTabs";
import { AccentsTab } from "./AccentsTab";
import { ColoursTab } from "./ColoursTab";
import { FinishTab } from "./FinishTab";
import { LegibleTab, outOfSafeArea } from "./LegibleTab";
import { LettersTab } from "./LettersTab";
import { MotionTab } from "./MotionTab";

export function DressTray({ piece, player }: { piece: Piece; player: Player | null }) {
  const tab = useStage((state) => state.dressTab);
  const faint = useLegibility((state) => state.faint.length);
  const out = useProject((state) => outOfSafeArea(state.checks).length);
  return (
    <Tabs.Root
      value={tab}
      onValueChange={(value) => useStage.setState({ dressTab: value as DressTab })}
    >
      <TrayTabs label="Dress" names={DRESS_TABS} counts={{ Legible: faint + out }} />
      <Tabs.Content value="Finish">
        <FinishTab piece={piece} player={player} />
      </Tabs.Content>
      <Tabs.Content value="Letters">
        <LettersTab piece={piece} />
      </Tabs.Content>
      <Tabs.Content value="Colours">
        <ColoursTab piece={piece} />
      </Tabs.Content>
      <Tabs.Content value="Motion">
        <MotionTab piece={piece} />
      </Tabs.Content>
      <Tabs.Content value="Accents">
        <AccentsTab piece={piece} player={player} />
      </Tabs.Content>
      <Tabs.Content value="Legible">
        <LegibleTab piece={piece} player={player} />
      </Tabs.Content>
    </Tabs.Root>
  );
}
