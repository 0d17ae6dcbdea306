/** A colour: chosen on a field, typed as hex, taken from the picture, from recent or kept ones. */
import { useQuery, useQueryClient } from "@tanstack/react-query";
import { Pipette, Plus, X } from "lucide-react";
import { Popover, Toggle } from "radix-ui";
import { useState } from "react";
import { HexColorPicker } from "react-colorful";
import { api, take } from "../api/client";
import { pickFromPicture, useDropper } from "../preview/dropper";
import { IconButton } from "../ui/IconButton";
import { attempt } from "../ui/notice";
import { Slider } from "../ui/Slider";
import { Tip } from "../ui/Tip";
import { type Colour, deeper, fromHex, hex, noteColour, recentColours } from "./colour";
import { Row, useDragged } from "./fields";
import type { Target } from "./scope";

type Paint = Colour | { first: Colour; last: Colour; angle: number };

/** A colour with its opacity; where gradients are allowed, one or two of them. */
export function PaintField(props: {
  target: Target;
  path: string;
  label: string;
  of?: string;
  gradient?: boolean;
}) {
  const { target, path, label, of, gradient = false } = props;
  const held = target.value(path) as Paint | null | undefined;
  const paint: Paint = held ?? [255, 255, 255, 255];
  const running = !Array.isArray(paint);
  const first = running ? paint.first : paint;
  const name = of ? `${of}: ${label.toLowerCase()}` : label;
  return (
    <Row target={target} path={path} label={label}>
      <Swatch
        label={name}
        colour={first}
        onChange={(colour) =>
          target.set({ [path]: running ? { ...paint, first: colour } : colour }, true)
        }
      />
      {running && (
        <Swatch
          label={`${name}, to`}
          colour={paint.last}
          onChange={(colour) => target.set({ [path]: { ...paint, last: colour } }, true)}
        />
      )}
      {gradient ? (
        <Tip text={running ? "One plain colour" : "One colour running into another"}>
          <Toggle.Root
            pressed={running}
            className="ml-auto rounded border border-line bg-card px-2 py-0.5 text-small hover:border-dim"
            onPressedChange={() =>
              target.set({
                [path]: running ? paint.first : { first, last: deeper(first), angle: 90 },
              })
            }
          >
            {running ? "two colours" : "one colour"}
          </Toggle.Root>
        </Tip>
      ) : (
        <Opacity
          label={name}
          value={first[3]}
          onChange={(alpha) => target.set({ [path]: [first[0], first[1], first[2], alpha] }, true)}
        />
      )}
    </Row>
  );
}

function Opacity(props: { label: string; value: number; onChange: (value: number) => void }) {
  const { label, value, onChange } = props;
  const { moving, move, rest } = useDragged(onChange);
  const percent = Math.round(((moving ?? value) / 255) * 100);
  return (
    <>
      <Slider
        label={`${label}, opacity`}
        className="flex-1"
        min={0}
        max={255}
        step={1}
        value={moving ?? value}
        valueText={`${percent} %`}
        onMove={move}
        onRest={rest}
      />
      <span className="tabular w-[40px] shrink-0 text-right text-dim">{percent} %</span>
    </>
  );
}

export function Swatch(props: {
  label: string;
  colour: Colour;
  onChange: (colour: Colour) => void;
}) {
  const { label, colour, onChange } = props;
  const dropping = useDropper((state) => state.take !== null);
  const [open, setOpen] = useState(false);
  const { moving, move, rest } = useDragged((text: string) => {
    const found = fromHex(text);
    if (found) onChange([...found, colour[3]]);
  });
  const shown = moving ?? hex(colour);
  const choose = (text: string) => {
    move(text);
    rest();
    noteColour(text);
  };
  return (
    <Popover.Root
      open={open}
      onOpenChange={(next) => {
        if (dropping) return;
        if (!next) {
          rest();
          if (moving) noteColour(moving);
        }
        setOpen(next);
      }}
    >
      <Tip text={shown}>
        <Popover.Trigger
          aria-label={label}
          className="h-7 w-11 shrink-0 rounded border border-line bg-card p-0.5"
        >
          <span className="block h-full w-full rounded-sm" style={{ background: shown }} />
        </Popover.Trigger>
      </Tip>
      <Popover.Portal>
        <Popover.Content
          align="start"
          collisionPadding={8}
          sideOffset={4}
          aria-label={`${label}: choose a colour`}
          className="z-40 w-[232px] space-y-2 rounded border border-line bg-page p-3 shadow-lg"
        >
          <HexColorPicker
            className="colour-field"
            color={shown}
            onChange={move}
            onPointerUp={rest}
            onKeyUp={rest}
          />
          <div className="flex items-center gap-1.5">
            <HexField label={`${label}, hex`} value={shown} onTake={choose} />
            <IconButton
              label="Take it from the picture"
              onClick={() => void pickFromPicture().then((found) => found && choose(found))}
            >
              <Pipette size={16} />
            </IconButton>
          </div>
          <Kept chosen={shown} onChoose={choose} />
        </Popover.Content>
      </Popover.Portal>
    </Popover.Root>
  );
}

function HexField(props: { label: string; value: string; onTake: (text: string) => void }) {
  const { label, value, onTake } = props;
  const [typed, setTyped] = useState<string | null>(null);
  const found = typed === null ? null : fromHex(typed);
  const commit = () => {
    if (found) onTake(hex(found));
    setTyped(null);
  };
  return (
    <input
      aria-label={label}
      aria-invalid={typed !== null && !found}
      spellCheck={false}
      className="tabular h-7 min-w-0 flex-1 rounded border border-line bg-card px-2 aria-invalid:border-clay"
      value={typed ?? value}
      onFocus={(event) => event.target.select()}
      onChange={(event) => setTyped(event.target.value)}
      onBlur={commit}
      onKeyDown={(event) => {
        if (event.key === "Enter") commit();
      }}
    />
  );
}

const DOT = "size-5 rounded-sm border border-line";

/** Colours used last, and those the workspace keeps for everybody and every project. */
function Kept({ chosen, onChoose }: { chosen: string; onChoose: (text: string) => void }) {
  const client = useQueryClient();
  const palette = useQuery({ queryKey: ["palette"], queryFn: () => take(api.GET("/api/palette")) });
  const act = async (work: Promise<unknown>) => {
    if (await attempt(work)) await client.invalidateQueries({ queryKey: ["palette"] });
  };
  const kept = palette.data ?? [];
  const recent = recentColours();
  return (
    <>
      {recent.length > 0 && (
        <Dots name="Used last">
          {recent.map((one) => (
            <Dot key={one} colour={one} onChoose={onChoose} />
          ))}
        </Dots>
      )}
      <Dots name="Palette of the workspace">
        {kept.map((one) => (
          <span key={one} className="group relative">
            <Dot colour={one} onChoose={onChoose} />
            <button
              type="button"
              aria-label={`Take ${one} out of the palette`}
              className="absolute -top-1.5 -right-1.5 hidden rounded-full bg-ink text-page group-hover:block focus-visible:block"
              onClick={() =>
                void act(
                  take(
                    api.DELETE("/api/palette/{colour}", {
                      params: { path: { colour: one.slice(1) } },
                    }),
                  ),
                )
              }
            >
              <X size={11} />
            </button>
          </span>
        ))}
        {!kept.includes(chosen) && (
          <Tip text="Keep this colour for all projects">
            <button
              type="button"
              aria-label="Keep this colour"
              className={`${DOT} grid place-items-center text-dim hover:text-ink`}
              onClick={() => void act(take(api.POST("/api/palette", { body: { colour: chosen } })))}
            >
              <Plus size={13} />
            </button>
          </Tip>
        )}
      </Dots>
    </>
  );
}

function Dots({ name, children }: { name: string; children: React.ReactNode }) {
  return (
    <div>
      <p className="mb-1 text-small text-dim">{name}</p>
      <div className="flex flex-wrap gap-1.5">{children}</div>
    </div>
  );
}

function Dot({ colour, onChoose }: { colour: string; onChoose: (text: string) => void }) {
  return (
    <button
      type="button"
      aria-label={`Use ${colour}`}
      className={DOT}
      style={{ background: colour }}
      onClick={() => onChoose(colour)}
    />
  );
}
