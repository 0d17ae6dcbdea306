/** Emoji for the word at the playhead: searched by name, the ones used last first. */

import { useQuery } from "@tanstack/react-query";
import { useState } from "react";
import { api, type Piece, take } from "../api/client";
import type { Player } from "../playback/player";
import { edit } from "../state/commands";
import { Chip } from "../ui/Chip";
import { FIELD } from "../ui/fields";
import { Segments } from "../ui/Segments";
import { Tip } from "../ui/Tip";
import { TraySection } from "../ui/TraySection";
import { LOOPS } from "./AccentLooks";
import { PickField, SliderField } from "./fields";
import { useWordTarget, type WordTarget } from "./wordTarget";

const KEPT = "mortiser.emoji";
const MOST_RECENT = 16;
const COMES = [
  { value: "swell", text: "Swells up" },
  { value: "drop", text: "Drops" },
  { value: "rise", text: "Rises" },
  { value: "stamp", text: "Is stamped on" },
  { value: "swing", text: "Swings in" },
  { value: "fade", text: "Fades in" },
  { value: "none", text: "With its word" },
];
type Side = "text" | "before" | "after" | "above";

interface Emoji {
  text: string;
  name: string;
  code: string;
}

export function EmojiPicker({ piece, player }: { piece: Piece; player: Player | null }) {
  const [typed, setTyped] = useState("");
  const [side, setSide] = useState<Side>("above");
  const [recent, setRecent] = useState<Emoji[]>(() => remembered());
  const found = useQuery({
    queryKey: ["emoji", typed],
    placeholderData: (before) => before,
    staleTime: Number.POSITIVE_INFINITY,
    queryFn: () => take(api.GET("/api/emoji", { params: { query: { find: typed } } })),
  });
  const target = useWordTarget(piece, player);
  const put = (one: Emoji) => {
    if (!target) return;
    const next = [one, ...recent.filter((other) => other.code !== one.code)].slice(0, MOST_RECENT);
    setRecent(next);
    localStorage.setItem(KEPT, JSON.stringify(next));
    if (side !== "text") {
      target.set({ "companion.emoji": one.text, "companion.place": side });
      return;
    }
    const words = target.cue.words.map((word) =>
      word.id === target.word.id ? `${word.text} ${one.text}` : word.text,
    );
    void edit({ kind: "retype_cue", cue_id: target.cue.id, text: words.join(" ") });
  };
  return (
    <TraySection
      title="Emoji"
      about={
        target ? (
          <>
            By “<b className="text-ink">{target.word.text}</b>”, or typed into the text.
          </>
        ) : (
          "Click a word in the Strip, then choose one."
        )
      }
    >
      <div className="w-fit">
        <Segments<Side>
          label="Where it goes"
          chosen={side}
          choices={[
            { value: "above", text: "Above" },
            { value: "before", text: "Before" },
            { value: "after", text: "After" },
            { value: "text", text: "In the text" },
          ]}
          onChoose={setSide}
        />
      </div>
      {target?.own("companion") && <Companion target={target} />}
      {recent.length > 0 && !typed && <Grid label="Used last" emoji={recent} onPut={put} />}
      <input
        type="search"
        aria-label="Find emoji"
        placeholder="Find: thread, kettle, smile…"
        dir="auto"
        className={FIELD}
        value={typed}
        onChange={(event) => setTyped(event.target.value)}
      />
      {found.data?.length === 0 ? (
        <p className="text-dim">No emoji is called that. Try another word.</p>
      ) : (
        <Grid label="Emoji" emoji={(found.data ?? []).slice(0, 48)} onPut={put} />
      )}
    </TraySection>
  );
}

/** The emoji by the word: how it comes, what it does then, how large it is, and away with it. */
function Companion({ target }: { target: WordTarget }) {
  return (
    <div className="space-y-1 rounded border border-line bg-card p-2.5">
      <div className="flex items-center gap-2">
        <span className="flex-1">
          <img
            src={`/api/emoji/${codeOf(String(target.value("companion.emoji")))}/48.png`}
            alt={String(target.value("companion.emoji"))}
            className="mr-1.5 inline size-6"
          />
          by “{target.word.text}”
        </span>
        <Chip quiet onClick={() => target.back("companion")}>
          Take it away
        </Chip>
      </div>
      <PickField target={target} path="companion.comes" label="Comes" choices={COMES} />
      <PickField target={target} path="companion.loop" label="Then" choices={LOOPS} />
      <SliderField
        {...{ target, path: "companion.size", label: "Size", min: 50, max: 300, step: 5 }}
        {...{ per: 100, unit: " %", fallback: 1.15 }}
      />
    </div>
  );
}

function Grid(props: { label: string; emoji: readonly Emoji[]; onPut: (one: Emoji) => void }) {
  const { label, emoji, onPut } = props;
  return (
    <ul aria-label={label} className="grid grid-cols-8 gap-1">
      {emoji.map((one) => (
        <li key={one.code}>
          <Tip text={one.name}>
            <button
              type="button"
              className="w-full rounded p-1 hover:bg-tint"
              aria-label={one.name}
              onClick={() => onPut(one)}
            >
              <img src={`/api/emoji/${one.code}/48.png`} alt="" className="w-full" loading="lazy" />
            </button>
          </Tip>
        </li>
      ))}
    </ul>
  );
}

/** The code points of an emoji, as its picture is asked for. */
function codeOf(emoji: string): string {
  const points = [...emoji].map((letter) => letter.codePointAt(0)?.toString(16) ?? "");
  return points.filter((point) => point !== "fe0f").join("-");
}

function remembered(): Emoji[] {
  try {
    return JSON.parse(localStorage.getItem(KEPT) ?? "[]") as Emoji[];
  } catch {
    return [];
  }
}
