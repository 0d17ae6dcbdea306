/** What stands over the picture besides captions, and how more of it is added. */
import {
  ArrowDown,
  ArrowUp,
  AudioLines,
  Clock,
  Heading,
  Image,
  type LucideIcon,
  MessageSquare,
  Minus,
  MoveRight,
  RectangleHorizontal,
  Trash2,
  User,
} from "lucide-react";
import { useState } from "react";
import type { Piece, Shape } from "../api/client";
import { edit } from "../state/commands";
import { openPiece, useProject } from "../state/store";
import { Button } from "../ui/Button";
import { IconButton } from "../ui/IconButton";
import { TraySection } from "../ui/TraySection";
import { LayerFields } from "./LayerFields";
import { type Kind, type Layer, NAMES, titleOf } from "./layers";

const ICONS: [Kind, LucideIcon][] = [
  ["headline", Heading],
  ["picture", Image],
  ["waveform", AudioLines],
  ["bar", Minus],
  ["plate", RectangleHorizontal],
  ["bubble", MessageSquare],
  ["arrow", MoveRight],
  ["clock", Clock],
  ["speaker", User],
];

export function LayersSection({ piece, shape }: { piece: Piece; shape: Shape }) {
  const [open, setOpen] = useState<number | null>(null);
  const add = async (kind: Kind) => {
    const text = kind === "headline" ? piece.name : "";
    const known = new Set(piece.layers.map((one) => one.id));
    if (!(await edit({ kind: "add_layer", piece_id: piece.id, layer: kind, text }))) return;
    const fresh = openPiece(useProject.getState())?.layers.find((one) => !known.has(one.id));
    if (fresh) setOpen(fresh.id);
  };
  return (
    <TraySection
      title="Layers"
      about="Under the captions, in every shape; each shape has its own places."
    >
      <div className="flex flex-wrap gap-1.5">
        {ICONS.map(([kind, Icon]) => (
          <Button key={kind} className="gap-1.5 px-2" onClick={() => void add(kind)}>
            <Icon size={14} /> {NAMES[kind]}
          </Button>
        ))}
      </div>
      {piece.layers.length > 0 && (
        <ul aria-label="Layers" className="divide-y divide-line rounded border border-line bg-card">
          {[...piece.layers].reverse().map((layer) => (
            <li key={layer.id}>
              <div className="flex items-center gap-1 px-2 py-1">
                <button
                  type="button"
                  aria-expanded={open === layer.id}
                  className="min-w-0 flex-1 truncate text-left hover:underline"
                  onClick={() => setOpen(open === layer.id ? null : layer.id)}
                >
                  {NAMES[layer.kind]}
                  {titleOf(layer) && <span className="text-dim"> · {titleOf(layer)}</span>}
                </button>
                {piece.layers.length > 1 && (
                  <>
                    <Raise piece={piece} layer={layer} by={1} />
                    <Raise piece={piece} layer={layer} by={-1} />
                  </>
                )}
                <IconButton
                  label={`Take ${NAMES[layer.kind]} away`}
                  onClick={() =>
                    void edit({ kind: "drop_layer", piece_id: piece.id, layer_id: layer.id })
                  }
                >
                  <Trash2 size={14} />
                </IconButton>
              </div>
              {open === layer.id && <LayerFields piece={piece} shape={shape} layer={layer} />}
            </li>
          ))}
        </ul>
      )}
    </TraySection>
  );
}

function Raise({ piece, layer, by }: { piece: Piece; layer: Layer; by: 1 | -1 }) {
  const Icon = by > 0 ? ArrowUp : ArrowDown;
  return (
    <IconButton
      label={`${NAMES[layer.kind]} ${by > 0 ? "higher" : "lower"}`}
      onClick={() => void edit({ kind: "raise_layer", piece_id: piece.id, layer_id: layer.id, by })}
    >
      <Icon size={14} />
    </IconButton>
  );
}
