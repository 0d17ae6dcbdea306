import { useQuery } from "@tanstack/react-query";
import { useEffect, useRef } from "react";
import { api, type FinishView, type Piece, takeAs } from "../api/client";
import { fetchScene } from "../api/scene";
import { Painter } from "../playback/painter";
import type { Player } from "../playback/player";
import { edit, useProject } from "../state/project";
import { Choice } from "../ui/Choice";
import { TraySection } from "../ui/TraySection";
import { AccentsSection } from "./AccentsSection";

export function DressTray({ piece, player }: { piece: Piece; player: Player | null }) {
  const finishes = useQuery({
    queryKey: ["finishes"],
    queryFn: () => takeAs<FinishView[]>(api.GET("/api/finishes")),
    staleTime: Number.POSITIVE_INFINITY,
  });
  const { finish } = piece;
  return (
    <>
      <AccentsSection finish={finish} player={player} />
      <TraySection title="Finish" about="The look of the whole piece, shown on your own words.">
        {finishes.data?.map(({ finish }) => (
          <Choice
            key={finish.name}
            name="finish"
            chosen={piece.finish.name === finish.name}
            title={finish.name}
            about={finish.about}
            onChoose={() =>
              void edit({ kind: "set_finish", piece_id: piece.id, finish: finish.name })
            }
          >
            <Sample piece={piece} finish={finish.name} />
          </Choice>
        ))}
      </TraySection>
    </>
  );
}

const SAMPLE_US = 3_600_000;

/** The finish moving on the captions around the selected one. */
function Sample({ piece, finish }: { piece: Piece; finish: string }) {
  const from = useProject((state) => {
    const at = state.cues.find((cue) => cue.id === state.selected) ?? state.cues[0];
    return at?.start_us ?? 0;
  });
  const version = useProject((state) => state.sceneVersion);
  const canvas = useRef<HTMLCanvasElement>(null);
  const scene = useQuery({
    queryKey: ["sample", piece.id, finish, from, version],
    placeholderData: (before) => before,
    queryFn: () => fetchScene(piece.id, from, from + SAMPLE_US, finish),
  });
  useEffect(() => {
    const context = canvas.current?.getContext("2d");
    if (!scene.data || !context) return;
    const painter = new Painter(scene.data);
    const buffer = new OffscreenCanvas(scene.data.width, scene.data.height);
    const zoom = 0.5;
    buffer.width = Math.round(scene.data.width * zoom);
    buffer.height = Math.round(scene.data.height * zoom);
    const aside = buffer.getContext("2d");
    const start = performance.now();
    let handle = 0;
    const still = window.matchMedia("(prefers-reduced-motion: reduce)").matches;
    const draw = (now: number) => {
      if (!aside) return;
      const at = from + (still ? SAMPLE_US / 4 : ((now - start) * 1_000) % SAMPLE_US);
      painter.paint(aside, at, zoom);
      const { width, height } = context.canvas;
      context.clearRect(0, 0, width, height);
      const tall = (buffer.width * height) / width;
      context.drawImage(
        buffer,
        0,
        buffer.height * 0.71 - tall / 2,
        buffer.width,
        tall,
        0,
        0,
        width,
        height,
      );
      if (!still) handle = requestAnimationFrame(draw);
    };
    handle = requestAnimationFrame(draw);
    return () => cancelAnimationFrame(handle);
  }, [scene.data, from]);
  return (
    <canvas
      ref={canvas}
      aria-hidden
      width={620}
      height={190}
      className="mb-2.5 block w-full rounded bg-easel"
    />
  );
}
