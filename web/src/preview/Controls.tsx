/** The controls of playback: play, step, the time to read or type, speed, sound, still, full screen. */
import { Camera, Maximize, Pause, Play, Volume2, VolumeX } from "lucide-react";
import { Popover, Toolbar } from "radix-ui";
import { type ReactNode, useEffect, useRef, useState } from "react";
import { hintOf } from "../actions/action";
import { action } from "../actions/index";
import type { Piece } from "../api/client";
import { download } from "../api/download";
import { focusPage } from "../focus/page";
import type { Player } from "../playback/player";
import { useShape } from "../state/store";
import { Check } from "../ui/Check";
import { clock, timeTyped } from "../ui/format";
import { attempt, say } from "../ui/notice";
import { Select } from "../ui/Select";
import { Slider } from "../ui/Slider";
import { Tip } from "../ui/Tip";

const RATES = [0.5, 0.6, 0.75, 1, 1.25, 1.5, 2];
const BUTTON = "shrink-0 rounded p-1 text-white hover:bg-black/30 disabled:opacity-40";

export function Controls(props: {
  player: Player | null;
  piece: Piece;
  /** What is shown large in full screen. */
  screen: React.RefObject<HTMLElement | null>;
}) {
  const { player, piece, screen } = props;
  const shape = useShape(piece);
  const [state, setState] = useState({ playing: false, rate: 1, volume: 1, muted: false });
  useEffect(() => {
    if (!player) return;
    const over = new AbortController();
    const { media } = player;
    const read = () =>
      setState({
        playing: player.playing,
        rate: media.playbackRate,
        volume: media.volume,
        muted: media.muted,
      });
    for (const event of ["play", "pause", "ended", "ratechange", "volumechange"]) {
      media.addEventListener(event, read, { signal: over.signal });
    }
    return () => over.abort();
  }, [player]);
  const { playing, rate, volume, muted } = state;
  const still = () => {
    const at = Math.max(0, Math.round(player?.at ?? 0));
    void attempt(download(`/api/pieces/${piece.id}/still.png?at_us=${at}&shape_id=${shape.id}`));
  };
  const full = () => {
    if (document.fullscreenElement) void document.exitFullscreen();
    else void screen.current?.requestFullscreen().catch(() => undefined);
  };
  const step = (id: string) => {
    const one = action(id);
    const Icon = one.icon;
    return (
      <Press label={one.name} tip={hintOf(one)} disabled={!player} onPress={() => one.run(player)}>
        {Icon && <Icon size={18} />}
      </Press>
    );
  };
  return (
    <Toolbar.Root
      aria-label="Playback"
      data-stop="preview"
      className="flex h-11 shrink-0 items-center justify-center gap-1.5 overflow-hidden bg-easel-bar px-1 text-white"
    >
      {step("frame-back")}
      <Press
        label={playing ? "Pause" : "Play"}
        tip={hintOf(action("play"))}
        disabled={!player}
        onPress={() => player?.toggle()}
      >
        {playing ? <Pause size={22} fill="currentColor" /> : <Play size={22} fill="currentColor" />}
      </Press>
      {step("frame-on")}
      <TimeNow player={player} durationUs={piece.duration_us} />
      <Select
        inToolbar
        label="Speed"
        className="tabular w-[60px] shrink-0 px-1.5 max-[760px]:hidden border-transparent bg-transparent hover:border-white/50"
        options={RATES.map((value) => ({ value, text: `${value}×` }))}
        chosen={RATES.includes(rate) ? rate : 1}
        onChoose={(value) => player?.setRate(value)}
      />
      <Sound player={player} volume={muted ? 0 : volume} />
      <Press
        label="Take a still"
        tip="This frame with its captions, as a picture (PNG)"
        disabled={!player}
        onPress={still}
      >
        <Camera size={17} />
      </Press>
      <Press label="Full screen" tip="Full screen; Esc leaves it" disabled={!player} onPress={full}>
        <Maximize size={16} />
      </Press>
    </Toolbar.Root>
  );
}

function Press(props: {
  label: string;
  tip: string;
  disabled: boolean;
  onPress: () => void;
  children: ReactNode;
}) {
  const { label, tip, disabled, onPress, children } = props;
  return (
    <Tip text={tip}>
      <Toolbar.Button aria-label={label} disabled={disabled} className={BUTTON} onClick={onPress}>
        {children}
      </Toolbar.Button>
    </Tip>
  );
}

/** How loud, and off altogether. */
function Sound({ player, volume }: { player: Player | null; volume: number }) {
  return (
    <Popover.Root>
      <Tip text={hintOf(action("mute"))}>
        <Toolbar.Button asChild>
          <Popover.Trigger aria-label="Sound" disabled={!player} className={BUTTON}>
            {volume === 0 ? <VolumeX size={17} /> : <Volume2 size={17} />}
          </Popover.Trigger>
        </Toolbar.Button>
      </Tip>
      <Popover.Portal>
        <Popover.Content
          side="top"
          sideOffset={6}
          aria-label="Sound"
          className="z-40 flex items-center gap-3 rounded border border-line bg-page px-3 py-2 text-ink shadow-lg"
        >
          <Slider
            label="Volume"
            className="w-32"
            min={0}
            max={1}
            step={0.05}
            value={volume}
            valueText={`${Math.round(volume * 100)} %`}
            onMove={(value) => {
              if (!player) return;
              player.media.muted = false;
              player.media.volume = value;
            }}
          />
          <Check label="off" checked={volume === 0} onChange={() => action("mute").run(player)} />
        </Popover.Content>
      </Popover.Portal>
    </Popover.Root>
  );
}

/** The moment that shows; typed over, it is gone to. */
function TimeNow({ player, durationUs }: { player: Player | null; durationUs: number }) {
  const field = useRef<HTMLInputElement>(null);
  useEffect(() => {
    if (!player) return;
    return player.listen((at) => {
      const here = field.current;
      if (here && document.activeElement !== here) here.value = clock(at, true);
    });
  }, [player]);
  const leave = () => {
    if (field.current) field.current.value = clock(player?.at ?? 0, true);
  };
  const go = () => {
    const at = timeTyped(field.current?.value ?? "");
    if (at === null) say("Type a time such as 0:12.5 or 75.", "wrong");
    else player?.seek(Math.min(at, durationUs - 1));
    focusPage();
  };
  return (
    <span className="tabular mx-1 whitespace-nowrap">
      <Tip text={hintOf(action("go-to-time"))}>
        <input
          ref={field}
          id="time"
          aria-label="Time, typed over to go there"
          tabIndex={-1}
          className="w-[74px] rounded bg-transparent px-0.5 text-right text-white hover:bg-black/20 focus:bg-card focus:text-ink"
          defaultValue={clock(0, true)}
          onFocus={(event) => event.target.select()}
          onBlur={leave}
          onKeyDown={(event) => {
            if (event.key === "Enter") go();
            if (event.key === "Escape") {
              leave();
              focusPage();
            }
          }}
        />
      </Tip>
      <span aria-hidden className="hidden @min-[400px]:inline">
        /
      </span>
      <span className="hidden @min-[400px]:inline">{clock(durationUs, true)}</span>
    </span>
  );
}
