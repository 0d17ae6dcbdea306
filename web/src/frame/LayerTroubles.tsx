/** Layers that are in the way, each with a place where nothing is the matter. */
import { MoveVertical } from "lucide-react";
import type { Piece, Shape } from "../api/client";
import type { Player } from "../playback/player";
import { edit } from "../state/commands";
import { IconButton } from "../ui/IconButton";
import type { InTheWay } from "./guides";
import { NAMES, titleOf } from "./layers";

export function LayerTroubles(props: {
  piece: Piece;
  shape: Shape;
  player: Player | null;
  troubles: InTheWay["layers"];
}) {
  const { piece, shape, player, troubles } = props;
  if (!troubles.length) return null;
  const name = (id: number) => {
    const layer = piece.layers.find((one) => one.id === id);
    return layer ? titleOf(layer).split("\n")[0] || NAMES[layer.kind] : "";
  };
  return (
    <ul
      aria-label="Layers in the way"
      className="divide-y divide-line rounded border border-line bg-card"
    >
      {troubles.map((one) => (
        <li key={`${one.layer_id} ${one.kind} ${one.about}`} className="flex items-center">
          <button
            type="button"
            className="flex min-w-0 flex-1 gap-2 px-2 py-1 text-left hover:bg-tint"
            onClick={() => player?.seek(one.at_us)}
          >
            <span className="min-w-0 flex-1 truncate">{name(one.layer_id)}</span>
            <span className="text-clay">{one.about.replace(".", "")}</span>
          </button>
          {one.y !== null && (
            <IconButton
              label={`Move ${name(one.layer_id)} out of the way`}
              onClick={() =>
                void edit({
                  kind: "place_layer",
                  piece_id: piece.id,
                  shape_id: shape.id,
                  layer_id: one.layer_id,
                  changes: { y: one.y },
                })
              }
            >
              <MoveVertical size={14} />
            </IconButton>
          )}
        </li>
      ))}
    </ul>
  );
}
