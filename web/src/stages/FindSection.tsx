import { useQuery } from "@tanstack/react-query";
import { ChevronDown, ChevronUp } from "lucide-react";
import { useEffect, useState } from "react";
import { api, type Piece, type Schemas, take } from "../api/client";
import type { Player } from "../playback/player";
import { edit } from "../state/commands";
import { select, showFound } from "../state/session";
import { useProject } from "../state/store";
import { Button } from "../ui/Button";
import { Check } from "../ui/Check";
import { Tip } from "../ui/Tip";
import { TraySection } from "../ui/TraySection";

type Match = Schemas["MatchView"];
const NONE: Match[] = [];

/** Find a text over the whole piece, and put another in one or all of its places. */
export function FindSection({ piece, player }: { piece: Piece; player: Player | null }) {
  const [text, setText] = useState("");
  const [other, setOther] = useState("");
  const [wholeWords, setWholeWords] = useState(false);
  const [matchCase, setMatchCase] = useState(false);
  const [at, setAt] = useState(0);
  const version = useProject((state) => state.sceneVersion);
  const options = { whole_words: wholeWords, match_case: matchCase };
  const matches = useQuery({
    queryKey: ["find", piece.id, text, options, version],
    enabled: text.trim() !== "",
    placeholderData: (before) => before,
    queryFn: () =>
      take(
        api.GET("/api/pieces/{piece_id}/find", {
          params: { path: { piece_id: piece.id }, query: { text, ...options } },
        }),
      ),
  });
  const found = (text.trim() && matches.data) || NONE;
  const here = Math.min(at, Math.max(0, found.length - 1));
  useEffect(() => {
    showFound(found.flatMap((match) => match.word_ids));
    return () => showFound([]);
  }, [found]);

  const go = (index: number) => {
    const match = found[(index + found.length) % found.length];
    if (!match) return;
    setAt((index + found.length) % found.length);
    select(match.cue_id);
    player?.seek(match.start_us);
  };
  const replace = (only?: number) =>
    void edit({
      kind: "replace_text",
      piece_id: piece.id,
      find: text,
      text: other,
      ...options,
      only: only ?? null,
    });
  const field = "h-8 w-full rounded border border-line bg-card px-2";
  return (
    <TraySection>
      <div className="flex items-center gap-1">
        <input
          id="find"
          className={field}
          aria-label="Find"
          placeholder="A word or a phrase (Ctrl F)"
          value={text}
          onChange={(event) => {
            setText(event.target.value);
            setAt(0);
          }}
          onKeyDown={(event) => {
            if (event.key === "Enter") go(event.shiftKey ? here - 1 : here + 1);
          }}
        />
        <Step label="Place before" disabled={!found.length} onClick={() => go(here - 1)}>
          <ChevronUp size={16} />
        </Step>
        <Step label="Next place" disabled={!found.length} onClick={() => go(here + 1)}>
          <ChevronDown size={16} />
        </Step>
      </div>
      {text.trim() !== "" && (
        <>
          <p role="status" className="text-dim">
            {found.length
              ? `${here + 1} of ${found.length} ${found.length === 1 ? "place" : "places"}`
              : "Nowhere in the captions"}
          </p>
          <div className="flex gap-4">
            <Option label="Whole words" value={wholeWords} onChange={setWholeWords} />
            <Option label="Match capitals" value={matchCase} onChange={setMatchCase} />
          </div>
          <input
            className={field}
            aria-label="Replace with"
            placeholder="Replace with"
            value={other}
            onChange={(event) => setOther(event.target.value)}
          />
          <div className="flex gap-2">
            <Button disabled={!found.length} onClick={() => replace(here)}>
              Replace this one
            </Button>
            <Button disabled={!found.length} onClick={() => replace()}>
              Replace all {found.length || ""}
            </Button>
          </div>
        </>
      )}
    </TraySection>
  );
}

function Step(props: {
  label: string;
  disabled: boolean;
  onClick: () => void;
  children: React.ReactNode;
}) {
  return (
    <Tip text={props.label}>
      <button
        type="button"
        aria-label={props.label}
        disabled={props.disabled}
        className="rounded p-1.5 hover:bg-tint disabled:opacity-45"
        onClick={props.onClick}
      >
        {props.children}
      </button>
    </Tip>
  );
}

function Option(props: { label: string; value: boolean; onChange: (value: boolean) => void }) {
  return <Check label={props.label} checked={props.value} onChange={props.onChange} />;
}
