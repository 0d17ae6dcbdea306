/** The Strip: time runs down the page, captions stand where they are spoken. */
import { useVirtualizer } from "@tanstack/react-virtual";
import { ArrowDownToLine } from "lucide-react";
import { type MouseEvent, useCallback, useEffect, useMemo, useRef, useState } from "react";
import { flushSync } from "react-dom";
import type { Piece } from "../api/client";
import { byMouse } from "../focus/page";
import type { Player } from "../playback/player";
import { useStage } from "../stages/stage";
import { cueAt } from "../state/document";
import { jobOf } from "../state/jobs";
import { select } from "../state/session";
import { useProject } from "../state/store";
import { useVisibleCues, visibleCues } from "../state/visible";
import { seekWhole } from "../state/whole";
import { length } from "../ui/format";
import { CueBar } from "./CueBar";
import { DraftNotes } from "./DraftNotes";
import { OnlySpeaker } from "./OnlySpeaker";
import { adoptSelection, clearPassage, listenToClipboard, usePassage } from "./passage";
import { buildRows, END, topOf } from "./rows";
import { StripRow } from "./StripRow";

export function Strip({ piece, player }: { piece: Piece; player: Player | null }) {
  const cues = useVisibleCues();
  const selected = useProject((state) => state.selected);
  const picked = useProject((state) => state.picked);
  const hearing = useProject((state) =>
    state.project ? jobOf(state.project, "transcribe") : undefined,
  );
  const scroller = useRef<HTMLDivElement>(null);
  const head = useRef<HTMLDivElement>(null);
  const [following, setFollowing] = useState(true);
  const only = useProject((state) => state.onlySpeaker);
  const rows = useMemo(() => buildRows(cues, piece.duration_us), [cues, piece.duration_us]);
  const virtual = useVirtualizer({
    count: rows.length,
    getScrollElement: () => scroller.current,
    estimateSize: (index) => rows[index]?.height ?? 0,
    getItemKey: (index) => rows[index]?.key ?? index,
    overscan: 6,
    paddingStart: 12,
    paddingEnd: 120,
  });
  // biome-ignore lint/correctness/useExhaustiveDependencies: new rows mean new heights
  useEffect(() => virtual.measure(), [rows, virtual]);

  useEffect(() => {
    if (!player) return;
    let word: string | null = null;
    return player.listen((at) => {
      const top = topOf(rows, at) + 12;
      const line = head.current;
      if (line) {
        line.style.transform = `translateY(${top}px)`;
      }
      word = markLive(word, String(liveWord(cues, at) ?? ""));
      if (player.playing && following) keepInView(scroller.current, top);
    });
  }, [player, rows, cues, following]);

  useEffect(() => {
    const row = rows.find((r) => r.cue?.id === selected);
    const box = scroller.current;
    if (!row || !box || player?.playing) return;
    // Nothing moves under the pointer: what the mouse chose stays, as long as some of it shows.
    const [low, high] = [box.scrollTop, box.scrollTop + box.clientHeight - 20];
    const end = row.top + row.height;
    if (byMouse() ? end < low || row.top > high : row.top < low || end > high) {
      box.scrollTo({ top: Math.max(0, row.top - box.clientHeight / 3) });
    }
  }, [selected, rows, player]);

  useEffect(listenToClipboard, []);

  const listening = hearing?.status === "running" || hearing?.status === "queued";
  const seek = useSeek(player);
  return (
    <section aria-label="Strip" className="flex h-full min-h-0 flex-col bg-birch">
      <header className="flex h-9 shrink-0 items-center gap-3 border-b border-line px-3">
        <h2 className="font-bold">Strip</h2>
        <span className="text-dim">
          {cues.length} captions · {length(piece.duration_us)}
        </span>
        <OnlySpeaker />
        {!following && (
          <button
            type="button"
            className="ml-auto inline-flex items-center gap-1.5 text-link hover:underline"
            onClick={() => setFollowing(true)}
          >
            <ArrowDownToLine size={14} /> Follow the playhead
          </button>
        )}
      </header>
      {/* biome-ignore lint/a11y/useSemanticElements: the page is what keys act on, not a form's set of fields */}
      <div
        ref={scroller}
        id="page"
        data-stop="page"
        role="group"
        aria-label="Captions"
        // biome-ignore lint/a11y/noNoninteractiveTabindex: one stop of Tab for all captions
        tabIndex={0}
        className="page relative min-h-0 flex-1 overflow-y-auto outline-none"
        onMouseDownCapture={beginSelecting}
        onWheel={() => player?.playing && setFollowing(false)}
      >
        {rows.length === 0 && <Waiting status={hearing?.status} />}
        <div style={{ height: virtual.getTotalSize() }} className="relative">
          {virtual.getVirtualItems().map((item) => {
            const row = rows[item.index];
            return (
              row && (
                <StripRow
                  key={row.key}
                  row={{ ...row, top: item.start }}
                  selected={row.cue !== null && row.cue.id === selected}
                  picked={row.cue !== null && picked.has(row.cue.id)}
                  unheard={row.key === END && listening}
                  others={only !== null}
                  onSeek={seek}
                />
              )
            );
          })}
          {rows.length > 0 && (
            <div
              ref={head}
              className="pointer-events-none absolute top-0 left-0 z-10 h-0 w-[156px]"
            >
              <span className="absolute top-[-4px] left-[72px] block size-[9px] rounded-full bg-chalk" />
              <span className="absolute left-[72px] block h-px w-[86px] bg-chalk" />
            </div>
          )}
        </div>
      </div>
      <DraftNotes />
      <CueBar player={player} />
    </section>
  );
}

/** Going to a place of a caption: in Dress to a moment when all of it stands. */
function useSeek(player: Player | null) {
  return useCallback(
    (at: number) => {
      if (useStage.getState().stage !== "Dress") return player?.seek(at);
      const cue = visibleCues().find((one) => at >= one.start_us && at < one.end_us);
      const { cues } = useProject.getState();
      const word = cue?.words.find((one) => one.start_us === at);
      if (cue && word) useProject.setState({ word: word.id, selected: cue.id });
      const here = cue ?? cueAt(cues, at);
      if (here) void seekWhole(player, here.id, at);
      else player?.seek(at);
    },
    [player],
  );
}

/** While the mouse is down captions are plain text, so that a selection can go over several. */
function beginSelecting(event: MouseEvent): void {
  if (event.button !== 0 || event.ctrlKey || event.metaKey) return;
  if (!(event.target as Element).closest("[data-cue-text]")) return;
  if (!event.shiftKey) clearPassage();
  flushSync(() => usePassage.setState({ selecting: true }));
  const end = () => {
    const over = adoptSelection();
    flushSync(() => usePassage.setState({ selecting: false }));
    if (over) return;
    const selection = window.getSelection();
    const node = selection?.anchorNode;
    const element = node instanceof Element ? node : node?.parentElement;
    const box = element?.closest<HTMLElement>("[data-cue-text]");
    if (!selection || !node || !box) return;
    const { anchorOffset, focusNode, focusOffset } = selection;
    box.focus({ preventScroll: true });
    select(Number(box.dataset.cueText));
    if (focusNode) selection.setBaseAndExtent(node, anchorOffset, focusNode, focusOffset);
  };
  window.addEventListener("mouseup", end, { once: true });
}

function Waiting({ status }: { status: string | undefined }) {
  const text =
    status === "queued" || status === "running"
      ? "Listening … the first captions appear here in a few seconds."
      : status === "done"
        ? "No speech was found in this recording. Bring in another one from the start page."
        : "Nothing was transcribed. The Gather stage says why and lets you try again.";
  return <p className="p-6 text-dim">{text}</p>;
}

function liveWord(cues: Parameters<typeof cueAt>[0], at: number): number | undefined {
  const cue = cueAt(cues, at);
  return cue?.words.findLast((word) => word.start_us <= at)?.id;
}

/** Mark the word being spoken without rendering anything anew. */
function markLive(before: string | null, now: string): string {
  const here = now ? document.querySelector(`[data-word="${now}"]`) : null;
  if (before && before !== now) {
    document.querySelector(`[data-word="${before}"]`)?.classList.remove("live-word");
  }
  here?.classList.add("live-word");
  return now;
}

function keepInView(box: HTMLElement | null, top: number): void {
  if (!box) return;
  const low = box.scrollTop + box.clientHeight * 0.15;
  const high = box.scrollTop + box.clientHeight * 0.7;
  if (top < low || top > high) {
    box.scrollTo({ top: Math.max(0, top - box.clientHeight * 0.3), behavior: "smooth" });
  }
}
