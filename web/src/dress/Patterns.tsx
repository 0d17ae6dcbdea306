/** Accents by place: every second line or word dressed another way, without a mark. */
import type { Piece } from "../api/client";
import { edit } from "../state/commands";
import { Select } from "../ui/Select";
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
        <Select
          label="Which places"
          className="flex-1"
          options={[
            ...(found < 0 ? [{ value: -1, text: "As the finish has it" }] : []),
            ...WAYS.map((way, index) => ({ value: index, text: way.text })),
          ]}
          chosen={found}
          onChoose={(index) => set(index, accent)}
        />
        {pattern && (
          <Select
            label="Accent of these places"
            className="w-28"
            options={accents.map((one, index) => ({ value: index + 1, text: one.name }))}
            chosen={accent}
            onChoose={(number) => set(found, number)}
          />
        )}
      </div>
    </TraySection>
  );
}
