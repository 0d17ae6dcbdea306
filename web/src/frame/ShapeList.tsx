/** The shapes of a piece: one of them is looked at, others are added and taken away. */
import { Columns3, Plus, Trash2 } from "lucide-react";
import { Popover } from "radix-ui";
import { useState } from "react";
import type { Piece, Shape } from "../api/client";
import { NAMED_SHAPES } from "../api/values";
import type { Player } from "../playback/player";
import { edit } from "../state/commands";
import { openPiece, useProject, useShape } from "../state/store";
import { Button } from "../ui/Button";
import { IconButton } from "../ui/IconButton";
import { TraySection } from "../ui/TraySection";
import { SideBySide } from "./SideBySide";
import { shapeName } from "./shapes";

const SIDE = 22;

export function showShape(shapeId: number): void {
  useProject.setState((now) => ({ shapeId, sceneVersion: now.sceneVersion + 1 }));
}

/** Add a shape and look at it. */
async function add(piece: Piece, width: number, height: number): Promise<void> {
  const known = new Set(piece.shapes.map((one) => one.id));
  if (!(await edit({ kind: "add_shape", piece_id: piece.id, width, height }))) return;
  const now = openPiece(useProject.getState());
  const fresh = now?.shapes.find((one) => !known.has(one.id));
  if (fresh) showShape(fresh.id);
}

export function ShapeList({ piece, player }: { piece: Piece; player: Player | null }) {
  const shape = useShape(piece);
  const [together, setTogether] = useState(false);
  return (
    <TraySection title="Shapes" about="One piece, cut and captioned once; each shape is delivered.">
      <ul aria-label="Shapes" className="space-y-1">
        {piece.shapes.map((one) => (
          <li key={one.id} className="flex items-center gap-1">
            <button
              type="button"
              aria-pressed={one.id === shape.id}
              className={`flex h-10 min-w-0 flex-1 items-center gap-2.5 rounded border px-2 text-left ${
                one.id === shape.id ? "border-chalk bg-card" : "border-line hover:border-dim"
              }`}
              onClick={() => showShape(one.id)}
            >
              <Outline shape={one} />
              <span className={one.id === shape.id ? "font-bold" : ""}>{shapeName(one)}</span>
              <span className="tabular ml-auto text-small text-dim">
                {one.width} × {one.height}
              </span>
            </button>
            {piece.shapes.length > 1 && (
              <IconButton
                label={`Take ${shapeName(one)} away`}
                onClick={() =>
                  void edit({ kind: "drop_shape", piece_id: piece.id, shape_id: one.id })
                }
              >
                <Trash2 size={15} />
              </IconButton>
            )}
          </li>
        ))}
      </ul>
      <div className="flex gap-2">
        <AddShape piece={piece} />
        {piece.shapes.length > 1 && (
          <Button className="flex-1" onClick={() => setTogether(true)}>
            <Columns3 size={15} /> See all
          </Button>
        )}
      </div>
      {together && <SideBySide piece={piece} player={player} onClose={() => setTogether(false)} />}
    </TraySection>
  );
}

/** A frame drawn small, within a square. */
export function Outline({ shape }: { shape: Pick<Shape, "width" | "height"> }) {
  const share = SIDE / Math.max(shape.width, shape.height);
  return (
    <span aria-hidden className="grid shrink-0 place-items-center" style={{ width: SIDE }}>
      <span
        className="block rounded-[2px] border-2 border-current opacity-70"
        style={{ width: shape.width * share, height: shape.height * share }}
      />
    </span>
  );
}

function AddShape({ piece }: { piece: Piece }) {
  const [open, setOpen] = useState(false);
  const [width, setWidth] = useState("1080");
  const [height, setHeight] = useState("1440");
  const has = (one: { width: number; height: number }) =>
    piece.shapes.some((shape) => shape.width === one.width && shape.height === one.height);
  const left = NAMED_SHAPES.filter((one) => !has(one));
  const choose = (across: number, down: number) => {
    setOpen(false);
    void add(piece, across, down);
  };
  const field =
    "tabular h-8 w-20 rounded border border-line bg-card px-2 text-right hover:border-dim";
  return (
    <Popover.Root open={open} onOpenChange={setOpen}>
      <Popover.Trigger asChild>
        <Button className="flex-1">
          <Plus size={15} /> Add a shape
        </Button>
      </Popover.Trigger>
      <Popover.Portal>
        <Popover.Content
          align="start"
          sideOffset={4}
          aria-label="Add a shape"
          className="z-40 w-[300px] rounded border border-line bg-page p-1.5 shadow-lg"
        >
          {left.map((one) => (
            <button
              key={one.name}
              type="button"
              className="flex h-9 w-full items-center gap-2.5 rounded px-2 text-left hover:bg-tint"
              onClick={() => choose(one.width, one.height)}
            >
              <Outline shape={one} />
              {one.name}
              <span className="tabular ml-auto text-small text-dim">
                {one.width} × {one.height}
              </span>
            </button>
          ))}
          <form
            className="mt-1 flex items-center gap-2 border-t border-line px-2 pt-2 pb-1"
            onSubmit={(event) => {
              event.preventDefault();
              choose(Number(width), Number(height));
            }}
          >
            <input
              aria-label="Own width in pixels"
              inputMode="numeric"
              className={field}
              value={width}
              onChange={(event) => setWidth(event.target.value)}
            />
            ×
            <input
              aria-label="Own height in pixels"
              inputMode="numeric"
              className={field}
              value={height}
              onChange={(event) => setHeight(event.target.value)}
            />
            <Button
              type="submit"
              className="ml-auto"
              disabled={!/^\d{3,4}$/.test(width) || !/^\d{3,4}$/.test(height)}
            >
              Add
            </Button>
          </form>
        </Popover.Content>
      </Popover.Portal>
    </Popover.Root>
  );
}
