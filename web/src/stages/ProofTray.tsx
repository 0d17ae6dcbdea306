/** The Proof stage's tray: doubts, find and replace, the glossary, who speaks. */
import { Tabs } from "radix-ui";
import type { Piece, Project } from "../api/client";
import type { Player } from "../playback/player";
import { allDoubts } from "../state/doubts";
import { useProject } from "../state/project";
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
      <Tabs.List aria-label="Proof" className="-mx-4 -mt-4 mb-4 flex border-b border-line">
        {PROOF_TABS.map((name) => (
          <Tabs.Trigger
            key={name}
            value={name}
            className="flex-1 border-b-2 border-transparent py-2 text-dim hover:text-ink data-[state=active]:border-chalk data-[state=active]:font-bold data-[state=active]:text-ink"
          >
            {name}
            {counts[name] ? <span className="tabular ml-1 text-clay">{counts[name]}</span> : null}
          </Tabs.Trigger>
        ))}
      </Tabs.List>
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
