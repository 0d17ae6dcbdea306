/** Faces over the preview, to be chosen; a box drawn by hand; where the face is at a moment. */
import { useQuery } from "@tanstack/react-query";
import { useState } from "react";
import { api, type Piece, type Schemas, take } from "../api/client";
import type { Player } from "../playback/player";
import { usePlayed } from "../playback/usePlayed";
import { edit } from "../state/commands";
import { ofPiece } from "../state/samePiece";
import { useProject, useShape } from "../state/store";
import { attempt } from "../ui/notice";
import { followPointer } from "../ui/pointer";
import { type Changes, useChosen, useFrame } from "./shapes";

type Face = Schemas["FaceView"];

interface Box {
  left: number;
  top: number;
  width: number;
  height: number;
}

export function FaceBoxes({ piece, player }: { piece: Piece; player: Player }) {
  const shape = useShape(piece);
  const { framing, cueIds } = useChosen(piece, shape);
  const { saying, scope } = useFrame();
  const { at, playing } = usePlayed(player);
  const looked = useProject(
    (state) => state.project?.jobs.findLast((job) => job.kind === "faces")?.status,
  );
  const path = { piece_id: piece.id };
  const query = { shape_id: shape.id, at_us: Math.max(0, Math.round(at)) };
  const { data } = useQuery({
    queryKey: ["faces", piece.id, shape.id, shape.digest, query.at_us, looked],
    enabled: !playing && framing.follow !== "off",
    placeholderData: ofPiece(piece.id),
    queryFn: () => take(api.GET("/api/pieces/{piece_id}/faces", { params: { path, query } })),
  });
  const [drawn, setDrawn] = useState<Box | null>(null);
  if (framing.follow === "off" || playing || (scope === "clips" && !cueIds.length)) return null;
  const done = () => useFrame.setState({ saying: null });
  const set = (changes: Changes) =>
    edit({
      kind: "frame_clips",
      piece_id: piece.id,
      shape_id: shape.id,
      cue_ids: cueIds,
      changes,
    });
  const choose = (face: Face) => {
    if (saying?.kind === "seat") {
      void set({ seat: { ...face.point, speaker: saying.speaker } });
    } else void set({ chosen: face.point });
    done();
  };
  const followBox = async (box: Box) => {
    const made = await take(
      api.POST("/api/pieces/{piece_id}/box", {
        params: { path },
        body: { ...box, at_us: query.at_us, shape_id: shape.id },
      }),
    );
    await set({ chosen: made.point });
  };
  const holdAt = async (x: number, y: number) => {
    const params = { path, query: { ...query, x, y } };
    const point = await take(api.GET("/api/pieces/{piece_id}/picture-point", { params }));
    await edit({ kind: "hold_face", piece_id: piece.id, shape_id: shape.id, point });
  };
  const press = (event: React.PointerEvent<HTMLDivElement>) => {
    if (event.button !== 0) return;
    event.preventDefault();
    const sheet = event.currentTarget.getBoundingClientRect();
    const share = (x: number, y: number): [number, number] => [
      (x - sheet.left) / sheet.width,
      (y - sheet.top) / sheet.height,
    ];
    const from = share(event.clientX, event.clientY);
    if (saying?.kind === "place") {
      void attempt(holdAt(...from));
      return done();
    }
    let box: Box | null = null;
    followPointer({
      move: (now) => {
        const to = share(now.clientX, now.clientY);
        box = {
          left: Math.min(from[0], to[0]),
          top: Math.min(from[1], to[1]),
          width: Math.abs(to[0] - from[0]),
          height: Math.abs(to[1] - from[1]),
        };
        setDrawn(box);
      },
      drop: () => {
        setDrawn(null);
        if (!box || box.width < 0.01 || box.height < 0.01) return;
        void attempt(followBox(box));
        done();
      },
      giveUp: () => setDrawn(null),
    });
  };
  const sheet = saying?.kind === "box" || saying?.kind === "place";
  const faces = data ?? [];
  const choosing = faces.length > 1 || saying?.kind === "seat" || faces.some((f) => !f.followed);
  return (
    <>
      {choosing &&
        !sheet &&
        faces.map((face) => (
          <button
            key={`${face.point.x} ${face.point.y}`}
            type="button"
            aria-label={face.followed ? "Face that is followed" : "Follow this face"}
            aria-pressed={face.followed}
            className={`absolute rounded-md border-2 ${
              face.followed ? "border-chalk" : "border-dashed border-white hover:border-chalk"
            } shadow-[0_0_0_1px_rgb(0_0_0/0.35)]`}
            style={inShares(face)}
            onClick={() => choose(face)}
          >
            {face.speaker && (
              <span className="absolute top-full left-0 mt-1 rounded bg-black/70 px-1 text-small text-white">
                {face.speaker}
              </span>
            )}
          </button>
        ))}
      {sheet && (
        <div
          data-face-sheet
          className="absolute inset-0 cursor-crosshair touch-none"
          onPointerDown={press}
        />
      )}
      {drawn && (
        <span
          className="pointer-events-none absolute rounded-sm border-2 border-chalk bg-chalk/10"
          style={inShares(drawn)}
        />
      )}
    </>
  );
}

const inShares = (box: Box) => ({
  left: `${box.left * 100}%`,
  top: `${box.top * 100}%`,
  width: `${box.width * 100}%`,
  height: `${box.height * 100}%`,
});
