/** The Loupe: the selected caption's sound magnified, each word where it is spoken, its edges to move. */

import { useEffect, useRef, useState } from "react";
import type { Cue, Piece, Word } from "../api/client";
import type { Player } from "../playback/player";
import { edit } from "../state/commands";
import { useProject } from "../state/store";
import { textOf } from "../strip/passage";
import { loudest, usePeaks } from "../strip/peaks";
import { sharpCanvas } from "../ui/canvas";
import { clock } from "../ui/format";
import { followPointer } from "../ui/pointer";
import { Tip } from "../ui/Tip";
import { labelRows } from "./labels";

const MARGIN_US = 350_000;
const HEIGHT = 50;
const MOVED_PX = 2;

export function Loupe({ piece, player }: { piece: Piece; player: Player | null }) {
  const cue = useProject((state) => state.cues.find((c) => c.id === state.selected));
  return (
    <section
      aria-label="Loupe"
      className="h-[136px] shrink-0 border-t border-line bg-page px-3.5 py-2"
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

type Edge = "start" | "end";

/** A word's edge being dragged: where it is now. */
interface Drag {
  wordId: number;
  edge: Edge;
  atUs: number;
}

/** Words nearer than this share their boundary: it has one handle. */
const APART_US = 30_000;

function Magnified({ cue, piece, player }: { cue: Cue; piece: Piece; player: Player | null }) {
  const chosen = useProject((state) => state.word);
  const [drag, setDrag] = useState<Drag | null>(null);
  const box = useRef<HTMLDivElement>(null);
  const from = Math.max(0, cue.start_us - MARGIN_US);
  const to = Math.min(piece.duration_us, cue.end_us + MARGIN_US);
  const share = (at: number) => (at - from) / (to - from);
  const place = (at: number) => `${100 * share(at)}%`;
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
  // What is looped stays the caption while its edges are adjusted.
  useEffect(() => player?.reloop(cue.start_us, cue.end_us), [player, cue.start_us, cue.end_us]);

  const edgeOf = (word: Word, edge: Edge) => {
    if (drag?.wordId === word.id && drag.edge === edge) return drag.atUs;
    return edge === "start" ? word.start_us : word.end_us;
  };
  const begin = (press: React.PointerEvent, word: Word, edge: Edge) => {
    const width = box.current?.clientWidth ?? 0;
    if (press.button !== 0 || !width) return;
    press.preventDefault();
    useProject.setState({ word: word.id });
    let at: number | null = null;
    const move = (event: PointerEvent) => {
      const pixels = event.clientX - press.clientX;
      if (at === null && Math.abs(pixels) < MOVED_PX) return;
      const index = cue.words.indexOf(word);
      const [low, high] =
        edge === "start"
          ? [cue.words[index - 1]?.start_us ?? from, word.end_us]
          : [word.start_us, cue.words[index + 1]?.end_us ?? to];
      at = Math.round(edgeOf(word, edge) + (pixels * (to - from)) / width);
      at = Math.min(Math.max(at, low), high);
      setDrag({ wordId: word.id, edge, atUs: at });
    };
    const drop = () => {
      if (at === null) return setDrag(null);
      const ids = { cue_id: cue.id, word_id: word.id };
      void edit({ kind: "move_word_edge", ...ids, edge, to_us: at }).finally(() => setDrag(null));
    };
    followPointer({ move, drop, giveUp: () => setDrag(null) });
  };

  const rows = labelRows(
    cue.words.map((word) => ({ at: share(edgeOf(word, "start")), text: word.text })),
    box.current?.clientWidth || 400,
  );
  const word = cue.words.find((w) => w.id === chosen);
  return (
    <>
      <div className="mb-1 flex justify-between gap-3 text-small text-dim">
        <span className="truncate">
          <b className="text-ink">Loupe</b> ·{" "}
          {word ? (
            <>
              “{word.text}” lights up at{" "}
              <span className="tabular">{clock(edgeOf(word, "start"), true)}</span>
            </>
          ) : (
            textOf(cue)
          )}
        </span>
        <span className="shrink-0">
          drag a line, or <kbd className="tabular">[</kbd> <kbd className="tabular">]</kbd>
        </span>
      </div>
      <div ref={box} className="relative h-[96px]">
        <Wave fromUs={from} toUs={to} />
        <div
          className="absolute top-0 border-x-2 border-chalk bg-chalk/10"
          style={{
            left: place(cue.start_us),
            right: `calc(100% - ${place(cue.end_us)})`,
            height: HEIGHT,
          }}
        />
        {cue.words.map((w, index) => (
          <WordMark
            key={w.id}
            word={w}
            left={place(edgeOf(w, "start"))}
            low={rows[index] === 1}
            chosen={w.id === chosen}
            onHear={() => {
              useProject.setState({ word: w.id });
              player?.seek(w.start_us);
            }}
            onPress={(event) => begin(event, w, "start")}
          />
        ))}
        {cue.words.map((w, index) =>
          (cue.words[index + 1]?.start_us ?? Number.POSITIVE_INFINITY) - w.end_us > APART_US ||
          drag?.wordId === w.id ? (
            <Tip key={w.id} text={`Drag: when “${w.text}” is over`}>
              <div
                data-word-end={w.id}
                className="absolute top-[18px] -ml-[4px] h-8 w-[9px] cursor-ew-resize"
                style={{ left: place(edgeOf(w, "end")) }}
                onPointerDown={(event) => begin(event, w, "end")}
              >
                <span className="absolute inset-y-0 left-[4px] border-l border-dotted border-dim" />
                <span className="absolute -bottom-0.5 left-[1px] block size-[7px] rotate-45 border border-dim bg-page" />
              </div>
            </Tip>
          ) : null,
        )}
        <div ref={head} className="pointer-events-none absolute -top-1 h-[60px] w-px bg-clay" />
      </div>
    </>
  );
}

function WordMark(props: {
  word: Word;
  left: string;
  /** Whether its text stands in the lower row, out of the way of the one before. */
  low: boolean;
  chosen: boolean;
  onHear: () => void;
  onPress: (event: React.PointerEvent) => void;
}) {
  const { word, left, low, chosen, onHear, onPress } = props;
  const line = chosen ? "border-chalk" : word.aligned ? "border-ink/40" : "border-dim";
  return (
    <div className="absolute top-0" style={{ left }}>
      <Tip text="Drag: when this word lights up">
        <div
          data-word-start={word.id}
          className="absolute -left-[5px] z-10 w-[11px] cursor-ew-resize"
          style={{ height: low ? 92 : 72 }}
          onPointerDown={onPress}
        >
          <span
            className={`absolute left-[5px] block h-full border-l ${line} ${chosen ? "border-l-2" : ""} ${word.aligned ? "" : "border-dashed"}`}
          />
          <span
            className={`absolute -top-1 left-[1px] block size-[9px] rounded-full ${chosen ? "bg-chalk" : "bg-dim"}`}
          />
        </div>
      </Tip>
      <Tip
        text={
          word.aligned ? "Hear from here" : "Placed by its length: it was not found in the sound"
        }
      >
        <button
          type="button"
          tabIndex={-1}
          className={`absolute left-1 whitespace-nowrap leading-5 ${low ? "top-[74px]" : "top-[53px]"} ${
            word.doubt ? "doubt" : ""
          } ${word.aligned ? "" : "italic text-dim"} ${chosen ? "font-bold text-link" : ""}`}
          onClick={onHear}
        >
          {word.text}
        </button>
      </Tip>
    </div>
  );
}

function Wave({ fromUs, toUs }: { fromUs: number; toUs: number }) {
  const canvas = useRef<HTMLCanvasElement>(null);
  const peaks = usePeaks(fromUs, toUs);
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
