/** A word that is looked at or in doubt: what else it may be, and something else to be written. */
import { useQuery } from "@tanstack/react-query";
import { type KeyboardEvent, useEffect, useRef, useState } from "react";
import { useActive } from "../focus/active";
import { focusPage } from "../focus/page";
import type { Player } from "../playback/player";
import { decide } from "../state/asking";
import { goOnWithRun, holdRun } from "../state/doubtRun";
import { type Doubt, OTHERS, othersOf, type Verdict, visitDoubt } from "../state/doubts";
import { useProject } from "../state/store";
import { textOf } from "../strip/passage";
import { Chip } from "../ui/Chip";
import { FIELD } from "../ui/fields";
import { clock } from "../ui/format";
import { Tip } from "../ui/Tip";

export function WordCard({ asked, player }: { asked: Doubt; player: Player | null }) {
  const { cue, word } = asked;
  const here = useProject((state) => state.doubt === word.id);
  const card = useRef<HTMLDivElement>(null);
  useEffect(() => {
    if (here) card.current?.scrollIntoView({ block: "nearest" });
  }, [here]);
  const take = (verdict: Verdict) => {
    useProject.setState({ doubt: word.id });
    void decide(player, verdict);
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
          onClick={() => visitDoubt(asked, player)}
        >
          <span className="flex-1">
            {cue.words.map((w) => (
              <span key={w.id} className={w.id === word.id ? lookOf(word.doubt) : ""}>
                {w.text}{" "}
              </span>
            ))}
          </span>
          <span className="tabular text-dim">{clock(word.start_us)}</span>
        </button>
      </Tip>
      {here ? (
        <Here asked={asked} take={take} />
      ) : (
        <Choices offered={word.alternatives} take={take} />
      )}
    </div>
  );
}

/** What the word that is looked at may be, each with its key, and a field for anything else. */
function Here({ asked, take }: { asked: Doubt; take: (verdict: Verdict) => void }) {
  const { cue, word } = asked;
  const keysAct = useActive(({ active }) => active !== "text" && active !== "field");
  const [written, setWritten] = useState("");
  const [writing, setWriting] = useState(false);
  const begun = writing ? written.trim() : "";
  const { data: others } = useQuery({
    queryKey: ["others", cue.id, word.id, textOf(cue), word.alternatives, begun],
    queryFn: () => othersOf(asked, begun),
    initialData: word.doubt && !begun ? word.alternatives : undefined,
    placeholderData: (before) => before,
  });
  const offered = others ?? [];
  return (
    <>
      <Choices offered={offered} take={take} keys={{ digits: keysAct || begun !== "", keysAct }} />
      <Other
        text={written}
        offered={offered}
        onType={setWritten}
        onFocus={setWriting}
        onWrite={(text) => take({ written: text })}
      />
    </>
  );
}

/** What to take, with the keys for it; where these do nothing just now, their place is kept. */
function Choices(props: {
  offered: readonly string[];
  take: (verdict: Verdict) => void;
  keys?: { digits: boolean; keysAct: boolean };
}) {
  const { offered, take, keys } = props;
  const hint = (key: string) => (keys ? key : undefined);
  return (
    <div className="mt-2 flex flex-wrap gap-1.5">
      {offered.map((text, index) => (
        <Chip
          key={text}
          onClick={() => take({ written: text })}
          hint={hint(String(index + 1))}
          idle={!keys?.digits}
        >
          {text}
        </Chip>
      ))}
      <Chip quiet onClick={() => take("keep")} hint={hint("A")} idle={!keys?.keysAct}>
        keep
      </Chip>
      <Chip quiet onClick={() => take("out")} hint={hint("X")} idle={!keys?.keysAct}>
        take out
      </Chip>
    </div>
  );
}

const lookOf = (doubtful: boolean) => (doubtful ? "doubt font-bold" : "font-bold");

/**
 * Something else is written for a word, while a run through all doubts waits. Once a letter is there, a digit takes
 * what is offered; a number is begun with a digit and is written as it is.
 */
function Other(props: {
  text: string;
  offered: readonly string[];
  onType: (text: string) => void;
  onFocus: (here: boolean) => void;
  onWrite: (text: string) => void;
}) {
  const { text, offered, onType, onFocus, onWrite } = props;
  const onKeyDown = (event: KeyboardEvent) => {
    const number = /^[^\d]+$/.test(text.trim()) ? OTHERS.indexOf(Number(event.key)) : -1;
    if (number >= 0) {
      const other = offered[number];
      if (other === undefined) return;
      onWrite(other);
      focusPage();
    } else if (event.key === "Enter") {
      if (text.trim()) onWrite(text.trim());
      focusPage();
    } else if (event.key === "Escape") focusPage();
    else return;
    event.preventDefault();
    event.stopPropagation();
  };
  return (
    <input
      data-doubt-other
      aria-label="What it is instead"
      placeholder="7 · something else"
      className={`mt-2 ${FIELD}`}
      value={text}
      onChange={(event) => onType(event.target.value)}
      onFocus={() => {
        holdRun();
        onFocus(true);
      }}
      onBlur={(event) => {
        // Where another window is looked at meanwhile, what is typed is still waited for.
        if (document.activeElement === event.currentTarget) return;
        onFocus(false);
        goOnWithRun();
      }}
      onKeyDown={onKeyDown}
    />
  );
}
