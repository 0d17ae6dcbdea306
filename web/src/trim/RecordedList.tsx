/** What was said in all recordings of the project: looked for by its words, and takes side by side. */
import { useQuery } from "@tanstack/react-query";
import { type ComponentProps, useState } from "react";
import { api, type Piece, type Source, take } from "../api/client";
import type { Player } from "../playback/player";
import { useProject } from "../state/store";
import { Tip } from "../ui/Tip";
import { TraySection } from "../ui/TraySection";
import { Unfold } from "../ui/Unfold";
import { putUtterance, takeInstead } from "./recorded";
import { type Utterance, UtteranceCard } from "./UtteranceCard";

interface Props {
  piece: Piece;
  player: Player | null;
}

const LEAST_LETTERS = 2;

export function RecordedList({ piece, player }: Props) {
  const recordings = useProject((state) => state.project?.sources);
  const sounds = new Set(recordings?.map((one) => one.microphone?.sound_id));
  const spoken = (recordings ?? []).filter((one) => !sounds.has(one.id));
  return (
    <>
      <Said piece={piece} player={player} recordings={spoken} />
      <Takes piece={piece} player={player} />
    </>
  );
}

/** What answers depend on, besides what is asked. */
function useNow(piece: Piece): readonly [number, number, number] {
  const heard = useProject((state) => state.heard);
  const revision = useProject((state) => state.project?.revision ?? 0);
  return [piece.id, heard, revision];
}

function Said({ piece, player, recordings }: Props & { recordings: Source[] }) {
  const [text, setText] = useState("");
  const asked = text.trim();
  const looks = asked.length >= LEAST_LETTERS;
  const found = useSaid(piece, { text: asked }, looks);
  return (
    <TraySection title={recordings.length > 1 ? "All recordings" : "All that was said"}>
      <input
        aria-label="Look for words in all recordings"
        placeholder="Look for words to put in"
        className="h-8 w-full rounded border border-line bg-card px-2"
        value={text}
        onChange={(event) => setText(event.target.value)}
      />
      {looks && found && (
        <p role="status" className="text-dim">
          {found.length
            ? `In ${found.length} ${found.length === 1 ? "sentence" : "sentences"}`
            : "Nobody says that in these recordings"}
        </p>
      )}
      {looks && found?.map((one) => <ToPut key={one.first_word} one={one} player={player} />)}
      {!looks &&
        recordings.length > 1 &&
        recordings.map((one) => (
          <Unfold key={one.id} title={one.name}>
            <Sentences piece={piece} player={player} source={one} />
          </Unfold>
        ))}
    </TraySection>
  );
}

/** Everything that is said in a recording. */
function Sentences({ piece, player, source }: Props & { source: Source }) {
  const found = useSaid(piece, { source_id: source.id }, true);
  if (found?.length === 0) return <p className="pl-5 text-dim">Nothing is said in it.</p>;
  return found?.map((one) => <ToPut key={one.first_word} one={one} player={player} />);
}

function useSaid(piece: Piece, query: { text?: string; source_id?: number }, enabled: boolean) {
  const { data } = useQuery({
    queryKey: ["said", ...useNow(piece), query],
    enabled,
    placeholderData: (before) => before,
    queryFn: () =>
      take(
        api.GET("/api/pieces/{piece_id}/said", {
          params: { path: { piece_id: piece.id }, query },
        }),
      ),
  });
  return data;
}

function ToPut({ one, player }: { one: Utterance; player: Player | null }) {
  return (
    <UtteranceCard one={one} player={player}>
      <Tip text="Behind what is selected in the Strip, or behind the word at the playhead">
        <Small onClick={() => void putUtterance(one, player)}>Put here</Small>
      </Tip>
    </UtteranceCard>
  );
}

function Takes({ piece, player }: Props) {
  const { data } = useQuery({
    queryKey: ["takes", ...useNow(piece)],
    placeholderData: (before) => before,
    queryFn: () =>
      take(api.GET("/api/pieces/{piece_id}/takes", { params: { path: { piece_id: piece.id } } })),
  });
  if (!data?.length) return null;
  return (
    <TraySection>
      <Unfold title="Takes of the same words" count={data.length} strong>
        {data.map(({ takes }) => (
          <TakesOfOne key={takes[0]?.first_word} takes={takes} player={player} />
        ))}
      </Unfold>
    </TraySection>
  );
}

/** The takes of one sentence, beside one another. */
function TakesOfOne({ takes, player }: { takes: Utterance[]; player: Player | null }) {
  const plays = takes.find((one) => one.at_us !== null);
  return (
    <div className="grid gap-1 border-l-2 border-line pl-2">
      {takes.map((one) => (
        <UtteranceCard key={one.first_word} one={one} player={player}>
          {one.at_us !== null ? (
            <span className="shrink-0 text-chalk">in the piece</span>
          ) : plays ? (
            <Small onClick={() => void takeInstead(one, plays, player)}>Use this one</Small>
          ) : (
            <Small onClick={() => void putUtterance(one, player)}>Put here</Small>
          )}
        </UtteranceCard>
      ))}
    </div>
  );
}

function Small(props: ComponentProps<"button">) {
  return (
    <button
      type="button"
      className="shrink-0 rounded px-1.5 py-0.5 text-link hover:bg-tint"
      {...props}
    />
  );
}
