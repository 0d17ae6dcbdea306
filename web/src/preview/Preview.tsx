/** The preview: the recording with the painted scene over it, and the controls of playback. */
import { useCallback, useEffect, useRef, useState } from "react";
import type { Piece, Source } from "../api/client";
import { FaceBoxes } from "../frame/FaceBoxes";
import { GuideOverlay } from "../frame/GuideOverlay";
import { LayerHandles } from "../frame/LayerHandles";
import { Pan } from "../frame/Pan";
import { backdropOf } from "../frame/shapes";
import { openPlayer } from "../playback/open";
import type { Player } from "../playback/player";
import { SceneWindows } from "../playback/sceneWindows";
import type { Stream } from "../playback/stream";
import { useStage } from "../stages/stage";
import { useProject, useShape } from "../state/store";
import { usePixelRatio } from "../ui/pixelRatio";
import { Controls } from "./Controls";
import { Dropper } from "./Dropper";
import { Handles } from "./Handles";

interface Props {
  piece: Piece;
  source: Source;
  player: Player | null;
  onPlayer: (player: Player | null) => void;
}

export function Preview({ piece, source, player, onPlayer }: Props) {
  const video = useRef<HTMLVideoElement>(null);
  const canvas = useRef<HTMLCanvasElement>(null);
  const place = useRef<HTMLDivElement>(null);
  const screen = useRef<HTMLElement>(null);
  const shape = useShape(piece);
  const box = useFit(place, shape.width / shape.height);
  const sharp = usePixelRatio();
  const windows = useRef<SceneWindows | null>(null);
  const stream = useRef<Stream | null>(null);
  const left = useRef({ piece: 0, at: 0 });
  const stage = useStage((state) => state.stage);
  const frameTab = useStage((state) => state.frameTab);
  const paintNow = useCallback((at: number) => {
    const context = canvas.current?.getContext("2d");
    const painter = windows.current?.at(at);
    if (!context) return;
    if (painter) painter.paint(context, at, context.canvas.width / painter.scene.width);
    // Nothing is known of this moment yet: what stood at another one does not belong here.
    else context.clearRect(0, 0, context.canvas.width, context.canvas.height);
  }, []);

  const cut = !shape.as_recorded;
  useEffect(() => {
    const media = video.current;
    if (!media || !(cut || source.playable)) return;
    // A piece that is cut for the first time goes on where it was.
    const from = left.current.piece === piece.id ? left.current.at : 0;
    const made = openPlayer(
      media,
      { id: piece.id },
      { id: shape.id, as_recorded: !cut },
      { id: source.id, kind: source.kind },
      from,
    );
    stream.current = made.stream;
    onPlayer(made.player);
    return () => {
      left.current = { piece: piece.id, at: made.player.at };
      made.close();
      stream.current = null;
      onPlayer(null);
    };
  }, [source.id, source.kind, source.playable, piece.id, shape.id, cut, onPlayer]);

  // Of a cut piece other clips are other frames.
  const heard = useProject((state) => state.project?.sources.map((one) => one.sound).join());
  const clips = cut ? `${piece.digest} ${shape.digest} ${heard}` : null;
  // biome-ignore lint/correctness/useExhaustiveDependencies: clips are what is asked for
  useEffect(() => {
    if (!player) return;
    player.setDuration(piece.duration_us);
    const fetched = new AbortController();
    const frames = cut ? `/api/pieces/${piece.id}/frames` : `/api/sources/${source.id}/frames`;
    fetch(frames, { signal: fetched.signal })
      .then((answer) => answer.arrayBuffer())
      .then((data) => player.setFrames(new Float64Array(data)))
      .catch(() => undefined);
    void stream.current?.refresh();
    return () => fetched.abort();
  }, [player, piece.id, piece.duration_us, source.id, cut, clips]);

  useEffect(() => {
    if (!player) return;
    windows.current = new SceneWindows(piece.id, shape.id, () => paintNow(player.at));
    // The scene is asked for before the page draws itself anew.
    const unwatch = useProject.subscribe((now, before) => {
      if (now.sceneVersion !== before.sceneVersion) windows.current?.changed(player.at);
    });
    const unlisten = player.listen(paintNow);
    return () => {
      unwatch();
      unlisten();
    };
  }, [player, piece.id, shape.id, paintNow]);

  // biome-ignore lint/correctness/useExhaustiveDependencies: a new size is what to paint for
  useEffect(() => {
    if (player) paintNow(player.at);
  }, [player, box.width, sharp]);

  return (
    <section
      ref={screen}
      aria-label="Preview"
      className="@container flex min-h-0 flex-1 flex-col bg-easel"
    >
      <div ref={place} className="relative m-3 mb-0 min-h-0 flex-1">
        <div
          className="absolute top-1/2 left-1/2 -translate-x-1/2 -translate-y-1/2 overflow-hidden"
          style={{ width: box.width, height: box.height, background: backdropOf(shape) }}
        >
          {/* biome-ignore lint/a11y/useMediaCaption: the captions are painted over it */}
          <video
            ref={video}
            className="absolute inset-0 h-full w-full object-fill"
            preload="auto"
            playsInline
            onClick={() => player?.toggle()}
          />
          <canvas
            ref={canvas}
            data-testid="scene"
            className="pointer-events-none absolute inset-0 h-full w-full"
            width={Math.max(1, Math.round(box.width * sharp))}
            height={Math.max(1, Math.round(box.height * sharp))}
          />
          {stage === "Dress" && player && box.width > 0 && (
            <Handles
              piece={piece}
              player={player}
              zoom={box.width / shape.width}
              painter={() => windows.current?.at(player.at)}
              repaint={() => paintNow(player.at)}
            />
          )}
          {(stage === "Frame" || stage === "Dress") && <GuideOverlay shape={shape} />}
          {stage === "Frame" && frameTab === "Layers" && player && box.width > 0 && (
            <LayerHandles
              piece={piece}
              player={player}
              zoom={box.width / shape.width}
              painter={() => windows.current?.at(player.at)}
              repaint={() => paintNow(player.at)}
            />
          )}
          {stage === "Frame" && frameTab !== "Layers" && player && (
            <Pan piece={piece} player={player} video={video} box={box} />
          )}
          {stage === "Frame" && frameTab === "Picture" && player && (
            <FaceBoxes piece={piece} player={player} />
          )}
          <Dropper video={video} />
          {!source.playable && !cut && (
            <p className="absolute inset-0 grid place-items-center p-6 text-center text-white">
              A copy that the browser can play is being made. Captions can be read and corrected
              meanwhile.
            </p>
          )}
        </div>
      </div>
      <Controls player={player} piece={piece} screen={screen} />
    </section>
  );
}

/** The largest box of a shape (width over height) inside an element. */
function useFit(frame: React.RefObject<HTMLDivElement | null>, shape: number) {
  const [size, setSize] = useState({ width: 0, height: 0 });
  useEffect(() => {
    const element = frame.current;
    if (!element) return;
    const observer = new ResizeObserver(() => {
      const { clientWidth, clientHeight } = element;
      const width = Math.floor(Math.min(clientWidth, clientHeight * shape));
      setSize({ width, height: Math.round(width / shape) });
    });
    observer.observe(element);
    return () => observer.disconnect();
  }, [frame, shape]);
  return size;
}
