/** The Strip while the talk is trimmed: running text, what is cut struck through, quiet to click. */
import { useVirtualizer } from "@tanstack/react-virtual";
import { ArrowDown, ArrowUp, Film, Scissors, Undo2 } from "lucide-react";
import { memo, type PointerEvent as Press, useEffect, useMemo, useRef, useState } from "react";
import { ActionButton } from "../actions/ActionButton";
import type { Piece } from "../api/client";
import { focusPage } from "../focus/page";
import type { Player } from "../playback/player";
import { edit } from "../state/commands";
import { clock, length } from "../ui/format";
import { followPointer } from "../ui/pointer";
import { Tip } from "../ui/Tip";
import { select, toggleQuiet } from "./commands";
import { type Item, itemsOf, type Row, rangeOf, sentenceAt } from "./selection";
import { useTrim } from "./store";
import { type Beyond, useTalk } from "./talk";

export function TrimStrip({ piece, player }: { piece: Piece; player: Player | null }) {
  const { rows, beyond } = useTalk(piece);
  const items = useMemo(() => itemsOf(rows), [rows]);
  const selection = useTrim((state) => state.selection);
  const range = useMemo(() => rangeOf(items, selection), [items, selection]);
  const starts = useMemo(() => {
    let at = 0;
    return rows.map((row) => {
      at += row.items.length;
      return at - row.items.length;
    });
  }, [rows]);
  const edges = useMemo(() => {
    const last = new Map(rows.map((row, at) => [row.strand_id, at]));
    const first = new Map(rows.map((row, at) => [row.strand_id, at] as const).reverse());
    return { first, last };
  }, [rows]);
  const [live, setLive] = useState<string | null>(null);
  const scroller = useRef<HTMLDivElement>(null);
  const virtual = useVirtualizer({
    count: rows.length,
    getScrollElement: () => scroller.current,
    estimateSize: () => 40,
    overscan: 8,
    paddingStart: 10,
    paddingEnd: 120,
  });
  const shown = virtual.getVirtualItems();

  // The word being spoken is marked where it stands; while it plays it stays in view.
  useEffect(() => {
    if (!player) return;
    const kept = items.filter((item) => item.at_us !== null && item.id);
    let row = -1;
    return player.listen((at) => {
      const item = kept.findLast((one) => (one.at_us as number) <= at + 1_000);
      if (item && item.row !== row && player.playing) {
        row = item.row;
        virtual.scrollToIndex(row, { align: "auto" });
      }
      setLive(item?.key ?? null);
    });
  }, [player, items, virtual]);

  const struck = piece.whole_us - piece.duration_us;
  return (
    <section aria-label="Strip" className="flex h-full min-h-0 flex-col bg-birch">
      <header className="flex h-9 shrink-0 items-center gap-3 border-b border-line px-3">
        <h2 className="font-bold">Strip</h2>
        <span className="text-dim">
          {struck > 50_000
            ? `${length(piece.duration_us)} kept · ${length(struck)} struck`
            : `${length(piece.duration_us)}, nothing struck`}
        </span>
        <span className="ml-auto flex items-center">
          {["strike", "cut-passage", "copy-passage", "put-passage", "make-piece"].map((id) => (
            <ActionButton
              key={id}
              id={id}
              player={player}
              disabled={!selection && id !== "put-passage"}
              tabIndex={-1}
            />
          ))}
        </span>
      </header>
      {/* biome-ignore lint/a11y/useSemanticElements: the page is what keys act on, not a form's set of fields */}
      <div
        ref={scroller}
        id="page"
        data-stop="page"
        role="group"
        aria-label="The talk"
        // biome-ignore lint/a11y/noNoninteractiveTabindex: one stop of Tab for the whole talk
        tabIndex={0}
        className="page relative min-h-0 flex-1 overflow-y-auto outline-none"
        onPointerDown={(press) => begin(press, items, player)}
      >
        {rows.length === 0 && (
          <p className="p-6 text-dim">The talk is read here as soon as words have been heard.</p>
        )}
        <div style={{ height: virtual.getTotalSize() }} className="relative">
          {shown.map((one) => {
            const row = rows[one.index];
            const first = starts[one.index] ?? 0;
            return (
              row && (
                <div
                  key={one.key}
                  ref={virtual.measureElement}
                  data-index={one.index}
                  className="absolute top-0 left-0 w-full"
                  style={{ transform: `translateY(${one.start}px)` }}
                >
                  {edges.first.get(row.strand_id) === one.index && (
                    <BringIn beyond={beyond} strand={row.strand_id} side="before" piece={piece} />
                  )}
                  <TalkRow
                    row={row}
                    items={items.slice(first, first + row.items.length)}
                    from={range ? range[0] - first : -1}
                    to={range ? range[1] - first : -1}
                    live={liveIn(items, first, row.items.length, live)}
                  />
                  {edges.last.get(row.strand_id) === one.index && (
                    <BringIn beyond={beyond} strand={row.strand_id} side="behind" piece={piece} />
                  )}
                </div>
              )
            );
          })}
        </div>
      </div>
    </section>
  );
}

/** The way to the sentence that the recording goes on with, where only a part of it was put in. */
function BringIn(props: {
  beyond: readonly Beyond[];
  strand: number;
  side: Beyond["side"];
  piece: Piece;
}) {
  const { beyond, strand, side, piece } = props;
  const one = beyond.find((each) => each.strand_id === strand && each.side === side);
  if (!one) return null;
  const Arrow = side === "before" ? ArrowUp : ArrowDown;
  return (
    <div className="grid grid-cols-[64px_1fr] pr-4 pb-1.5">
      <span />
      <Tip text={`Bring in what the recording says ${side === "before" ? "before" : "next"}`}>
        <button
          type="button"
          tabIndex={-1}
          className="flex min-w-0 items-center gap-1.5 border-l-2 border-line border-dashed pl-3 text-left text-dim hover:text-link"
          onClick={() =>
            void edit({ kind: "bring_in", piece_id: piece.id, strand_id: strand, side })
          }
        >
          <Arrow size={14} aria-hidden className="shrink-0" />
          <span className="truncate italic">{one.text}</span>
        </button>
      </Tip>
    </div>
  );
}

interface RowProps {
  row: Row;
  items: Item[];
  /** Which items of the row are selected. */
  from: number;
  to: number;
  /** The word of the row that is being spoken. */
  live: string | null;
}

const TalkRow = memo(
  function TalkRow({ row, items, from, to, live }: RowProps) {
    const first = items.find((item) => item.at_us !== null && item.id) ?? items[0];
    return (
      <div className="grid grid-cols-[64px_1fr] pr-4 pb-1.5">
        <span className="tabular px-2 pt-0.5 text-right text-dim">
          {first?.at_us === null || !first ? "" : clock(first.at_us)}
        </span>
        <p className="select-none border-l-2 border-line pl-3 text-[15px] leading-6" dir="auto">
          {row.speaker && <span className="mr-2 text-small text-dim">{row.speaker}</span>}
          {items.map((item, at) => (
            <TalkPart
              key={item.key}
              item={item}
              picked={at >= from && at <= to}
              live={item.key === live}
              film={row.film}
            />
          ))}
        </p>
      </div>
    );
  },
  (old, now) =>
    old.row === now.row &&
    old.live === now.live &&
    inside(old.from, old.to, now.items.length) === inside(now.from, now.to, now.items.length),
);

/** What of a row a selection touches, as one value to compare. */
const inside = (from: number, to: number, count: number): string =>
  to < 0 || from >= count ? "" : `${Math.max(0, from)}-${Math.min(count - 1, to)}`;

/** The word being spoken, where it is among some items. */
const liveIn = (items: readonly Item[], first: number, count: number, live: string | null) =>
  items.slice(first, first + count).some((item) => item.key === live) ? live : null;

function TalkPart(props: { item: Item; film: string | null; picked: boolean; live: boolean }) {
  const { item, film, picked, live } = props;
  const struck = item.at_us === null;
  if (item.id) {
    return (
      <>
        <span
          data-talk={item.key}
          className={`cursor-text rounded-xs px-px ${struck ? "struck" : ""} ${picked ? "picked" : ""} ${
            live ? "live-word" : ""
          }`}
        >
          {item.text}
        </span>{" "}
      </>
    );
  }
  const seconds = (item.end_us - item.start_us) / 1e6;
  if (film !== null) {
    return (
      <span data-talk={item.key} className={`text-dim ${struck ? "struck" : ""}`}>
        <Film size={13} className="mr-1 inline align-[-2px]" aria-hidden />
        {film} <span className="tabular text-small">{seconds.toFixed(1)} s</span>
      </span>
    );
  }
  const left = item.kept_us / 1e6;
  const cut = item.struck;
  const what = item.sounds ? "this pause with its sound" : "the quiet";
  return (
    <>
      <Tip text={cut ? `Bring ${what} back` : `Take ${what} out`}>
        <button
          type="button"
          tabIndex={-1}
          data-talk={item.key}
          className={`tabular inline-flex items-center gap-1 rounded border px-1 text-small leading-4 ${
            picked ? "picked" : ""
          } ${cut ? "border-clay/40 text-clay" : "border-line text-dim hover:border-dim hover:text-ink"}`}
          onClick={() => void toggleQuiet(item)}
        >
          {cut ? <Undo2 size={11} /> : <Scissors size={11} />}
          <span className={cut ? "line-through" : ""}>
            {seconds.toFixed(1)} s {item.sounds ? "sound" : "quiet"}
          </span>
          {cut && left > 0.05 && <span> {left.toFixed(1)} s</span>}
        </button>
      </Tip>{" "}
    </>
  );
}

const keyAt = (target: EventTarget | null): string | undefined =>
  target instanceof Element ? target.closest<HTMLElement>("[data-talk]")?.dataset.talk : undefined;

/** Select by the mouse: a press goes to the word, a drag selects, Shift extends, three take a sentence. */
function begin(press: Press, items: readonly Item[], player: Player | null): void {
  if (press.button !== 0 || (press.target as Element).closest("button")) return;
  const key = keyAt(press.target);
  if (!key) {
    select(null);
    return;
  }
  press.preventDefault();
  focusPage();
  const before = useTrim.getState().selection;
  const anchor = press.shiftKey && before ? before.anchor : key;
  if (press.detail >= 3) {
    select(sentenceAt(items, key));
    return;
  }
  select({ anchor, focus: key });
  const item = items.find((one) => one.key === key);
  if (!press.shiftKey && item && item.at_us !== null) player?.seek(item.at_us);
  followPointer({
    move: (event) => {
      const over = keyAt(document.elementFromPoint(event.clientX, event.clientY));
      if (over && useTrim.getState().selection?.focus !== over) select({ anchor, focus: over });
    },
    drop: () => undefined,
    giveUp: () => select(before),
  });
}
