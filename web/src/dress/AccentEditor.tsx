/** The accents of the piece's finish: what each of them does, how many there are. */

import { ChevronDown, ChevronRight } from "lucide-react";
import { useState } from "react";
import type { Piece } from "../api/client";
import { Button } from "../ui/Button";
import { FIELD } from "../ui/fields";
import { Select } from "../ui/Select";
import { Tip } from "../ui/Tip";
import { AccentLooks } from "./AccentLooks";
import { inside, make, type Target } from "./scope";

const MOST = 8;

export function AccentEditor({ piece, chosen }: { piece: Piece; chosen: number }) {
  const [open, setOpen] = useState(false);
  const [wanted, setWanted] = useState<number | null>(null);
  const { accents, name } = piece.finish;
  const number = Math.min(wanted ?? Math.max(0, chosen - 1), accents.length - 1);
  const accent = accents[number];
  const at = `accents.${number}.`;
  const target: Target = {
    value: (path) => inside(piece.finish, path.split(".")) ?? undefined,
    set: (changes, dragged) =>
      make({ kind: "change_finish", piece_id: piece.id, changes }, dragged),
    own: () => false,
    back: (...paths) => target.set(Object.fromEntries(paths.map((path) => [path, null]))),
  };
  const add = () => {
    const fresh = { name: `Accent ${accents.length + 1}`, scale: 1.1 };
    target.set({ accents: [...accents, fresh] });
    setWanted(accents.length);
  };
  return (
    <section className="-mt-3 mb-6">
      <button
        type="button"
        aria-expanded={open}
        className="flex items-center gap-1 text-link hover:underline"
        onClick={() => setOpen(!open)}
      >
        {open ? <ChevronDown size={15} /> : <ChevronRight size={15} />}
        Change what the accents do
      </button>
      {open && (
        <div className="mt-2 space-y-2 rounded border border-line bg-card p-3">
          <p className="text-small text-dim">For the whole piece, wherever a word is marked.</p>
          <div className="flex gap-1.5">
            <Select
              label="Accent to change"
              options={accents.map((one, index) => ({
                value: index,
                text: `${index + 1} · ${one.name}`,
              }))}
              chosen={number}
              onChoose={setWanted}
            />
            {accents.length < MOST && <Button onClick={add}>Add</Button>}
            {accents.length > 0 && number === accents.length - 1 && (
              <Tip text={`Take “${accent?.name}” out of ${name}`}>
                <Button
                  kind="quiet"
                  onClick={() => {
                    target.set({ accents: accents.slice(0, -1) });
                    setWanted(null);
                  }}
                >
                  Take off
                </Button>
              </Tip>
            )}
          </div>
          {accent && (
            <>
              <input
                key={`${number} ${accent.name}`}
                aria-label="Name of the accent"
                dir="auto"
                className={FIELD}
                maxLength={24}
                defaultValue={accent.name}
                onBlur={(event) => {
                  const typed = event.target.value.trim();
                  if (typed && typed !== accent.name) target.set({ [`${at}name`]: typed });
                }}
                onKeyDown={(event) => event.key === "Enter" && event.currentTarget.blur()}
              />
              <AccentLooks target={target} at={at} />
            </>
          )}
        </div>
      )}
    </section>
  );
}
