/** Emoji for the word at the playhead: searched by name, the ones used last first. */
import { useQuery } from "@tanstack/react-query";
import { useState } from "react";
import { api, take } from "../api/client";
import type { Player } from "../playback/player";
import { edit, wordAt } from "../state/project";
import { FIELD } from "../ui/fields";
import { Segments } from "../ui/Segments";
import { TraySection } from "../ui/TraySection";

const KEPT = "mortiser.emoji";
const MOST_RECENT = 16;
type Side = "after" | "before" | "alone";

interface Emoji {
  text: string;
  name: string;
  code: string;
}

export function EmojiPicker({ player }: { player: Player | null }) {
  const [typed, setTyped] = useState("");
  const [side, setSide] = useState<Side>("after");
  const [recent, setRecent] = useState<Emoji[]>(() => remembered());
  const found = useQuery({
    queryKey: ["emoji", typed],
    placeholderData: (before) => before,
    staleTime: Number.POSITIVE_INFINITY,
    queryFn: () => take(api.GET("/api/emoji", { params: { query: { find: typed } } })),
  });
  const put = (one: Emoji) => {
    const here = wordAt(player?.at ?? 0);
    if (!here) return;
    const next = [one, ...recent.filter((other) => other.code !== one.code)].slice(0, MOST_RECENT);
    setRecent(next);
    localStorage.setItem(KEPT, JSON.stringify(next));
    const words = here.cue.words.map((word) => {
      if (word.id !== here.word.id) return word.text;
      if (side === "alone") return `${word.text} ${one.text}`;
      return side === "after" ? `${word.text}${one.text}` : `${one.text}${word.text}`;
    });
    void edit({ kind: "retype_cue", cue_id: here.cue.id, text: words.join(" ") });
  };
  return (
    <TraySection title="Emoji" about="For the word at the playhead, in colour.">
      <div className="w-fit">
        <Segments<Side>
          label="Where it goes"
          chosen={side}
          choices={[
            { value: "before", text: "Before it" },
            { value: "after", text: "After it" },
            { value: "alone", text: "As a word" },
          ]}
          onChoose={setSide}
        />
      </div>
      {recent.length > 0 && !typed && <Grid label="Used last" emoji={recent} onPut={put} />}
      <input
        type="search"
        aria-label="Find emoji"
        placeholder="Find: thread, kettle, smile…"
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

function Grid(props: { label: string; emoji: readonly Emoji[]; onPut: (one: Emoji) => void }) {
  const { label, emoji, onPut } = props;
  return (
    <ul aria-label={label} className="grid grid-cols-8 gap-1">
      {emoji.map((one) => (
        <li key={one.code}>
          <button
            type="button"
            className="w-full rounded p-1 hover:bg-tint"
            title={one.name}
            aria-label={one.name}
            onClick={() => onPut(one)}
          >
            <img src={`/api/emoji/${one.code}/48.png`} alt="" className="w-full" loading="lazy" />
          </button>
        </li>
      ))}
    </ul>
  );
}

function remembered(): Emoji[] {
  try {
    return JSON.parse(localStorage.getItem(KEPT) ?? "[]") as Emoji[];
  } catch {
    return [];
  }
}
