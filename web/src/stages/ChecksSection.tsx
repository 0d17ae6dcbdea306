/** What the rules found, by kind, with a jump and, where safe, a remedy. */
import type { Check, Piece } from "../api/client";
import type { Player } from "../playback/player";
import { fix, leaveOut } from "../state/checks";
import { edit } from "../state/commands";
import { pick } from "../state/picks";
import { useProject } from "../state/store";
import { textOf } from "../strip/passage";
import { Chip } from "../ui/Chip";
import { Finding } from "../ui/Finding";
import { Segments } from "../ui/Segments";
import { TraySection } from "../ui/TraySection";

const RULES = [
  { value: "feed", text: "feed" },
  { value: "course", text: "course" },
  { value: "own", text: "own pace" },
] as const;

const TITLES: Record<Check["kind"], string> = {
  overlap: "Overlaps",
  flicker: "Flickering gaps",
  touching: "No gap between",
  too_short: "Too short",
  too_long: "Too long",
  too_fast: "Too fast to read",
  wide_line: "Lines too long",
  many_lines: "Too many lines",
  orphan: "Orphan words",
  late: "Start late",
  early: "End early",
  unshown: "Speech without a caption",
  empty: "Without words",
  order: "Out of order",
  beyond: "Beyond the end",
  off_frame: "Outside the safe area",
};
const MOST_SHOWN = 40;

export function ChecksSection({ piece, player }: { piece: Piece; player: Player | null }) {
  const checks = useProject((state) => state.checks);
  const cues = useProject((state) => state.cues);
  const kinds = (Object.keys(TITLES) as Check["kind"][])
    .map((kind) => ({ kind, found: (checks ?? []).filter((check) => check.kind === kind) }))
    .filter(({ found }) => found.length);
  const safe = (checks ?? []).filter((check) => check.fix);
  const texts = new Map(cues.map((cue) => [cue.id, textOf(cue)]));
  const go = (check: Check) => {
    if (check.cue_id !== null) pick(check.cue_id);
    player?.seek(check.at_us);
  };
  return (
    <>
      <div className="mb-4 flex items-center gap-2">
        <span className="whitespace-nowrap text-dim">Limits of</span>
        <Segments
          label="Limits"
          choices={RULES}
          chosen={piece.checked_by}
          onChoose={(rules) => void edit({ kind: "check_by", piece_id: piece.id, rules })}
        />
      </div>
      {safe.length > 1 && (
        <p className="mb-4 flex items-center gap-3">
          <Chip onClick={() => fix(safe)}>{`fix all ${safe.length}`}</Chip>
          <span className="text-small text-dim">that can be put right safely</span>
        </p>
      )}
      {checks === null && <p className="text-dim">Looking …</p>}
      {checks?.length === 0 && (
        <p>Nothing found: captions come in time, can be read, and hand over cleanly.</p>
      )}
      {kinds.map(({ kind, found }) => (
        <Kind key={kind} kind={kind} found={found} texts={texts} onGo={go} />
      ))}
    </>
  );
}

function Kind(props: {
  kind: Check["kind"];
  found: Check[];
  texts: Map<number, string>;
  onGo: (check: Check) => void;
}) {
  const { kind, found, texts, onGo } = props;
  const safe = found.filter((check) => check.fix);
  return (
    <TraySection>
      <div className="flex items-baseline gap-2">
        <h2 className="flex-1 font-bold">
          {TITLES[kind]} <span className="tabular text-clay">{found.length}</span>
        </h2>
        {safe.length > 1 && (
          <Chip quiet onClick={() => fix(safe)}>{`fix these ${safe.length}`}</Chip>
        )}
      </div>
      {found.slice(0, MOST_SHOWN).map((check) => (
        <Finding
          key={`${check.cue_id}-${check.at_us}`}
          text={check.cue_id === null ? check.about : (texts.get(check.cue_id) ?? "")}
          atUs={check.at_us}
          about={check.cue_id === null ? "" : check.about}
          onGo={() => onGo(check)}
        >
          {check.fix && <Chip onClick={() => fix([check])}>{check.fix}</Chip>}
          {check.kind === "unshown" && (
            <Chip quiet onClick={() => leaveOut(check)}>
              leave it out
            </Chip>
          )}
        </Finding>
      ))}
      {found.length > MOST_SHOWN && (
        <p className="text-dim">… and {found.length - MOST_SHOWN} more.</p>
      )}
    </TraySection>
  );
}
