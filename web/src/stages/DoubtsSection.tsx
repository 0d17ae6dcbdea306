/** Words that did not hold when heard again, in order, each with what else it may be. */
import { ActionButton } from "../actions/ActionButton";
import type { Project } from "../api/client";
import type { Player } from "../playback/player";
import { useDoubtRun } from "../state/doubtRun";
import { allDoubts, askedWord, keepAll, OTHERS } from "../state/doubts";
import { jobOf } from "../state/jobs";
import { useProject } from "../state/store";
import { Button } from "../ui/Button";
import { Progress } from "../ui/Progress";
import { Tip } from "../ui/Tip";
import { TraySection } from "../ui/TraySection";
import { WordCard } from "./WordCard";

export function DoubtsSection({ project, player }: { project: Project; player: Player | null }) {
  const cues = useProject((state) => state.cues);
  const doubts = allDoubts(cues);
  const asked = askedWord(
    cues,
    useProject((state) => state.doubt),
  );
  const second = jobOf(project, "doubt");
  const listening = second?.status === "running" || second?.status === "queued";
  return (
    <TraySection about={about(doubts.length, listening, cues.length)}>
      {asked && !asked.word.doubt && <WordCard key={asked.word.id} asked={asked} player={player} />}
      {listening && second && (
        <Progress
          label="Listening a second time"
          value={second.progress}
          secondsLeft={second.seconds_left}
        />
      )}
      {doubts.length > 0 && <Through player={player} />}
      {doubts.map((doubt) => (
        <WordCard key={doubt.word.id} asked={doubt} player={player} />
      ))}
      {doubts.length > 1 && (
        <Tip text="Keep all that are left (Shift A)">
          <Button onClick={keepAll}>Keep all {doubts.length} as they are</Button>
        </Tip>
      )}
    </TraySection>
  );
}

/** Begins and ends listening through all doubts, and says how far that is. */
function Through({ player }: { player: Player | null }) {
  const { heard, of } = useDoubtRun();
  return (
    <ActionButton
      id="doubts-through"
      player={player}
      text={heard === null ? "Listen through them" : `Stop · ${heard} of ${of}`}
      className="inline-flex h-8 w-full items-center justify-center gap-1.5 rounded border border-line bg-card hover:border-dim"
    />
  );
}

function about(doubts: number, listening: boolean, captions: number): string {
  if (doubts) {
    return `Words that did not hold when heard again. Listen through them all: 1 to ${OTHERS.length} take what else it may be, 7 writes something else, X takes a word out, and what you leave is kept. Q asks about any other word.`;
  }
  if (listening) return "Doubtful words are listed here as they are found.";
  if (!captions) return "Doubtful words are listed here once words have been heard.";
  return "No word is in doubt. Read through once while listening; Q asks what else a word may be.";
}
