/** Words worth an accent, each with its reason: taken all at once or one by one. */

import { useQuery } from "@tanstack/react-query";
import { useState } from "react";
import { api, type Piece, take } from "../api/client";
import type { Player } from "../playback/player";
import { edit } from "../state/commands";
import { select } from "../state/session";
import { useProject } from "../state/store";
import { Button } from "../ui/Button";
import { Select } from "../ui/Select";
import { Slider } from "../ui/Slider";
import { Tip } from "../ui/Tip";
import { TraySection } from "../ui/TraySection";

export function Suggestions({ piece, player }: { piece: Piece; player: Player | null }) {
  const version = useProject((state) => state.sceneVersion);
  const cues = useProject((state) => state.cues);
  const [density, setDensity] = useState(8);
  const [accent, setAccent] = useState(1);
  const found = useQuery({
    queryKey: ["suggestions", piece.id, density, version],
    placeholderData: (before) => before,
    queryFn: () =>
      take(
        api.GET("/api/pieces/{piece_id}/suggestions", {
          params: { path: { piece_id: piece.id }, query: { density: density / 100 } },
        }),
      ),
  });
  const list = found.data ?? [];
  const mark = (some: typeof list) =>
    edit({
      kind: "mark_words",
      cue_ids: [...new Set(some.map((one) => one.cue_id))],
      word_ids: some.map((one) => one.word_id),
      accent,
    });
  const goTo = (cueId: number, wordId: number) => {
    const word = cues.find((cue) => cue.id === cueId)?.words.find((one) => one.id === wordId);
    select(cueId);
    if (word) player?.seek(word.start_us);
  };
  return (
    <TraySection
      title="Worth an accent"
      about="Found by rules: figures, names, strong words, turns."
    >
      <div className="flex items-center gap-2">
        <span className="w-[86px]">How many</span>
        <Slider
          label="How many words"
          className="flex-1"
          min={2}
          max={25}
          step={1}
          value={density}
          valueText={`${density} %`}
          onMove={setDensity}
        />
        <span className="tabular w-[52px] text-right text-dim">{density} %</span>
      </div>
      <div className="flex items-center gap-2">
        <Select
          label="Accent to give"
          className="h-8 w-28"
          options={piece.finish.accents.map((one, index) => ({
            value: index + 1,
            text: one.name,
          }))}
          chosen={accent}
          onChoose={setAccent}
        />
        <Button kind="main" disabled={!list.length} onClick={() => void mark(list)}>
          {list.length ? `Take all ${list.length}` : "Nothing left to take"}
        </Button>
      </div>
      <ul className="divide-y divide-line rounded border border-line bg-card">
        {list.map((one) => (
          <li key={one.word_id} className="flex items-center gap-2 px-2 py-1">
            <Tip text="Show it">
              <button
                type="button"
                className="min-w-0 flex-1 truncate text-left hover:text-link"
                onClick={() => goTo(one.cue_id, one.word_id)}
              >
                <b>{one.text}</b> <span className="text-dim">{one.reason}</span>
              </button>
            </Tip>
            <button
              type="button"
              className="rounded border border-line px-2 text-small hover:border-dim"
              aria-label={`Take “${one.text}”`}
              onClick={() => void mark([one])}
            >
              take
            </button>
          </li>
        ))}
      </ul>
    </TraySection>
  );
}
