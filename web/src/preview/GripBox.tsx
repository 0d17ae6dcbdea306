/** A frame around something on the preview: dragged to move it, a corner to scale, the knob to turn; keys do the same. */
import { useState } from "react";
import { followPointer } from "../ui/pointer";
import { Tip } from "../ui/Tip";
import { type Grip, gripped, keyed, REST, type Way } from "./grip";

type Pair = [number, number];

export function GripBox(props: {
  about: string;
  /** In frame pixels, as are its size and the steps of keys. */
  middle: Pair;
  size: Pair;
  /** Degrees clockwise. */
  leans: number;
  step: Pair;
  /** Screen pixels per frame pixel. */
  zoom: number;
  /** Where a move sticks, if anywhere. */
  snap?: (grip: Grip) => Grip;
  /** What is held now; null when it is let go. */
  onGrip: (grip: Grip | null) => void;
  onDone: (grip: Grip) => void;
}) {
  const { about, middle, size, leans, step, zoom, snap = (grip) => grip, onGrip, onDone } = props;
  const [grip, setGrip] = useState<Grip | null>(null);
  const show = (next: Grip | null) => {
    setGrip(next);
    onGrip(next);
  };
  const take = (event: React.PointerEvent, way: Way) => {
    event.preventDefault();
    event.stopPropagation();
    const box = event.currentTarget.closest("[data-handles]") as HTMLElement;
    box.focus();
    const rect = box.getBoundingClientRect();
    const centre: Pair = [rect.left + rect.width / 2, rect.top + rect.height / 2];
    const start: Pair = [event.clientX, event.clientY];
    let now = REST;
    const move = (at: PointerEvent) => {
      const next = gripped(way, start, [at.clientX, at.clientY], centre, zoom, at.shiftKey);
      now = way === "move" ? snap(next) : next;
      show(now);
    };
    const drop = () => {
      show(null);
      onDone(now);
    };
    followPointer({ move, drop, giveUp: () => show(null) });
  };
  const onKey = (event: React.KeyboardEvent) => {
    const done = keyed(event, step);
    if (!done) return;
    event.preventDefault();
    event.stopPropagation();
    onDone(done);
  };
  const { dx, dy, scale, turn } = grip ?? REST;
  const knob = "absolute size-3 rounded-full border-2 border-chalk bg-white";
  return (
    // biome-ignore lint/a11y/useSemanticElements: a frame that is dragged and moved by keys
    <div
      data-handles
      role="group"
      // biome-ignore lint/a11y/noNoninteractiveTabindex: it is moved by keys
      tabIndex={0}
      aria-label={`Place of ${about}: arrows move, plus and minus scale, Shift and arrows turn`}
      className="group absolute cursor-move border border-chalk/70 border-dashed outline-none hover:border-solid focus-visible:border-2 focus-visible:border-solid"
      style={{
        left: (middle[0] - size[0] / 2) * zoom,
        top: (middle[1] - size[1] / 2) * zoom,
        width: size[0] * zoom,
        height: size[1] * zoom,
        transform: `translate(${dx * zoom}px, ${dy * zoom}px) rotate(${leans + turn}deg) scale(${scale})`,
      }}
      onPointerDown={(event) => take(event, "move")}
      onKeyDown={onKey}
    >
      <Tip text="Drag to scale">
        <span
          className={`${knob} -right-1.5 -bottom-1.5 cursor-nwse-resize`}
          onPointerDown={(event) => take(event, "scale")}
        />
      </Tip>
      <Tip text="Drag to turn">
        <span
          className={`${knob} -top-6 left-1/2 -ml-1.5 cursor-grab`}
          onPointerDown={(event) => take(event, "turn")}
        />
      </Tip>
      <span className="-top-6 absolute left-0 hidden whitespace-nowrap rounded bg-chalk px-1.5 text-small text-white group-hover:block group-focus-visible:block">
        {about}
      </span>
    </div>
  );
}
