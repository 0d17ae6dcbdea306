/** The Pace stage's tray: grouping, timing, shifting, checks. */
import { Tabs } from "radix-ui";
import type { Piece } from "../api/client";
import type { Player } from "../playback/player";
import { useProject } from "../state/store";
import { TrayTabs } from "../ui/TrayTabs";
import { ChecksSection } from "./ChecksSection";
import { GroupingSection } from "./GroupingSection";
import { ShiftSection } from "./ShiftSection";
import { PACE_TABS, type PaceTab, useStage } from "./stage";
import { TimingSection } from "./TimingSection";

export function PaceTray({ piece, player }: { piece: Piece; player: Player | null }) {
  const tab = useStage((state) => state.paceTab);
  const checks = useProject((state) => state.checks);
  return (
    <Tabs.Root
      value={tab}
      onValueChange={(value) => useStage.setState({ paceTab: value as PaceTab })}
    >
      <TrayTabs label="Pace" names={PACE_TABS} counts={{ Checks: checks?.length ?? 0 }} />
      <Tabs.Content value="Grouping">
        <GroupingSection piece={piece} />
      </Tabs.Content>
      <Tabs.Content value="Timing">
        <TimingSection piece={piece} />
      </Tabs.Content>
      <Tabs.Content value="Shift">
        <ShiftSection player={player} />
      </Tabs.Content>
      <Tabs.Content value="Checks">
        <ChecksSection piece={piece} player={player} />
      </Tabs.Content>
    </Tabs.Root>
  );
}
