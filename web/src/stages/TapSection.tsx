/** Tapping: play, and press a key where each caption (or word) starts. */
import { useEffect, useRef, useState } from "react";
import { api, take } from "../api/client";
import type { Player } from "../playback/player";
import { edit } from "../state/commands";
import { useProject } from "../state/store";
import { textOf } from "../strip/passage";
import { Button } from "../ui/Button";
import { FIELD } from "../ui/fields";
import { say } from "../ui/notice";
import { Select } from "../ui/Select";
import { TraySection } from "../ui/TraySection";

const RUN_IN_US = 2_000_000;
const STORE = "mortiser.tap-delay";
const USUAL_MS = 120;
const UNITS = [
  { value: "caption", text: "each caption" },
  { value: "word", text: "each word" },
] as const;
type Unit = "caption" | "word";

export function TapSection({ player }: { player: Player | null }) {
  const cues = useProject((state) => state.cues);
  const selected = useProject((state) => state.selected);
  const [unit, setUnit] = useState<Unit>("caption");
  const [delay, setDelay] = useState(() => Number(localStorage.getItem(STORE) ?? USUAL_MS));
  const [running, setRunning] = useState(false);
  const at = Math.max(
    0,
    cues.findIndex((cue) => cue.id === selected),
  );
  const first = cues[at];
  if (!first) return null;
  const keep = (ms: number) => {
    setDelay(ms);
    localStorage.setItem(STORE, String(ms));
  };
  const finish = (taps: number[]) => {
    setRunning(false);
    if (!taps.length) return;
    void edit({
      kind: "tap_times",
      first_cue: first.id,
      unit,
      taps_us: taps,
      delay_us: Math.round(delay * 1_000),
    });
  };
  const rest = cues.slice(at);
  const targets =
    unit === "caption" ? rest.map(textOf) : rest.flatMap((c) => c.words.map((w) => w.text));
  return (
    <TraySection
      title="Tap the times"
      about="For singing and noise: press T where each one starts. From the selected caption on."
    >
      {running ? (
        <Tapping
          targets={targets}
          startUs={Math.max(0, first.start_us - RUN_IN_US)}
          player={player}
          onEnd={finish}
        />
      ) : (
        <>
          <div className="flex items-end gap-2">
            <div className="flex-1 text-small text-dim">
              Tap
              <Select
                label="Tap"
                className="w-full text-[14px] text-ink"
                options={UNITS}
                chosen={unit}
                onChoose={setUnit}
              />
            </div>
            <label className="w-24 text-small text-dim">
              Hand is late, ms
              <input
                type="number"
                min={-500}
                max={1000}
                step={10}
                dir="auto"
                className={`${FIELD} tabular text-ink`}
                value={delay}
                onChange={(event) => keep(Number(event.target.value))}
              />
            </label>
          </div>
          <div className="flex gap-2">
            <Button kind="main" disabled={!player} onClick={() => setRunning(true)}>
              Start tapping
            </Button>
            <MeasureDelay onMeasured={keep} />
          </div>
        </>
      )}
    </TraySection>
  );
}

function Tapping(props: {
  targets: string[];
  startUs: number;
  player: Player | null;
  onEnd: (taps: number[]) => void;
}) {
  const { targets, startUs, player, onEnd } = props;
  const taps = useRef<number[]>([]);
  const [count, setCount] = useState(0);
  const end = useRef(onEnd);
  end.current = onEnd;
  useEffect(() => {
    if (!player) return;
    player.seek(startUs);
    void player.media.play().catch(() => undefined);
    const over = new AbortController();
    const stop = () => {
      player.media.pause();
      end.current(taps.current);
    };
    const onKey = (event: KeyboardEvent) => {
      if (event.ctrlKey || event.metaKey || event.altKey) return;
      const key = event.key.toLowerCase();
      if (key !== "t" && key !== "escape") return;
      event.preventDefault();
      event.stopPropagation();
      if (key === "escape") stop();
      else if (!player.media.paused && !event.repeat) {
        taps.current.push(Math.round(player.media.currentTime * 1e6));
        setCount(taps.current.length);
        if (taps.current.length >= targets.length) stop();
      }
    };
    window.addEventListener("keydown", onKey, { capture: true, signal: over.signal });
    player.media.addEventListener("ended", stop, { signal: over.signal });
    return () => over.abort();
  }, [player, startUs, targets.length]);
  return (
    <div role="status" className="rounded border border-chalk bg-card p-3">
      <p className="text-small text-dim">
        {count} tapped, {targets.length - count} to go. T taps, Esc ends.
      </p>
      <p className="mt-1 text-[17px] font-bold">{targets[count]}</p>
      <p className="text-dim">{targets[count + 1]}</p>
      <Button
        className="mt-2"
        onClick={() => {
          player?.media.pause();
          onEnd(taps.current);
        }}
      >
        Done
      </Button>
    </div>
  );
}

const CLICKS = 12;
const BEAT_S = 0.7;

/** Plays a beat and learns from taps along with it how late the hand is. */
function MeasureDelay({ onMeasured }: { onMeasured: (ms: number) => void }) {
  const [running, setRunning] = useState(false);
  const done = useRef(onMeasured);
  done.current = onMeasured;
  useEffect(() => {
    if (!running) return;
    const sound = new AudioContext();
    const begin = sound.currentTime + 0.5;
    const clicks = Array.from({ length: CLICKS }, (_, index) => begin + index * BEAT_S);
    for (const at of clicks) {
      const tone = new OscillatorNode(sound, { frequency: 1_000 });
      const loud = new GainNode(sound, { gain: 0.3 });
      tone.connect(loud).connect(sound.destination);
      tone.start(at);
      tone.stop(at + 0.03);
    }
    const taps: number[] = [];
    const onKey = (event: KeyboardEvent) => {
      if (event.key.toLowerCase() !== "t" || event.repeat) return;
      event.preventDefault();
      event.stopPropagation();
      taps.push(sound.currentTime - sound.outputLatency);
    };
    window.addEventListener("keydown", onKey, { capture: true });
    const us = (seconds: number) => Math.round(seconds * 1e6);
    const timer = window.setTimeout(
      () => {
        setRunning(false);
        void take(
          api.POST("/api/tapping/delay", {
            body: { clicks_us: clicks.map(us), taps_us: taps.map(us) },
          }),
        )
          .then(({ delay_us }) => done.current(Math.round(delay_us / 1_000)))
          .catch((error: Error) => say(error.message, "wrong"));
      },
      (0.5 + CLICKS * BEAT_S) * 1_000,
    );
    return () => {
      window.clearTimeout(timer);
      window.removeEventListener("keydown", onKey, { capture: true });
      void sound.close();
    };
  }, [running]);
  return (
    <Button disabled={running} onClick={() => setRunning(true)}>
      {running ? "Tap T along with the beat …" : "Measure my hand"}
    </Button>
  );
}
