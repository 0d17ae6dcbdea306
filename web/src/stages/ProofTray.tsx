/** The Proof stage's tray: doubts, find and replace, the glossary, who speaks. */
import { Tabs } from "radix-ui";
import type { Piece, Project } from "../api/client";
import type { Player } from "../playback/player";
import { allDoubts } from "../state/doubts";
import { useProject } from "../state/store";
import { TrayTabs } from "../ui/TrayTabs";
import { DoubtsSection } from "./DoubtsSection";
import { FindSection } from "./FindSection";
import { allChanges, GlossarySection } from "./GlossarySection";
import { SpeakersSection } from "./SpeakersSection";
import { PROOF_TABS, type ProofTab, showProofTab, useStage } from "./stage";

interface Props {
  project: Project;
  piece: Piece;
  player: Player | null;
}

export function ProofTray({ project, piece, player }: Props) {
  const tab = useStage((state) => state.proofTab);
  const cues = useProject((state) => state.cues);
  const counts: Partial<Record<ProofTab, number>> = {
    Doubts: allDoubts(cues).length,
    Glossary: allChanges(cues).length,
  };
  return (
    <Tabs.Root value={tab} onValueChange={(value) => showProofTab(value as ProofTab)}>
      <TrayTabs label="Proof" names={PROOF_TABS} counts={counts} />
      <Tabs.Content value="Doubts">
        <DoubtsSection project={project} player={player} />
      </Tabs.Content>
      <Tabs.Content value="Find">
        <FindSection piece={piece} player={player} />
      </Tabs.Content>
      <Tabs.Content value="Glossary">
        <GlossarySection project={project} piece={piece} player={player} />
      </Tabs.Content>
      <Tabs.Content value="Speakers">
        <SpeakersSection project={project} piece={piece} />
      </Tabs.Content>
    </Tabs.Root>
  );
}
