/** A finish moving on the user's own frame and words. Draws only while it is in sight. */
import { useQuery } from "@tanstack/react-query";
import { useEffect, useRef } from "react";
import type { Finish, Piece, Scene } from "../api/client";
import { fetchScene } from "../api/scene";
import { Painter } from "../playback/painter";
import type { Player } from "../playback/player";
import { useProject, useShape } from "../state/store";

const SAMPLE_US = 3_200_000;
const WIDTH = 280;
const HEIGHT = 184;
/** How much of the frame's width a sample shows: what is left out is its margin. */
const SHOWN = 0.92;
/** A sample is painted on every second frame of the screen: many move at once. */
const EVERY = 2;

export function Sample(props: { piece: Piece; player: Player | null; finish: Finish }) {
  const { piece, player, finish } = props;
  const shape = useShape(piece);
  const from = useProject((state) => {
    const at = state.cues.find((cue) => cue.id === state.selected) ?? state.cues[0];
    return at?.start_us ?? 0;
  });
  const canvas = useRef<HTMLCanvasElement>(null);
  const scene = useQuery({
    queryKey: ["sample", piece.id, shape.id, shape.width, shape.height, finish, from],
    placeholderData: (before) => before,
    queryFn: () => fetchScene(piece.id, from, from + SAMPLE_US, shape.id, finish.name),
  });
  useEffect(() => {
    const element = canvas.current;
    const context = element?.getContext("2d");
    if (!scene.data || !element || !context) return;
    const painter = new Painter(scene.data);
    const zoom = WIDTH / SHOWN / scene.data.width;
    const aside = new OffscreenCanvas(
      Math.round(scene.data.width * zoom),
      Math.round(scene.data.height * zoom),
    );
    const left = (aside.width - WIDTH) / 2;
    const moments = shownTimes(scene.data);
    const words = aside.getContext("2d");
    const top = topOf(scene.data, zoom, aside.height);
    const still = window.matchMedia("(prefers-reduced-motion: reduce)").matches;
    const start = performance.now();
    let handle = 0;
    let count = 0;
    let seen = false;
    const draw = (now: number) => {
      if (!words) return;
      handle = still || !seen ? 0 : requestAnimationFrame(draw);
      count += 1;
      if (count % EVERY && !still) return;
      const at = moments(still ? SAMPLE_US / 4 : (now - start) * 1_000) ?? from;
      painter.paint(words, at, zoom);
      backdrop(context, player, [left, top, aside.width, aside.height]);
      context.drawImage(aside, left, top, WIDTH, HEIGHT, 0, 0, WIDTH, HEIGHT);
    };
    const watch = new IntersectionObserver(([entry]) => {
      seen = entry?.isIntersecting ?? false;
      if (seen && !handle) handle = requestAnimationFrame(draw);
    });
    watch.observe(element);
    return () => {
      watch.disconnect();
      cancelAnimationFrame(handle);
    };
  }, [scene.data, from, player]);
  return (
    <canvas
      ref={canvas}
      aria-hidden
      width={WIDTH}
      height={HEIGHT}
      className="block w-full bg-easel"
    />
  );
}

/** Time that runs through the captions one after another, without the quiet between, for ever. */
function shownTimes(scene: Scene): (us: number) => number | undefined {
  const whole = scene.cues.reduce((sum, cue) => sum + cue.end_us - cue.start_us, 0);
  return (us) => {
    let rest = whole ? us % whole : 0;
    for (const cue of scene.cues) {
      const length = cue.end_us - cue.start_us;
      if (rest < length) return cue.start_us + rest;
      rest -= length;
    }
    return undefined;
  };
}

/** Where the part of the frame begins that has the captions in its middle. */
function topOf(scene: Scene, zoom: number, height: number): number {
  const ys = scene.cues.flatMap((cue) => cue.paths.map((path) => path.y * zoom));
  if (!ys.length) return Math.max(0, (height - HEIGHT) / 2);
  const middle = (Math.min(...ys) + Math.max(...ys)) / 2 - 12;
  return Math.max(0, Math.min(middle - HEIGHT / 2, height - HEIGHT));
}

/** The frame that the preview shows, behind the words. */
function backdrop(
  context: CanvasRenderingContext2D,
  player: Player | null,
  [left, top, width, height]: [number, number, number, number],
): void {
  const media = player?.media;
  if (media instanceof HTMLVideoElement && media.readyState >= 2 && media.videoWidth) {
    context.drawImage(media, -left, -top, width, height);
  } else {
    context.fillStyle = "#2e3c40";
    context.fillRect(0, 0, WIDTH, HEIGHT);
  }
}
