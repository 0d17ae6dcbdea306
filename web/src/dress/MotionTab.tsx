/** How captions and words come, what the live word does, how they go, and what never stops. */
import type { Piece } from "../api/client";
import { TraySection } from "../ui/TraySection";
import { PickField, SliderField } from "./fields";
import { ScopeBar } from "./ScopeBar";
import { type Target, useTarget } from "./scope";

const named = (names: Record<string, string>) =>
  Object.entries(names).map(([value, text]) => ({ value, text }));

const ENTRANCES = named({
  none: "None",
  appear: "Appear",
  fade: "Fade in",
  settle: "Settle",
  rise: "Rise",
  drop: "Drop",
  slide: "Slide in",
  swell: "Swell",
  stamp: "Stamp",
  swing: "Swing",
});
const PARTS = named({
  caption: "Whole caption",
  line: "Line by line",
  word: "Word by word",
  letter: "Letter by letter",
});
const WHEN = named({ start: "With the caption", spoken: "As it is said" });
const EMPHASES = named({
  none: "None",
  grow: "Grow",
  lift: "Lift",
  tilt: "Tilt",
  pulse: "Beat",
  ink: "Ink-in",
});
const EXITS = named({
  none: "None",
  fade: "Fade out",
  sink: "Sink",
  lift_off: "Lift off",
  shrink: "Shrink",
});
const LOOPS = named({ none: "None", sway: "Sway", breathe: "Breathe", bob: "Bob" });
const WHOLE = named({ caption: "Whole caption", word: "Each word" });
const CURVES = named({
  linear: "Even",
  out: "Slows down",
  inout: "Soft both ways",
  over: "Overshoots",
});

export function MotionTab({ piece }: { piece: Piece }) {
  const target = useTarget(piece);
  const is = (path: string) => String(target.value(`motion.${path}`));
  return (
    <>
      <ScopeBar />
      <TraySection title="Coming in">
        <PickField target={target} path="motion.entrance.kind" label="Motion" choices={ENTRANCES} />
        {is("entrance.kind") !== "none" && (
          <>
            <PickField target={target} path="motion.entrance.by" label="In parts" choices={PARTS} />
            <PickField target={target} path="motion.entrance.when" label="When" choices={WHEN} />
            <Milliseconds target={target} path="motion.entrance.duration_ms" label="Length" />
            <Milliseconds target={target} path="motion.entrance.delay_ms" label="Delay" />
            {is("entrance.when") === "start" && is("entrance.by") !== "caption" && (
              <Milliseconds target={target} path="motion.entrance.stagger_ms" label="One by one" />
            )}
            <Strength target={target} path="motion.entrance.strength" />
            <PickField target={target} path="motion.entrance.curve" label="Pace" choices={CURVES} />
          </>
        )}
      </TraySection>
      <TraySection title="The word being said">
        <PickField target={target} path="motion.emphasis.kind" label="Motion" choices={EMPHASES} />
        {!["none", "ink"].includes(is("emphasis.kind")) && (
          <>
            <Milliseconds target={target} path="motion.emphasis.duration_ms" label="Length" />
            <Strength target={target} path="motion.emphasis.strength" />
          </>
        )}
      </TraySection>
      <TraySection title="Going">
        <PickField target={target} path="motion.exit.kind" label="Motion" choices={EXITS} />
        {is("exit.kind") !== "none" && (
          <>
            <PickField target={target} path="motion.exit.by" label="In parts" choices={WHOLE} />
            <Milliseconds target={target} path="motion.exit.duration_ms" label="Length" />
            <Strength target={target} path="motion.exit.strength" />
          </>
        )}
      </TraySection>
      <TraySection title="All the while">
        <PickField target={target} path="motion.loop.kind" label="Motion" choices={LOOPS} />
        {is("loop.kind") !== "none" && (
          <>
            <PickField target={target} path="motion.loop.by" label="In parts" choices={WHOLE} />
            <SliderField
              {...{
                target,
                path: "motion.loop.period_ms",
                label: "Period",
                min: 0.4,
                max: 6,
                step: 0.1,
              }}
              per={0.001}
              unit=" s"
            />
            <Strength target={target} path="motion.loop.strength" />
          </>
        )}
      </TraySection>
    </>
  );
}

function Milliseconds(props: { target: Target; path: string; label: string }) {
  return <SliderField {...props} min={0} max={800} step={10} unit=" ms" />;
}

function Strength(props: { target: Target; path: string }) {
  return <SliderField {...props} label="Strength" min={0} max={300} step={5} per={100} unit=" %" />;
}
