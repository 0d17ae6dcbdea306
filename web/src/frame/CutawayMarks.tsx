/** Quiet marks in the Strip's margin: the words over which something else is seen. */
import type { Piece, Schemas } from "../api/client";
import { useStage } from "../stages/stage";
import { openPiece, useProject } from "../state/store";
import { Tip } from "../ui/Tip";
import { nameOf } from "./cutaways";

const NONE: Piece["cutaways"] = [];
const NO_SOURCES: Schemas["SourceView"][] = [];

export function CutawayMarks(props: {
  fromUs: number;
  toUs: number;
  height: number;
  onSeek: (atUs: number) => void;
}) {
  const { fromUs, toUs, height, onSeek } = props;
  const all = useProject((state) => openPiece(state)?.cutaways ?? NONE);
  const sources = useProject((state) => state.project?.sources ?? NO_SOURCES);
  const at = (us: number) =>
    ((Math.min(toUs, Math.max(fromUs, us)) - fromUs) / (toUs - fromUs)) * height;
  const here = all.flatMap(({ cutaway, lies }) =>
    lies
      .filter((one) => one.start_us < toUs && one.end_us > fromUs)
      .map((one) => ({ cutaway, top: at(one.start_us), end: at(one.end_us), one })),
  );
  return here.map(({ cutaway, top, end, one }) => (
    <Tip
      key={`${cutaway.id}.${one.start_us}`}
      text={`Cut away to ${nameOf(cutaway.seen, sources)}`}
    >
      <button
        type="button"
        tabIndex={-1}
        aria-label={`Cutaway to ${nameOf(cutaway.seen, sources)}`}
        className="absolute right-0 w-1.5 bg-ink/55 hover:bg-ink"
        style={{ top, height: Math.max(3, end - top) }}
        onPointerDown={(event) => event.stopPropagation()}
        onClick={() => {
          useStage.setState({ stage: "Frame", frameTab: "Cuts" });
          onSeek(one.whole_us);
        }}
      />
    </Tip>
  ));
}
