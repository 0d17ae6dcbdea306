/** Motion: the entrance, the emphasis of the live word, the exit, and the loop. */
import type { Piece } from "../api/client";
import { Check } from "../ui/Check";
import { TraySection } from "../ui/TraySection";
import { PickField, Row, SliderField } from "./fields";
import { ScopeBar } from "./ScopeBar";
import { type Target, useTarget } from "./scope";

const named = (names: Record<string, string>) =>
  Object.entries(names).map(([value, text]) => ({ value, text }));

export const ENTRANCES = named({
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
const WHEN = named({ start: "With the caption", spoken: "As spoken" });
const EMPHASES = named({
  none: "None",
  grow: "Grow",
  lift: "Lift",
  tilt: "Tilt",
  pulse: "Pulse",
  ink: "Ink-in",
});
export const EXITS = named({
  none: "None",
  fade: "Fade out",
  sink: "Sink",
  lift_off: "Lift off",
  shrink: "Shrink",
});
const LOOPS = named({ none: "None", sway: "Sway", breathe: "Breathe", bob: "Bob" });
const WHOLE = named({ caption: "Whole caption", word: "Each word" });
const CURVES = named({
  linear: "Linear",
  out: "Ease out",
  inout: "Ease in and out",
  over: "Overshoot",
});

export function MotionTab({ piece }: { piece: Piece }) {
  const target = useTarget(piece);
  const is = (path: string) => String(target.value(`motion.${path}`));
  return (
    <>
      <ScopeBar />
      <TraySection title="Entrance">
        <PickField
          target={target}
          path="motion.entrance.kind"
          of="Entrance"
          label="Motion"
          choices={ENTRANCES}
        />
        {is("entrance.kind") !== "none" && (
          <>
            <PickField
              target={target}
              path="motion.entrance.by"
              of="Entrance"
              label="By"
              choices={PARTS}
            />
            <PickField
              target={target}
              path="motion.entrance.when"
              of="Entrance"
              label="When"
              choices={WHEN}
            />
            <Milliseconds
              target={target}
              path="motion.entrance.duration_ms"
              of="Entrance"
              label="Duration"
            />
            <Milliseconds
              target={target}
              path="motion.entrance.delay_ms"
              of="Entrance"
              label="Delay"
            />
            {is("entrance.when") === "start" && is("entrance.by") !== "caption" && (
              <Milliseconds
                target={target}
                path="motion.entrance.stagger_ms"
                of="Entrance"
                label="Stagger"
              />
            )}
            <Strength target={target} path="motion.entrance.strength" of="Entrance" />
            <PickField
              target={target}
              path="motion.entrance.curve"
              of="Entrance"
              label="Easing"
              choices={CURVES}
            />
          </>
        )}
      </TraySection>
      <TraySection title="Emphasis">
        <PickField
          target={target}
          path="motion.emphasis.kind"
          of="Emphasis"
          label="Motion"
          choices={EMPHASES}
        />
        {!["none", "ink"].includes(is("emphasis.kind")) && (
          <>
            <Milliseconds
              target={target}
              path="motion.emphasis.duration_ms"
              of="Emphasis"
              label="Duration"
            />
            <Strength target={target} path="motion.emphasis.strength" of="Emphasis" />
          </>
        )}
      </TraySection>
      <TraySection title="Exit">
        <PickField
          target={target}
          path="motion.exit.kind"
          of="Exit"
          label="Motion"
          choices={EXITS}
        />
        {is("exit.kind") !== "none" && (
          <>
            <PickField target={target} path="motion.exit.by" of="Exit" label="By" choices={WHOLE} />
            <Milliseconds
              target={target}
              path="motion.exit.duration_ms"
              of="Exit"
              label="Duration"
            />
            <Strength target={target} path="motion.exit.strength" of="Exit" />
            <Row target={target} path="motion.exit.overlap" label="Overlap">
              <Check
                label="while the next one comes"
                checked={target.value("motion.exit.overlap") === true}
                onChange={(overlap) => target.set({ "motion.exit.overlap": overlap })}
              />
            </Row>
          </>
        )}
      </TraySection>
      <TraySection title="Loop">
        <PickField
          target={target}
          path="motion.loop.kind"
          of="Loop"
          label="Motion"
          choices={LOOPS}
        />
        {is("loop.kind") !== "none" && (
          <>
            <PickField target={target} path="motion.loop.by" of="Loop" label="By" choices={WHOLE} />
            <SliderField
              {...{
                target,
                path: "motion.loop.period_ms",
                of: "Loop",
                label: "Period",
                min: 0.4,
                max: 6,
                step: 0.1,
              }}
              per={0.001}
              unit=" s"
            />
            <Strength target={target} path="motion.loop.strength" of="Loop" />
          </>
        )}
      </TraySection>
    </>
  );
}

function Milliseconds(props: { target: Target; path: string; label: string; of: string }) {
  return <SliderField {...props} min={0} max={800} step={10} unit=" ms" />;
}

function Strength(props: { target: Target; path: string; of: string }) {
  return <SliderField {...props} label="Strength" min={0} max={300} step={5} per={100} unit=" %" />;
}
