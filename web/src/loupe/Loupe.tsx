/** The Loupe: the selected caption's sound magnified, each word where it is spoken. */
import { useEffect, useRef } from "react";
import type { Cue, Piece } from "../api/client";
import type { Player } from "../playback/player";
import { useProject } from "../state/project";
import { loudest, usePeaks } from "../strip/peaks";
import { sharpCanvas } from "../ui/canvas";

const MARGIN_US = 350_000;
const HEIGHT = 54;

export function Loupe({ piece, player }: { piece: Piece; player: Player | null }) {
  const cue = useProject((state) => state.cues.find((c) => c.id === state.selected));
  return (
    <section
      aria-label="Loupe"
      className="h-[132px] shrink-0 border-t border-line bg-page px-3.5 py-2"
    >
      {cue ? (
        <Magnified cue={cue} piece={piece} player={player} />
      ) : (
        <p className="text-dim">
          <b className="text-ink">Loupe</b> · click a caption to see its sound up close.
        </p>
      )}
    </section>
  );
}

function Magnified({ cue, piece, player }: { cue: Cue; piece: Piece; player: Player | null }) {
  const from = Math.max(0, cue.start_us - MARGIN_US);
  const to = Math.min(piece.duration_us, cue.end_us + MARGIN_US);
  const place = (at: number) => `${(100 * (at - from)) / (to - from)}%`;
  const head = useRef<HTMLDivElement>(null);
  useEffect(
    () =>
      player?.listen((at) => {
        if (!head.current) return;
        head.current.style.left = `${(100 * (at - from)) / (to - from)}%`;
        head.current.style.display = at >= from && at <= to ? "block" : "none";
      }),
    [player, from, to],
  );
  return (
    <>
      <div className="mb-1 flex justify-between text-small text-dim">
        <span className="truncate">
          <b className="text-ink">Loupe</b> · {cue.words.map((word) => word.text).join(" ")}
        </span>
        <span>click a word to hear from there</span>
      </div>
      <div className="relative">
        <Wave sourceId={piece.source_id} fromUs={from} toUs={to} />
        <div
          className="absolute inset-y-0 border-x-2 border-chalk bg-chalk/10"
          style={{ left: place(cue.start_us), right: `calc(100% - ${place(cue.end_us)})` }}
        />
        {cue.words.map((word) => (
          <button
            key={word.id}
            type="button"
            title={
              word.aligned
                ? "Hear from here"
                : "Placed by its length: it was not found in the sound"
            }
            className={`absolute top-0 h-[84px] overflow-visible border-l border-ink/40 pl-1 text-left ${
              word.aligned ? "" : "border-dashed italic text-dim"
            }`}
            style={{
              left: place(word.start_us),
              width: `calc(${place(word.end_us)} - ${place(word.start_us)})`,
            }}
            onClick={() => player?.seek(word.start_us)}
          >
            <span className={`absolute bottom-0 whitespace-nowrap ${word.doubt ? "doubt" : ""}`}>
              {word.text}
            </span>
          </button>
        ))}
        <div ref={head} className="pointer-events-none absolute -top-1 h-[64px] w-px bg-clay" />
      </div>
    </>
  );
}

function Wave({ sourceId, fromUs, toUs }: { sourceId: number; fromUs: number; toUs: number }) {
  const canvas = useRef<HTMLCanvasElement>(null);
  const peaks = usePeaks(sourceId, fromUs, toUs);
  useEffect(() => {
    const width = canvas.current?.clientWidth ?? 0;
    const context = sharpCanvas(canvas.current, width, HEIGHT);
    if (!context) return;
    for (let x = 0; x < width; x += 3) {
      const at = fromUs + ((toUs - fromUs) * x) / width;
      const tall = Math.max(
        1,
        loudest(peaks, at, at + ((toUs - fromUs) * 3) / width) ** 0.7 * HEIGHT * 1.2,
      );
      const shown = Math.min(tall, HEIGHT);
      context.fillRect(x, (HEIGHT - shown) / 2, 2, shown);
    }
  }, [peaks, fromUs, toUs]);
  return (
    <canvas
      ref={canvas}
      aria-hidden
      className="block w-full text-[#6d6657]"
      style={{ height: HEIGHT }}
    />
  );
}
