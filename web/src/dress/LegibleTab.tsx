/** Captions that are hard to read on their picture or leave the safe area, and what helps. */

import type { Check, Faint, Piece } from "../api/client";
import type { Player } from "../playback/player";
import { fix } from "../state/checks";
import { help, lookedOver, lookOver, useLegibility, type Way } from "../state/legibility";
import { pick } from "../state/picks";
import { useProject } from "../state/store";
import { textOf } from "../strip/passage";
import { Button } from "../ui/Button";
import { Chip } from "../ui/Chip";
import { Finding } from "../ui/Finding";
import { Progress } from "../ui/Progress";
import { Tip } from "../ui/Tip";
import { TraySection } from "../ui/TraySection";

const WAYS: { way: Way; text: string; about: string }[] = [
  { way: "outline", text: "outline", about: "A line around the letters" },
  { way: "plate", text: "plate", about: "A plate behind each line" },
  { way: "place", text: "move", about: "Another height, where the picture is calmer" },
];
const MOST_SHOWN = 40;

export function outOfSafeArea(checks: Check[] | null): Check[] {
  return (checks ?? []).filter((check) => check.kind === "off_frame");
}

export function LegibleTab({ piece, player }: { piece: Piece; player: Player | null }) {
  const { faint, known } = useLegibility();
  const cues = useProject((state) => state.cues);
  const checks = useProject((state) => state.checks);
  const out = outOfSafeArea(checks);
  const texts = new Map(cues.map((cue) => [cue.id, textOf(cue)]));
  const go = (cueId: number | null, atUs: number) => {
    if (cueId !== null) pick(cueId);
    player?.seek(atUs);
  };
  const helped = WAYS.map(({ way, text, about }) => ({
    ...{ way, text, about },
    count: faint.filter((one) => one.remedies.some((each) => each.way === way)).length,
  })).filter(({ count }) => count > 0);
  return (
    <>
      <TraySection
        title="On the picture"
        about="Letters against what is right around them, at every word. They need 3 : 1."
      >
        <Looking pieceId={piece.id} />
        {known && faint.length === 0 && <p>Every caption stands out from its picture.</p>}
        {known && faint.length > 1 && helped.length > 0 && (
          <p className="flex flex-wrap items-center gap-2">
            <span className="text-dim">Help all with</span>
            {helped.map(({ way, text, count }) => (
              <Chip key={way} onClick={() => help(faint, way)}>
                {count < faint.length ? `${text} (${count})` : text}
              </Chip>
            ))}
          </p>
        )}
        {faint.slice(0, MOST_SHOWN).map((one) => (
          <Finding
            key={one.cue_id}
            text={texts.get(one.cue_id) ?? ""}
            atUs={one.at_us}
            about={`“${one.word}” has ${one.contrast.toFixed(1)} : 1`}
            onGo={() => go(one.cue_id, one.at_us)}
          >
            <Remedies one={one} />
          </Finding>
        ))}
        {faint.length > MOST_SHOWN && (
          <p className="text-dim">… and {faint.length - MOST_SHOWN} more.</p>
        )}
      </TraySection>
      <TraySection
        title="In the frame"
        about="Letters stay 3.5 % away from every edge, where screens and players cut."
      >
        {checks !== null && out.length === 0 && <p>Every caption stands inside the safe area.</p>}
        {out.slice(0, MOST_SHOWN).map((check) => (
          <Finding
            key={check.cue_id}
            text={texts.get(check.cue_id ?? 0) ?? ""}
            atUs={check.at_us}
            about={check.about}
            onGo={() => go(check.cue_id, check.at_us)}
          >
            {check.fix && <Chip onClick={() => fix([check])}>{check.fix}</Chip>}
          </Finding>
        ))}
      </TraySection>
    </>
  );
}

/** The recording has to be looked over once before anything can be told. */
function Looking({ pieceId }: { pieceId: number }) {
  const known = useLegibility((state) => state.known);
  const jobs = useProject((state) => state.project?.jobs);
  const job = jobs?.findLast((one) => one.kind === "thumbnails");
  const stands = lookedOver(jobs);
  if (stands === "running" || stands === "queued") {
    return <Progress label="Looking over the recording" value={job?.progress ?? 0} />;
  }
  if (stands === "failed" || stands === "cancelled") {
    return (
      <p className="space-y-2">
        <span className="block text-clay">
          {job?.error ?? "The recording was not looked over to its end."}
        </span>
        <Button onClick={() => lookOver(pieceId)}>Look over it again</Button>
      </p>
    );
  }
  return known ? null : <p className="text-dim">Reading the captions on their picture …</p>;
}

function Remedies({ one }: { one: Faint }) {
  if (!one.remedies.length) return <span className="text-dim">choose other colours</span>;
  return (
    <>
      {WAYS.map(({ way, text, about }) => {
        const remedy = one.remedies.find((each) => each.way === way);
        return remedy ? (
          <Tip key={way} text={`${about}: ${remedy.contrast.toFixed(1)} : 1`}>
            <span>
              <Chip onClick={() => help([one], way)}>{text}</Chip>
            </span>
          </Tip>
        ) : null;
      })}
    </>
  );
}
