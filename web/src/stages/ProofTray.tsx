import type { Player } from "../playback/player";
import { select, useProject } from "../state/project";
import { focusCue } from "../strip/CueText";
import { clock } from "../ui/format";
import { TraySection } from "../ui/TraySection";

export function ProofTray({ player }: { player: Player | null }) {
  const cues = useProject((state) => state.cues);
  const selected = useProject((state) => state.selected);
  const doubts = cues.flatMap((cue) =>
    cue.words.filter((word) => word.doubt).map((word) => ({ cue, word })),
  );
  const about = doubts.length
    ? "Words the sound does not quite support. Tab, from inside a caption, goes to the next."
    : cues.length
      ? "No word is in doubt. Read through once while listening."
      : "Doubtful words are listed here as they are heard.";
  return (
    <>
      <TraySection title="Doubts" about={about}>
        {doubts.map(({ cue, word }) => (
          <button
            key={word.id}
            type="button"
            className={`flex w-full items-baseline gap-3 rounded border bg-card p-3 text-left hover:border-dim ${
              cue.id === selected ? "border-chalk" : "border-line"
            }`}
            onClick={() => {
              select(cue.id);
              player?.seek(word.start_us);
              focusCue(cue.id);
            }}
          >
            <span className="flex-1">
              {cue.words.map((w) => (
                <span key={w.id} className={w.id === word.id ? "doubt font-bold" : ""}>
                  {w.text}{" "}
                </span>
              ))}
            </span>
            <span className="tabular text-dim">{clock(word.start_us)}</span>
          </button>
        ))}
      </TraySection>
      <TraySection title="Correcting">
        <ul className="list-disc space-y-1 pl-5 text-dim">
          <li>Click a word to hear it from there, and type over it.</li>
          <li>
            Enter splits the caption at the caret; Backspace at its start joins it to the one
            before.
          </li>
          <li>Words you leave alone keep their times exactly.</li>
        </ul>
      </TraySection>
    </>
  );
}
