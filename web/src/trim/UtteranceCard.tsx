/** A sentence of a recording: what it says, how long it takes, to be heard and taken. */
import { type ReactNode, useId } from "react";
import type { Schemas } from "../api/client";
import type { Player } from "../playback/player";
import { clock } from "../ui/format";
import { hear, useHeard } from "./recorded";

export type Utterance = Schemas["UtteranceView"];

interface Props {
  one: Utterance;
  player: Player | null;
  /** What can be done with it. */
  children?: ReactNode;
}

export function UtteranceCard({ one, player, children }: Props) {
  const card = useId();
  const heard = useHeard((state) => (state.card === card ? state.times : 0));
  return (
    <div
      className={`rounded border bg-card px-2.5 py-2 ${one.at_us === null ? "border-line" : "border-chalk"}`}
    >
      <button
        type="button"
        title="Hear it"
        className="w-full text-left hover:text-link"
        onClick={() => hear(one, card, player)}
      >
        {one.words.map((word, at) => (
          // biome-ignore lint/suspicious/noArrayIndexKey: words have no other key, and do not move
          <span key={at}>
            <span className={word.noticed ? "rounded-sm bg-tint font-bold" : ""}>
              {word.text}
            </span>{" "}
          </span>
        ))}
      </button>
      {heard > 0 && one.at_us === null && <Recording key={heard} one={one} />}
      <div className="mt-1 flex items-center gap-2 text-small">
        <span className="min-w-0 flex-1 truncate text-dim">{one.recording}</span>
        <span className="tabular shrink-0 text-dim">{clock(one.start_us)}</span>
        <span className="tabular shrink-0 whitespace-nowrap text-dim">
          {((one.end_us - one.start_us) / 1e6).toFixed(1)} s
        </span>
        {children}
      </div>
    </div>
  );
}

const ROOM_S = 0.15;

/** The recording itself, played from just before the sentence to just behind it; a click plays it again. */
function Recording({ one }: { one: Utterance }) {
  const from = Math.max(0, one.start_us / 1e6 - ROOM_S);
  return (
    // biome-ignore lint/a11y/useMediaCaption: the words stand above it
    <video
      className="mt-1.5 max-h-40 w-full rounded bg-stage"
      aria-label="The recording"
      src={`/api/sources/${one.source_id}/media#t=${from},${one.end_us / 1e6 + ROOM_S}`}
      autoPlay
    />
  );
}
