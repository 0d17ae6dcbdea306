/** One number of the pace: shown in its own unit, sent when the field is left. */

import { useState } from "react";
import type { Pace, Piece } from "../api/client";
import { edit } from "../state/commands";
import { Tip } from "../ui/Tip";

/** Give the whole piece a pace that differs in some numbers. */
export function setPace(piece: Piece, change: Partial<Pace>): void {
  void edit({ kind: "set_pace", piece_id: piece.id, pace: { ...piece.pace, ...change } });
}

export function PaceField(props: {
  piece: Piece;
  name: Exclude<keyof Pace, "snap">;
  label: string;
  unit: string;
  /** How many of the stored unit make one of the shown. */
  per?: number;
  hint?: string;
}) {
  const { piece, name, label, unit, per = 1, hint } = props;
  const shown = String(Number((piece.pace[name] / per).toFixed(3)));
  const [typed, setTyped] = useState<string | null>(null);
  const commit = () => {
    const value = Number((typed ?? shown).replace(",", "."));
    setTyped(null);
    if (typed === null || typed.trim() === "" || Number.isNaN(value) || String(value) === shown) {
      return;
    }
    setPace(piece, { [name]: Math.round(value * per) });
  };
  return (
    <Tip text={hint}>
      <label className="flex items-center gap-2">
        <span className="flex-1">{label}</span>
        <input
          inputMode="decimal"
          aria-label={label}
          className="tabular h-7 w-16 rounded border border-line bg-card px-2 text-right"
          value={typed ?? shown}
          onFocus={(event) => event.target.select()}
          onChange={(event) => setTyped(event.target.value)}
          onBlur={commit}
          onKeyDown={(event) => {
            if (event.key === "Enter") event.currentTarget.blur();
            if (event.key === "Escape") setTyped(null);
          }}
        />
        <span className="w-[86px] text-dim">{unit}</span>
      </label>
    </Tip>
  );
}
