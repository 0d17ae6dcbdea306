/** The Trim stage's tray: how long the piece is and is to be, and what can go. */
import type { Piece } from "../api/client";
import type { Player } from "../playback/player";
import { edit } from "../state/commands";
import { Button } from "../ui/Button";
import { Check } from "../ui/Check";
import { clock, length, timeTyped } from "../ui/format";
import { sayWrong } from "../ui/notice";
import { Slider } from "../ui/Slider";
import { Tip } from "../ui/Tip";
import { TraySection } from "../ui/TraySection";
import { look, takeOut } from "./commands";
import { FillerList } from "./FillerList";
import { FilmsSection } from "./FilmsSection";
import { RecordedList } from "./RecordedList";
import { KINDS, listed, type Removal, type RemovalKind, useTrim } from "./store";
import { ThoughtList } from "./ThoughtList";
import { useRemovals } from "./talk";

const NAMES: Record<RemovalKind, string> = {
  quiet: "Quiet",
  fillers: "Fillers",
  repeats: "Repeats and false starts",
  ends: "Before and after the talk",
  sounds: "Pauses with sound",
};

export function TrimTray({ piece, player }: { piece: Piece; player: Player | null }) {
  useRemovals(piece);
  const all = useTrim((state) => state.removals);
  const kinds = useTrim((state) => state.kinds);
  const shown = listed({ removals: all, kinds });
  return (
    <>
      <Lengths piece={piece} />
      <ThoughtList piece={piece} player={player} />
      <TraySection
        title="What can go"
        about="D hears the next one, X takes it out. Nothing is lost: what is struck stays readable and comes back."
      >
        {KINDS.map((kind) => (
          <KindLine key={kind} kind={kind} all={all} on={kinds.has(kind)} />
        ))}
        <Thresholds />
        {shown.length > 0 && (
          <Tip text="One undo brings all of it back (Shift X)">
            <Button kind="main" className="w-full" onClick={() => void takeOut(shown)}>
              {shown.length === 1 ? "Take it out" : `Take out all ${shown.length}`} ·{" "}
              {seconds(savedBy(shown))} shorter
            </Button>
          </Tip>
        )}
      </TraySection>
      <TraySection>
        {shown.length > 1 && <ListOrder />}
        {shown.map((one) => (
          <RemovalCard
            key={`${one.kind}-${one.strand_id}-${one.from_us}`}
            one={one}
            player={player}
          />
        ))}
        {!shown.length && (
          <p className="text-dim">
            {all.length
              ? "Tick what is to be listed."
              : "Nothing more is found. Select words in the Strip and press Delete to strike them."}
          </p>
        )}
      </TraySection>
      <FilmsSection piece={piece} player={player} />
      <RecordedList piece={piece} player={player} />
      <FillerList piece={piece} />
    </>
  );
}

/** Whether what can go is listed as it is said, or what saves most first. */
function ListOrder() {
  const order = useTrim((state) => state.order);
  return (
    <div className="flex items-center gap-3 text-small">
      <span className="text-dim">Listed</span>
      {(["time", "saved"] as const).map((one) => (
        <button
          key={one}
          type="button"
          aria-pressed={order === one}
          className={order === one ? "font-bold" : "text-link hover:underline"}
          onClick={() => useTrim.setState({ order: one })}
        >
          {one === "time" ? "as it is said" : "what saves most first"}
        </button>
      ))}
    </div>
  );
}

const savedBy = (some: readonly Removal[]): number =>
  some.reduce((total, one) => total + one.saves_us, 0);

const seconds = (us: number): string => `${(us / 1e6).toFixed(1)} s`;

/** The length before and after, and the goal for it. */
function Lengths({ piece }: { piece: Piece }) {
  const over = piece.over_us;
  const set = (text: string) => {
    const us = text.trim() ? timeTyped(text) : 0;
    if (us === null) sayWrong(new Error("Type a length such as 0:45 or 45, or nothing."));
    else if (us !== piece.goal_us) {
      void edit({ kind: "set_goal", piece_id: piece.id, goal_us: us });
    }
  };
  return (
    <TraySection title="Length">
      <div className="flex items-baseline gap-2">
        <span className="tabular text-dim">{length(piece.whole_us)}</span>
        <span className="text-dim">→</span>
        <span className="tabular text-[16px] font-bold">{length(piece.duration_us)}</span>
        <label className="ml-auto flex items-center gap-2">
          <span className="text-dim">Goal</span>
          <input
            key={piece.goal_us}
            aria-label="Goal for the length"
            placeholder="none"
            className="tabular h-7 w-16 rounded border border-line bg-card px-2 text-right"
            defaultValue={piece.goal_us ? length(piece.goal_us) : ""}
            onBlur={(event) => set(event.target.value)}
            onKeyDown={(event) => event.key === "Enter" && event.currentTarget.blur()}
          />
        </label>
      </div>
      {piece.goal_us > 0 && (
        <p className={over > 0 ? "text-clay" : "text-dim"}>
          {over > 0 ? `${seconds(over)} over the goal` : "Within the goal"}
        </p>
      )}
    </TraySection>
  );
}

function KindLine(props: { kind: RemovalKind; all: readonly Removal[]; on: boolean }) {
  const { kind, all, on } = props;
  const mine = all.filter((one) => one.kind === kind);
  const toggle = (wanted: boolean) =>
    useTrim.setState(({ kinds }) => {
      const next = new Set(kinds);
      if (wanted) next.add(kind);
      else next.delete(kind);
      return { kinds: next };
    });
  return (
    <div className="flex items-start gap-2">
      <Check className="flex-1" label={NAMES[kind]} checked={on} onChange={toggle} />
      <span className="tabular text-dim">
        {mine.length ? `${mine.length} · ${seconds(savedBy(mine))}` : "none"}
      </span>
    </div>
  );
}

/** How long a quiet is to be before it counts, how much of it stays, and the room around words. */
function Thresholds() {
  const { quietUs, leaveUs, beforeUs, afterUs } = useTrim();
  return (
    <div className="grid grid-cols-[auto_1fr_52px] items-center gap-x-3 gap-y-1 pl-6">
      <Threshold
        text="Longer than"
        label="Quiet longer than"
        value={quietUs}
        range={[100_000, 2_000_000, 50_000]}
        onMove={(us) => useTrim.setState({ quietUs: us })}
      />
      <Threshold
        text="Down to"
        label="Quiet that stays"
        value={leaveUs}
        range={[0, 1_000_000, 20_000]}
        onMove={(us) => useTrim.setState({ leaveUs: us })}
      />
      <Threshold
        text="Before words"
        label="Room before words that stay"
        value={beforeUs}
        range={[0, 500_000, 10_000]}
        onMove={(us) => useTrim.setState({ beforeUs: us })}
      />
      <Threshold
        text="After words"
        label="Room after words that stay"
        value={afterUs}
        range={[0, 500_000, 10_000]}
        onMove={(us) => useTrim.setState({ afterUs: us })}
      />
    </div>
  );
}

function Threshold(props: {
  text: string;
  label: string;
  value: number;
  /** From, to and step, in µs. */
  range: [number, number, number];
  onMove: (us: number) => void;
}) {
  const { text, label, value, range, onMove } = props;
  const said = `${(value / 1e6).toFixed(2)} s`;
  return (
    <>
      <span>{text}</span>
      <Slider
        label={label}
        min={range[0]}
        max={range[1]}
        step={range[2]}
        value={value}
        valueText={said}
        onMove={onMove}
      />
      <span className="tabular text-right text-dim">{said}</span>
    </>
  );
}

function RemovalCard({ one, player }: { one: Removal; player: Player | null }) {
  const here = useTrim((state) => state.looked === one.at_us);
  return (
    <div className={`rounded border bg-card px-2.5 py-2 ${here ? "border-chalk" : "border-line"}`}>
      <Tip text="Hear it">
        <button
          type="button"
          className="flex w-full items-baseline gap-3 text-left hover:text-link"
          onClick={() => look(one, player)}
        >
          <span className="min-w-0 flex-1">
            <span className="text-dim">{one.before} </span>
            <span className="struck">{one.text || "…"}</span>
            <span className="text-dim"> {one.after}</span>
          </span>
          <span className="tabular text-dim">{clock(one.at_us)}</span>
        </button>
      </Tip>
      <div className="mt-0.5 flex items-center gap-2">
        <span className="min-w-0 flex-1 text-small text-dim">
          {one.kind === "fillers" ? "a filler" : one.reason}
        </span>
        <span className="tabular text-small text-dim">−{seconds(one.saves_us)}</span>
        <button
          type="button"
          className="rounded px-1.5 py-0.5 text-link hover:bg-tint"
          onClick={() => void takeOut([one])}
        >
          Take out
        </button>
      </div>
    </div>
  );
}
