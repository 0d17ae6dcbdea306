/** Words that did not hold when heard again, in order, each with what else it may be. */
import { useEffect, useRef, useState } from "react";
import { ActionButton } from "../actions/ActionButton";
import type { Project } from "../api/client";
import { focusPage } from "../focus/page";
import type { Player } from "../playback/player";
import { goOnWithRun, holdRun, listeningThrough, useDoubtRun } from "../state/doubtRun";
import { allDoubts, type Doubt, keepAll, settle, type Verdict, visitDoubt } from "../state/doubts";
import { jobOf } from "../state/jobs";
import { useProject } from "../state/store";
import { Button } from "../ui/Button";
import { Chip } from "../ui/Chip";
import { FIELD } from "../ui/fields";
import { clock } from "../ui/format";
import { Progress } from "../ui/Progress";
import { Tip } from "../ui/Tip";
import { TraySection } from "../ui/TraySection";

export function DoubtsSection({ project, player }: { project: Project; player: Player | null }) {
  const cues = useProject((state) => state.cues);
  const doubts = allDoubts(cues);
  const second = jobOf(project, "doubt");
  const listening = second?.status === "running" || second?.status === "queued";
  const about = doubts.length
    ? "Words that did not hold when heard again. Listen through them all: 1 to 6 take what else it may be, 7 writes something else, X takes a word out, and what you leave is kept. D plays one after another, A keeps it."
    : listening
      ? "Doubtful words are listed here as they are found."
      : cues.length
        ? "No word is in doubt. Read through once while listening."
        : "Doubtful words are listed here once words have been heard.";
  return (
    <TraySection about={about}>
      {listening && second && (
        <Progress
          label="Listening a second time"
          value={second.progress}
          secondsLeft={second.seconds_left}
        />
      )}
      {doubts.length > 0 && <Through player={player} />}
      {doubts.map((doubt) => (
        <DoubtCard key={doubt.word.id} doubt={doubt} player={player} />
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

function DoubtCard({ doubt, player }: { doubt: Doubt; player: Player | null }) {
  const { cue, word } = doubt;
  const here = useProject((state) => state.doubt === word.id);
  const card = useRef<HTMLDivElement>(null);
  useEffect(() => {
    if (here) card.current?.scrollIntoView({ block: "nearest" });
  }, [here]);
  const take = (verdict: Verdict) => {
    useProject.setState({ doubt: word.id });
    void settle(player, verdict, !listeningThrough());
  };
  return (
    <div
      ref={card}
      className={`rounded border bg-card p-2.5 ${here ? "border-chalk" : "border-line"}`}
    >
      <Tip text="Play it">
        <button
          type="button"
          className="flex w-full items-baseline gap-3 text-left"
          onClick={() => visitDoubt(doubt, player)}
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
      </Tip>
      <div className="mt-2 flex flex-wrap gap-1.5">
        {word.alternatives.map((text, index) => (
          <Chip key={text} onClick={() => take(index)} hint={here ? String(index + 1) : undefined}>
            {text}
          </Chip>
        ))}
        <Chip quiet onClick={() => take("keep")} hint={here ? "A" : undefined}>
          keep
        </Chip>
        <Chip quiet onClick={() => take("out")} hint={here ? "X" : undefined}>
          take out
        </Chip>
      </div>
      {here && <Other onWrite={(written) => take({ written })} />}
    </div>
  );
}

/** Something else is written for a doubtful word; a run through all doubts waits and goes on. */
function Other({ onWrite }: { onWrite: (written: string) => void }) {
  const [text, setText] = useState("");
  return (
    <input
      data-doubt-other
      aria-label="What it is instead"
      placeholder="7 · something else"
      className={`mt-2 ${FIELD}`}
      value={text}
      onChange={(event) => setText(event.target.value)}
      onFocus={holdRun}
      // Where another window is looked at meanwhile, what is typed is still waited for.
      onBlur={(event) => document.activeElement !== event.currentTarget && goOnWithRun()}
      onKeyDown={(event) => {
        if (event.key === "Enter") {
          if (text.trim()) onWrite(text.trim());
          focusPage();
        } else if (event.key === "Escape") focusPage();
        else return;
        event.preventDefault();
        event.stopPropagation();
      }}
    />
  );
}
