/** Deliver: what is made of the piece, what was made of it, and what is written beside it. */
import { Tabs } from "radix-ui";
import type { Piece, Project } from "../api/client";
import { FileButton } from "../api/download";
import { TEXT_NAMES } from "../api/values";
import type { Player } from "../playback/player";
import { DELIVER_TABS, type DeliverTab, useStage } from "../stages/stage";
import { TraySection } from "../ui/TraySection";
import { TrayTabs } from "../ui/TrayTabs";
import { DeliveryCard } from "./DeliveryCard";
import { FilesTab } from "./FilesTab";
import { Keeping } from "./Keeping";
import { PostSection } from "./PostSection";

const CUT_LISTS = [
  ["otio", "OpenTimelineIO"],
  ["edl", "EDL (CMX 3600)"],
] as const;
const SMALL = "rounded border border-line bg-card px-2.5 py-1 hover:border-dim";

export function DeliverTray(props: { project: Project; piece: Piece; player: Player | null }) {
  const { project, piece, player } = props;
  const tab = useStage((state) => state.deliverTab);
  return (
    <Tabs.Root
      value={tab}
      onValueChange={(value) => useStage.setState({ deliverTab: value as DeliverTab })}
    >
      <TrayTabs label="Deliver" names={DELIVER_TABS} counts={{}} />
      <Tabs.Content value="Files">
        <FilesTab key={piece.id} project={project} piece={piece} player={player} />
      </Tabs.Content>
      <Tabs.Content value="Deliveries">
        {project.deliveries.length > 0 ? (
          <>
            <ul aria-label="Deliveries" className="mb-3 space-y-2">
              {project.deliveries.map((delivery) => (
                <DeliveryCard key={delivery.id} delivery={delivery} current={project.revision} />
              ))}
            </ul>
            <Keeping />
          </>
        ) : (
          <p className="mb-6 text-dim">
            Nothing is delivered yet. Choose the files, then press Deliver this piece.
          </p>
        )}
        <TraySection title="Caption files now" about="As the captions stand at this moment.">
          <div className="flex flex-wrap gap-2">
            {Object.keys(TEXT_NAMES).map((ending) => (
              <FileButton
                key={ending}
                className={SMALL}
                url={`/api/pieces/${piece.id}/captions.${ending}`}
              >
                {ending.toUpperCase()}
              </FileButton>
            ))}
          </div>
        </TraySection>
        {!piece.untouched && (
          <TraySection
            title="Cut list"
            about="Where the piece is cut, for an editing suite that has the same recordings."
          >
            <div className="flex gap-2">
              {CUT_LISTS.map(([ending, name]) => (
                <FileButton
                  key={ending}
                  className={SMALL}
                  url={`/api/pieces/${piece.id}/cuts.${ending}`}
                >
                  {name}
                </FileButton>
              ))}
            </div>
          </TraySection>
        )}
      </Tabs.Content>
      <Tabs.Content value="Post">
        <PostSection piece={piece} />
      </Tabs.Content>
    </Tabs.Root>
  );
}
