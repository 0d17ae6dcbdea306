/** Accents by place: every second line or word dressed another way, without a mark. */
import type { Piece } from "../api/client";
import { edit } from "../state/project";
import { TraySection } from "../ui/TraySection";

const WAYS = [
  { text: "None", by: null, before: 0 },
  { text: "Every second line", by: "line", before: 1 },
  { text: "Every third line", by: "line", before: 2 },
  { text: "Every second word", by: "word", before: 1 },
  { text: "Every third word", by: "word", before: 2 },
] as const;

export function Patterns({ piece }: { piece: Piece }) {
  const { pattern, accents } = piece.finish;
  const accent = pattern?.cycle.find((one) => one > 0) ?? 1;
  const found = WAYS.findIndex(
    (way) =>
      way.by === (pattern?.by ?? null) && (!pattern || way.before === pattern.cycle.length - 1),
  );
  const set = (index: number, number: number) => {
    const way = WAYS[index];
    if (!way) return;
    const cycle = [...Array<number>(way.before).fill(0), number];
    void edit({
      kind: "change_finish",
      piece_id: piece.id,
      changes: { pattern: way.by ? { by: way.by, cycle } : null },
    });
  };
  return (
    <TraySection
      title="By their place"
      about="For the whole piece; words marked by hand keep their mark."
    >
      <div className="flex gap-2">
        <select
          aria-label="Which places"
          className="h-8 min-w-0 flex-1 rounded border border-line bg-card px-1.5"
          value={found < 0 ? "" : found}
          onChange={(event) => set(Number(event.target.value), accent)}
        >
          {found < 0 && <option value="">As the finish has it</option>}
          {WAYS.map((way, index) => (
            <option key={way.text} value={index}>
              {way.text}
            </option>
          ))}
        </select>
        <select
          aria-label="Accent of these places"
          className="h-8 rounded border border-line bg-card px-1.5"
          value={accent}
          disabled={!pattern}
          onChange={(event) => set(found, Number(event.target.value))}
        >
          {accents.map((one, index) => (
            <option key={one.name} value={index + 1}>
              {one.name}
            </option>
          ))}
        </select>
      </div>
    </TraySection>
  );
}
