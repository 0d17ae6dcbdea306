/** All shapes of the piece beside one another, playing together. */
import { Pause, Play, X } from "lucide-react";
import { Dialog } from "radix-ui";
import { useCallback, useEffect, useRef, useState } from "react";
import type { Piece, Shape, Source } from "../api/client";
import { openPlayer } from "../playback/open";
import type { Player } from "../playback/player";
import { SceneWindows } from "../playback/sceneWindows";
import { useProject } from "../state/store";
import { clock } from "../ui/format";
import { IconButton } from "../ui/IconButton";
import { usePixelRatio } from "../ui/pixelRatio";
import { Slider } from "../ui/Slider";
import { backdropOf, shapeName } from "./shapes";

const HEIGHT = 460;
/** One that has come apart from the first by more than this goes where it is. */
const APART_US = 90_000;
const LOOK_MS = 400;

export function SideBySide(props: { piece: Piece; player: Player | null; onClose: () => void }) {
  const { piece, player, onClose } = props;
  const players = useRef(new Map<number, Player>());
  const [playing, setPlaying] = useState(false);
  const [at, setAt] = useState(player?.at ?? 0);
  const begin = useRef(player?.at ?? 0);
  const source = useProject((state) =>
    state.project?.sources.find((one) => one.id === piece.source_id),
  );
  const first = piece.shapes[0]?.id;
  // What plays behind is not heard as well.
  useEffect(() => player?.media.pause(), [player]);
  const all = useCallback(() => [...players.current.values()], []);
  const toggle = () => {
    setPlaying(!playing);
    for (const one of all()) {
      if (playing) one.media.pause();
      else void one.media.play().catch(() => undefined);
    }
  };
  useEffect(() => {
    const timer = window.setInterval(() => {
      const leads = first === undefined ? undefined : players.current.get(first);
      if (!leads) return;
      setAt(leads.at);
      setPlaying(leads.playing);
      for (const one of players.current.values()) {
        const lost = Math.abs(one.media.currentTime - leads.media.currentTime) * 1e6;
        if (one !== leads && lost > APART_US && !one.media.seeking) {
          one.media.currentTime = leads.media.currentTime;
        }
      }
    }, LOOK_MS);
    return () => window.clearInterval(timer);
  }, [first]);
  if (!source) return null;
  const widths = piece.shapes.map((one) => one.width / one.height);
  const room = window.innerWidth - 80 - 16 * widths.length;
  const height = Math.min(HEIGHT, room / widths.reduce((sum, one) => sum + one, 0));
  return (
    <Dialog.Root open onOpenChange={(open) => !open && onClose()}>
      <Dialog.Portal>
        <Dialog.Overlay className="fixed inset-0 z-40 bg-black/40" />
        <Dialog.Content
          aria-describedby={undefined}
          className="fixed inset-4 z-50 flex flex-col rounded border border-line bg-page shadow-xl outline-none"
        >
          <div className="flex items-center px-4 py-2.5">
            <Dialog.Title className="font-bold">All shapes</Dialog.Title>
            <IconButton label="Close" className="ml-auto" onClick={onClose}>
              <X size={16} />
            </IconButton>
          </div>
          <div className="flex min-h-0 flex-1 items-center justify-center gap-4 bg-easel px-4">
            {piece.shapes.map((shape) => (
              <Screen
                key={shape.id}
                {...{ piece, shape, source, height }}
                heard={shape.id === first}
                begin={begin.current}
                onPlayer={(made) => {
                  if (made) players.current.set(shape.id, made);
                  else players.current.delete(shape.id);
                }}
              />
            ))}
          </div>
          <div className="flex items-center gap-3 px-4 py-2.5">
            <IconButton label={playing ? "Pause" : "Play"} onClick={toggle}>
              {playing ? <Pause size={20} /> : <Play size={20} />}
            </IconButton>
            <Slider
              label="Moment"
              className="flex-1"
              min={0}
              max={piece.duration_us}
              step={40_000}
              value={at}
              valueText={clock(at)}
              onMove={(moment) => {
                setAt(moment);
                for (const one of all()) one.seek(moment);
              }}
            />
            <span className="tabular text-dim">
              {clock(at)} / {clock(piece.duration_us)}
            </span>
          </div>
        </Dialog.Content>
      </Dialog.Portal>
    </Dialog.Root>
  );
}

/** One shape: its picture and the captions over it. */
function Screen(props: {
  piece: Piece;
  shape: Shape;
  source: Source;
  height: number;
  heard: boolean;
  begin: number;
  onPlayer: (player: Player | null) => void;
}) {
  const { piece, shape, source, height, heard, begin, onPlayer } = props;
  const video = useRef<HTMLVideoElement>(null);
  const canvas = useRef<HTMLCanvasElement>(null);
  const told = useRef(onPlayer);
  told.current = onPlayer;
  const sharp = usePixelRatio();
  const width = (height * shape.width) / shape.height;
  useEffect(() => {
    const media = video.current;
    const context = canvas.current?.getContext("2d");
    if (!media || !context) return;
    const { player, close } = openPlayer(
      media,
      { id: piece.id },
      { id: shape.id, as_recorded: shape.as_recorded },
      { id: source.id, kind: source.kind },
      begin,
    );
    player.setDuration(piece.duration_us);
    const paint = (moment: number) => {
      const painter = windows.at(moment);
      if (painter) painter.paint(context, moment, context.canvas.width / painter.scene.width);
    };
    const windows = new SceneWindows(piece.id, shape.id, () => paint(player.at));
    const unlisten = player.listen(paint);
    told.current(player);
    return () => {
      told.current(null);
      unlisten();
      close();
    };
  }, [piece.id, piece.duration_us, shape.id, shape.as_recorded, source.id, source.kind, begin]);
  return (
    <figure className="text-center text-white">
      <div
        className="relative overflow-hidden"
        style={{ width, height, background: backdropOf(shape) }}
      >
        <video
          ref={video}
          muted={!heard}
          playsInline
          preload="auto"
          className="absolute inset-0 h-full w-full object-fill"
        />
        <canvas
          ref={canvas}
          className="pointer-events-none absolute inset-0 h-full w-full"
          width={Math.round(width * sharp)}
          height={Math.round(height * sharp)}
        />
      </div>
      <figcaption className="mt-1.5 text-small">{shapeName(shape)}</figcaption>
    </figure>
  );
}
