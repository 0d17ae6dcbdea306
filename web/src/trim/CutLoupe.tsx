/** The Loupe while the talk is trimmed: both sides of a cut, what is cut away dimmed, edges to move. */
import { useQuery } from "@tanstack/react-query";
import { useEffect, useRef, useState } from "react";
import { api, type Piece, type Schemas, take } from "../api/client";
import type { Player } from "../playback/player";
import { drag, drop } from "../state/commands";
import { loudest, type Peaks } from "../strip/peaks";
import { sharpCanvas } from "../ui/canvas";
import { clock } from "../ui/format";
import { followPointer } from "../ui/pointer";
import { Tip } from "../ui/Tip";
import { playCut } from "./commands";
import { type Cut, cutsOf, nearestCut } from "./cuts";
import { useTrim } from "./store";

const AROUND_US = 900_000;
const HEIGHT = 76;
type Clip = Schemas["ClipView"];
type Side = "end" | "start";

export function CutLoupe({ piece, player }: { piece: Piece; player: Player | null }) {
  const clips = useTrim((state) => state.clips);
  const [at, setAt] = useState(0);
  useEffect(() => player?.listen((now) => !player.playing && setAt(now)), [player]);
  const cut = nearestCut(cutsOf(clips), at);
  useEffect(() => useTrim.setState({ cut }), [cut]);
  return (
    <section
      aria-label="Loupe"
      className="h-[136px] shrink-0 border-t border-line bg-page px-3.5 py-2"
    >
      {cut ? (
        <Sides cut={cut} piece={piece} player={player} />
      ) : (
        <p className="text-dim">
          <b className="text-ink">Loupe</b> · the nearest cut is shown here, with what it leaves
          out.
        </p>
      )}
    </section>
  );
}

function Sides({ cut, piece, player }: { cut: Cut; piece: Piece; player: Player | null }) {
  const { left, right } = cut;
  const name = !left ? "where it begins" : !right ? "where it ends" : `cut at ${clock(cut.atUs)}`;
  return (
    <>
      <div className="mb-1 flex items-center justify-between gap-3 text-small text-dim">
        <span className="truncate">
          <b className="text-ink">Loupe</b> · {name}
        </span>
        <span className="flex shrink-0 items-center gap-2">
          <span>
            drag an edge, or <kbd className="tabular">[</kbd> <kbd className="tabular">]</kbd>
          </span>
          <Tip text="A second before to a second after (P)">
            <button
              type="button"
              className="text-link hover:underline"
              onClick={() => playCut(player)}
            >
              Play across
            </button>
          </Tip>
        </span>
      </div>
      <div className="flex gap-2">
        {left && <Edge clip={left} side="end" piece={piece} />}
        {right && <Edge clip={right} side="start" piece={piece} />}
      </div>
    </>
  );
}

/** The sound of the recording around an edge of a clip. */
function Edge({ clip, side, piece }: { clip: Clip; side: Side; piece: Piece }) {
  const [moved, setMoved] = useState<number | null>(null);
  const stored = side === "end" ? clip.end_us : clip.start_us;
  const edge = moved ?? stored;
  // While it is dragged the sound stands still.
  const from = Math.max(0, stored - AROUND_US);
  const to = stored + AROUND_US;
  const box = useRef<HTMLDivElement>(null);
  const place = `${(100 * (edge - from)) / (to - from)}%`;
  const begin = (press: React.PointerEvent) => {
    const width = box.current?.clientWidth ?? 0;
    if (press.button !== 0 || !width) return;
    press.preventDefault();
    const move = (event: PointerEvent) => {
      const by = ((event.clientX - press.clientX) * (to - from)) / width;
      const next = Math.round(Math.min(to, Math.max(from, stored + by)));
      setMoved(next);
      drag({ kind: "move_cut", piece_id: piece.id, clip_id: clip.id, edge: side, to_us: next });
    };
    const end = () => void drop().then(() => setMoved(null));
    followPointer({ move, drop: end, giveUp: end });
  };
  const words = useTrim((state) => state.items).filter(
    (item) =>
      item.id && item.strand === clip.strand_id && item.start_us < to && item.start_us > from,
  );
  return (
    <div ref={box} className="relative min-w-0 flex-1 overflow-hidden rounded bg-birch">
      <Sound sourceId={clip.source_id} fromUs={from} toUs={to} />
      <div
        className="absolute inset-y-0 bg-page/75"
        style={
          side === "end" ? { left: place, right: 0 } : { left: 0, right: `calc(100% - ${place})` }
        }
      />
      {words.map((item) => (
        <span
          key={item.key}
          className={`pointer-events-none absolute top-[58px] whitespace-nowrap text-small ${
            item.at_us === null ? "struck" : ""
          }`}
          style={{ left: `${(100 * (item.start_us - from)) / (to - from)}%` }}
        >
          {item.text}
        </span>
      ))}
      <Tip text={side === "end" ? "Drag: where it stops" : "Drag: where it goes on"}>
        <div
          data-cut-edge={side}
          className="absolute inset-y-0 -ml-[6px] w-[13px] cursor-ew-resize"
          style={{ left: place }}
          onPointerDown={begin}
        >
          <span className="absolute inset-y-0 left-[6px] border-l-2 border-clay" />
          <span className="absolute top-0 left-[2px] block size-[9px] rounded-full bg-clay" />
        </div>
      </Tip>
    </div>
  );
}

function Sound({ sourceId, fromUs, toUs }: { sourceId: number; fromUs: number; toUs: number }) {
  const canvas = useRef<HTMLCanvasElement>(null);
  const { data } = useQuery({
    queryKey: ["source-peaks", sourceId, fromUs, toUs],
    staleTime: Number.POSITIVE_INFINITY,
    queryFn: async (): Promise<Peaks> => {
      const path = { source_id: sourceId };
      const query = { from_us: fromUs, to_us: toUs, most: 400 };
      const found = await take(
        api.GET("/api/sources/{source_id}/peaks", { params: { path, query } }),
      );
      return { startUs: found.start_us, stepUs: found.step_us, values: found.peaks };
    },
  });
  useEffect(() => {
    const width = canvas.current?.clientWidth ?? 0;
    const context = sharpCanvas(canvas.current, width, HEIGHT);
    if (!context || !data) return;
    const middle = 28;
    for (let x = 0; x < width; x += 3) {
      const at = fromUs + ((toUs - fromUs) * x) / width;
      const loud = loudest([data], at, at + ((toUs - fromUs) * 3) / width);
      const tall = Math.min(2 * middle, Math.max(1, loud ** 0.7 * 64));
      context.fillRect(x, middle - tall / 2, 2, tall);
    }
  }, [data, fromUs, toUs]);
  return (
    <canvas
      ref={canvas}
      aria-hidden
      className="block w-full text-[#6d6657]"
      style={{ height: HEIGHT }}
    />
  );
}
