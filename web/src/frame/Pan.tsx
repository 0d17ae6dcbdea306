/** A sheet over the preview: the picture is dragged across the frame, the wheel shows it nearer. */
import { useEffect, useRef } from "react";
import type { Piece } from "../api/client";
import type { Player } from "../playback/player";
import { edit } from "../state/commands";
import { useShape } from "../state/store";
import { followPointer } from "../ui/pointer";
import { useChosen, useFrame } from "./shapes";

const REST_MS = 180;
/** The picture that was moved comes within this time; then the still is let go in any case. */
const LATE_MS = 2_500;
const STEP = 0.01;

export function Pan(props: {
  piece: Piece;
  player: Player;
  video: React.RefObject<HTMLVideoElement | null>;
  box: { width: number; height: number };
}) {
  const { piece, player, video, box } = props;
  const shape = useShape(piece);
  const chosen = useChosen(piece, shape);
  const scope = useFrame((state) => state.scope);
  const zooming = useRef<{ zoom: number; timer: number } | null>(null);
  const digest = useRef(shape.digest);
  const release = useRef<(() => void) | null>(null);

  const show = (transform: string) => {
    if (video.current) video.current.style.transform = transform;
  };
  // The still stays moved until a frame of what was asked for is there.
  const hold = () => {
    release.current?.();
    const before = digest.current;
    const end = () => {
      window.clearTimeout(timer);
      unlisten();
      release.current = null;
      show("");
    };
    const timer = window.setTimeout(end, LATE_MS);
    let told = 0;
    const unlisten = player.listen(() => {
      if (told++ && digest.current !== before) end();
    });
    release.current = end;
  };
  useEffect(() => {
    digest.current = shape.digest;
  }, [shape.digest]);
  useEffect(() => () => release.current?.(), []);

  const ids = { piece_id: piece.id, shape_id: shape.id, cue_ids: chosen.cueIds };
  const idle = scope === "clips" && !chosen.cueIds.length;
  const pan = async (byX: number, byY: number) => {
    if (idle || (!byX && !byY)) return show("");
    hold();
    const done = await edit({ kind: "pan_clips", ...ids, by_x: byX, by_y: byY });
    if (!done) release.current?.();
  };
  const take = (event: React.PointerEvent) => {
    if (event.button !== 0 || idle) return;
    event.preventDefault();
    event.currentTarget.closest<HTMLElement>("[data-pan]")?.focus();
    const [x, y] = [event.clientX, event.clientY];
    release.current?.();
    let moved = false;
    followPointer({
      move: (at) => {
        moved ||= Math.hypot(at.clientX - x, at.clientY - y) > 3;
        if (moved) show(`translate(${at.clientX - x}px, ${at.clientY - y}px)`);
      },
      drop: (at) => {
        if (!moved) return player.toggle();
        void pan((at.clientX - x) / box.width, (at.clientY - y) / box.height);
      },
      giveUp: () => show(""),
    });
  };
  const wheel = (event: React.WheelEvent) => {
    if (idle) return;
    const from = zooming.current?.zoom ?? chosen.framing.zoom;
    const zoom = Math.min(8, Math.max(0.2, from * Math.exp(-event.deltaY / 1_000)));
    window.clearTimeout(zooming.current?.timer);
    show(`scale(${zoom / chosen.framing.zoom})`);
    const timer = window.setTimeout(() => {
      zooming.current = null;
      hold();
      void edit({ kind: "frame_clips", ...ids, changes: { zoom: Number(zoom.toFixed(3)) } });
    }, REST_MS);
    zooming.current = { zoom, timer };
  };
  const onKey = (event: React.KeyboardEvent) => {
    const far = event.shiftKey ? 5 : 1;
    const way = {
      ArrowLeft: [-STEP, 0],
      ArrowRight: [STEP, 0],
      ArrowUp: [0, -STEP],
      ArrowDown: [0, STEP],
    }[event.key];
    if (!way) return;
    event.preventDefault();
    event.stopPropagation();
    void pan((way[0] ?? 0) * far, (way[1] ?? 0) * far);
  };
  return (
    // biome-ignore lint/a11y/useSemanticElements: a sheet that is dragged and moved by keys
    <div
      data-pan
      role="group"
      // biome-ignore lint/a11y/noNoninteractiveTabindex: it is moved by keys
      tabIndex={0}
      aria-label="Picture in the frame: drag or arrows move it, the wheel shows it nearer"
      className={`absolute inset-0 outline-none focus-visible:shadow-[inset_0_0_0_2px_var(--chalk)] ${idle ? "" : "cursor-move"}`}
      onPointerDown={take}
      onWheel={wheel}
      onKeyDown={onKey}
    />
  );
}
