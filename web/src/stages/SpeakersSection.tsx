/** Who speaks: names and their share, showing one alone, and giving captions to somebody else. */
import { useState } from "react";
import type { Cue, Piece, Project } from "../api/client";
import { edit } from "../state/commands";
import { speakerOf } from "../state/document";
import { jobOf } from "../state/jobs";
import { pickedCues } from "../state/picks";
import { useProject } from "../state/store";
import { showOnly } from "../state/visible";
import { passageCues, usePassage } from "../strip/passage";
import { Button } from "../ui/Button";
import { Check } from "../ui/Check";
import { Chip } from "../ui/Chip";
import { FIELD } from "../ui/fields";
import { Progress } from "../ui/Progress";
import { TraySection } from "../ui/TraySection";

interface Share {
  name: string;
  part: number;
}

function shares(cues: Cue[]): Share[] {
  const spoken = new Map<string, number>();
  let all = 0;
  for (const word of cues.flatMap((cue) => cue.words)) {
    const length = word.end_us - word.start_us;
    all += length;
    if (word.speaker) spoken.set(word.speaker, (spoken.get(word.speaker) ?? 0) + length);
  }
  return [...spoken].map(([name, length]) => ({ name, part: length / Math.max(1, all) }));
}

export function SpeakersSection({ project, piece }: { project: Project; piece: Piece }) {
  const cues = useProject((state) => state.cues);
  const only = useProject((state) => state.onlySpeaker);
  const finding = jobOf(project, "speakers");
  const working = finding?.status === "running" || finding?.status === "queued";
  const speakers = shares(cues);
  const about = speakers.length
    ? "Type over a name to change it; the name of somebody else makes them one."
    : working
      ? "Voices are being told apart."
      : "One voice was found. Select captions and name their speaker to tell people apart.";
  return (
    <>
      <TraySection about={about}>
        {working && finding && (
          <Progress
            label="Telling voices apart"
            value={finding.progress}
            secondsLeft={finding.seconds_left}
          />
        )}
        {speakers.map(({ name, part }) => (
          <div key={name} className="rounded border border-line bg-card p-2.5">
            <div className="flex items-center gap-2">
              <NameField piece={piece} name={name} />
              <span className="tabular whitespace-nowrap text-dim">{Math.round(part * 100)} %</span>
            </div>
            <Check
              className="mt-1.5 text-dim"
              label="only on the Strip"
              checked={only === name}
              onChange={(checked) => showOnly(checked ? name : null)}
            />
          </div>
        ))}
        {speakers.length > 0 && (
          <Check
            label={
              <>
                Names in captions and files
                <span className="block text-dim">Whole piece, at the start of each turn.</span>
              </>
            }
            checked={piece.show_speakers}
            onChange={(shown) => void edit({ kind: "show_speakers", piece_id: piece.id, shown })}
          />
        )}
      </TraySection>
      <Assign speakers={speakers.map((speaker) => speaker.name)} />
    </>
  );
}

function NameField({ piece, name }: { piece: Piece; name: string }) {
  const [typing, setTyping] = useState<string | null>(null);
  const commit = () => {
    const fresh = typing?.trim();
    setTyping(null);
    if (fresh && fresh !== name) {
      showOnly(null);
      void edit({ kind: "rename_speaker", piece_id: piece.id, old: name, new: fresh });
    }
  };
  return (
    <input
      dir="auto"
      className={FIELD}
      aria-label={`Name of ${name}`}
      maxLength={40}
      value={typing ?? name}
      onFocus={(event) => event.target.select()}
      onChange={(event) => setTyping(event.target.value)}
      onBlur={commit}
      onKeyDown={(event) => {
        if (event.key === "Enter") event.currentTarget.blur();
        if (event.key === "Escape") setTyping(null);
      }}
    />
  );
}

/** Captions that are selected, and who speaks in them. */
function Assign({ speakers }: { speakers: string[] }) {
  const [other, setOther] = useState("");
  useProject((state) => state.cues);
  useProject((state) => state.picked);
  useProject((state) => state.selected);
  usePassage((state) => state.passage);
  const chosen = passageCues()?.cues ?? pickedCues();
  const count = chosen.length;
  const give = (name: string) =>
    void edit({ kind: "set_speaker", cue_ids: chosen.map((cue) => cue.id), name });
  const title = count > 1 ? `These ${count} captions` : "This caption";
  if (!count) return <p className="text-dim">Select captions to say who speaks in them.</p>;
  const now = new Set(chosen.map(speakerOf));
  return (
    <TraySection title={title} about={now.size === 1 ? undefined : "Several speakers."}>
      <div className="flex flex-wrap gap-1.5">
        {speakers.map((name) => (
          <Chip key={name} quiet={!(now.size === 1 && now.has(name))} onClick={() => give(name)}>
            {name}
          </Chip>
        ))}
        {[...now].some(Boolean) && (
          <Chip quiet onClick={() => give("")}>
            nobody
          </Chip>
        )}
      </div>
      <form
        className="flex gap-2"
        onSubmit={(event) => {
          event.preventDefault();
          if (other.trim()) give(other);
          setOther("");
        }}
      >
        <input
          dir="auto"
          className={FIELD}
          aria-label="Another speaker"
          placeholder="Name of another speaker"
          maxLength={40}
          value={other}
          onChange={(event) => setOther(event.target.value)}
        />
        <Button type="submit" disabled={!other.trim()}>
          Set
        </Button>
      </form>
    </TraySection>
  );
}
