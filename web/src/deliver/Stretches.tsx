/** What of the piece is delivered: all of it, or some stretches as files of their own. */
import { Play, Plus, X } from "lucide-react";
import { useState } from "react";
import type { Piece } from "../api/client";
import { MOST_STRETCHES } from "../api/values";
import type { Player } from "../playback/player";
import { Button } from "../ui/Button";
import { clock, timeTyped } from "../ui/format";
import { IconButton } from "../ui/IconButton";
import { TraySection } from "../ui/TraySection";

export interface Stretch {
  start_us: number;
  end_us: number;
}

export function Stretches(props: {
  piece: Piece;
  player: Player | null;
  chosen: readonly Stretch[];
  onChange: (stretches: readonly Stretch[]) => void;
}) {
  const { piece, player, chosen, onChange } = props;
  const whole = piece.duration_us;
  const add = () => {
    const from = Math.min(Math.max(0, Math.round(player?.at ?? 0)), whole - 1_000_000);
    const start_us = Math.max(0, from);
    onChange([...chosen, { start_us, end_us: Math.min(whole, start_us + 10_000_000) }]);
  };
  return (
    <TraySection
      title="Of the piece"
      about={
        chosen.length ? "Each stretch becomes a file of its own." : `All of it, ${clock(whole)}.`
      }
    >
      <ul aria-label="Stretches" className="space-y-1">
        {chosen.map((one, index) => (
          // biome-ignore lint/suspicious/noArrayIndexKey: they are known by their place alone
          <li key={index} className="flex items-center gap-1.5">
            <Moment
              label={`Stretch ${index + 1} begins`}
              value={one.start_us}
              onChange={(at) =>
                onChange(chosen.with(index, { ...one, start_us: between(at, 0, one.end_us - 1e5) }))
              }
            />
            <span className="text-dim">to</span>
            <Moment
              label={`Stretch ${index + 1} ends`}
              value={one.end_us}
              onChange={(at) =>
                onChange(
                  chosen.with(index, { ...one, end_us: between(at, one.start_us + 1e5, whole) }),
                )
              }
            />
            <IconButton
              label={`Play stretch ${index + 1}`}
              onClick={() => player?.playStretch(one.start_us, one.end_us, false)}
            >
              <Play size={14} />
            </IconButton>
            <IconButton
              label={`Leave out stretch ${index + 1}`}
              onClick={() => onChange(chosen.filter((_, other) => other !== index))}
            >
              <X size={14} />
            </IconButton>
          </li>
        ))}
      </ul>
      <Button className="h-7 gap-1 px-2" disabled={chosen.length >= MOST_STRETCHES} onClick={add}>
        <Plus size={14} /> A stretch from here
      </Button>
    </TraySection>
  );
}

const between = (value: number, least: number, most: number): number =>
  Math.round(Math.min(most, Math.max(least, value)));

function Moment(props: { label: string; value: number; onChange: (us: number) => void }) {
  const { label, value, onChange } = props;
  const [typed, setTyped] = useState<string | null>(null);
  const commit = () => {
    const at = typed === null ? null : timeTyped(typed);
    setTyped(null);
    if (at !== null) onChange(at);
  };
  return (
    <input
      aria-label={label}
      className="tabular h-7 w-[76px] rounded border border-line bg-card px-1.5 text-right"
      value={typed ?? clock(value)}
      onFocus={(event) => event.target.select()}
      onChange={(event) => setTyped(event.target.value)}
      onBlur={commit}
      onKeyDown={(event) => event.key === "Enter" && commit()}
    />
  );
}
