/** Move captions and their words in time: by an amount, or stretched between two anchors. */
import { useState } from "react";
import type { Cue } from "../api/client";
import type { Player } from "../playback/player";
import { edit } from "../state/commands";
import { pickedCues, pickedIds } from "../state/picks";
import { useProject } from "../state/store";
import { textOf } from "../strip/passage";
import { Button } from "../ui/Button";
import { FIELD } from "../ui/fields";
import { clock } from "../ui/format";
import { Segments } from "../ui/Segments";
import { Select } from "../ui/Select";
import { TraySection } from "../ui/TraySection";

type Scope = "picked" | "onward" | "all";

export function ShiftSection({ player }: { player: Player | null }) {
  return (
    <>
      <Shift />
      <Stretch player={player} />
    </>
  );
}

function Shift() {
  const [by, setBy] = useState("+0.2");
  const [scope, setScope] = useState<Scope>("onward");
  useProject((state) => state.picked);
  const picked = pickedCues();
  const [first] = picked;
  const send = () => {
    const { cues } = useProject.getState();
    const ids = scope === "all" ? cues.map((cue) => cue.id) : pickedIds();
    void edit({ kind: "shift_cues", cue_ids: ids, by, onward: scope === "onward" });
  };
  const many = picked.length === 1 ? "this caption" : `these ${picked.length} captions`;
  return (
    <TraySection
      title="Shift"
      about="Words and captions together, for sound and text that are out of step."
    >
      <label className="flex items-center gap-2">
        <span className="w-14">By</span>
        <input
          dir="auto"
          className={`tabular ${FIELD}`}
          aria-label="Shift by"
          value={by}
          onChange={(event) => setBy(event.target.value)}
          onKeyDown={(event) => event.key === "Enter" && send()}
        />
        <span className="whitespace-nowrap text-dim">s, or frames: -3f</span>
      </label>
      <div className="flex items-center gap-2">
        <span className="w-14">What</span>
        <Select
          label="What to shift"
          options={[
            { value: "onward", text: "from the selected caption on" },
            { value: "picked", text: first ? many : "the selected captions" },
            { value: "all", text: "whole piece" },
          ]}
          chosen={scope}
          onChoose={(value) => setScope(value as Scope)}
        />
      </div>
      <Button disabled={!first && scope !== "all"} onClick={send}>
        Shift
      </Button>
      {!first && scope !== "all" && <p className="text-dim">Select a caption first.</p>}
    </TraySection>
  );
}

const OUTSIDE = [
  { value: "move", text: "moves along" },
  { value: "stay", text: "stays" },
] as const;

interface Anchor {
  cueId: number;
  starts: string;
}

function Stretch({ player }: { player: Player | null }) {
  const [anchors, setAnchors] = useState<[Anchor | null, Anchor | null]>([null, null]);
  const cues = useProject((state) => state.cues);
  const selected = useProject((state) => state.selected);
  const set = (index: 0 | 1, anchor: Anchor | null) =>
    setAnchors(([a, b]) => (index === 0 ? [anchor, b] : [a, anchor]));
  const [first, second] = anchors;
  const [outside, setOutside] = useState<"move" | "stay">("move");
  const anchor = ({ cueId, starts }: Anchor) => ({ cue_id: cueId, starts });
  return (
    <TraySection
      title="Stretch"
      about="For files that drift. Say of two captions when they should start; those between follow."
    >
      {([0, 1] as const).map((index) => (
        <AnchorField
          key={index}
          name={index === 0 ? "Early caption" : "Late caption"}
          anchor={anchors[index]}
          cue={cues.find((cue) => cue.id === anchors[index]?.cueId)}
          onTake={() => {
            const cue = cues.find((c) => c.id === selected);
            const first_us = cue?.words[0]?.start_us ?? 0;
            if (cue) set(index, { cueId: cue.id, starts: clock(first_us, true) });
          }}
          onTime={(starts) => {
            const now = anchors[index];
            if (now) set(index, { ...now, starts });
          }}
          onHere={() => {
            const now = anchors[index];
            if (now && player) set(index, { ...now, starts: clock(player.at, true) });
          }}
        />
      ))}
      <div className="flex items-center gap-2">
        <span className="flex-1">What lies outside</span>
        <Segments
          label="What lies outside"
          choices={OUTSIDE}
          chosen={outside}
          onChoose={setOutside}
        />
      </div>
      <Button
        disabled={!first || !second}
        onClick={() => {
          if (!first || !second) return;
          void edit({
            kind: "stretch_cues",
            first: anchor(first),
            second: anchor(second),
            outside,
          }).then((taken) => taken && setAnchors([null, null]));
        }}
      >
        Stretch between them
      </Button>
    </TraySection>
  );
}

function AnchorField(props: {
  name: string;
  anchor: Anchor | null;
  cue: Cue | undefined;
  onTake: () => void;
  onTime: (starts: string) => void;
  onHere: () => void;
}) {
  const { name, anchor, cue, onTake, onTime, onHere } = props;
  if (!anchor || !cue) {
    return (
      <div className="flex items-center gap-2">
        <span className="flex-1">{name}</span>
        <Button onClick={onTake}>Use the selected one</Button>
      </div>
    );
  }
  return (
    <div className="rounded border border-line bg-card p-2.5">
      <p className="truncate">{textOf(cue)}</p>
      <div className="mt-1.5 flex items-center gap-2">
        <span className="text-dim">starts at</span>
        <input
          className="tabular h-7 w-[92px] rounded border border-line bg-card px-2"
          aria-label={`${name} starts at`}
          value={anchor.starts}
          onChange={(event) => onTime(event.target.value)}
        />
        <button type="button" className="text-link hover:underline" onClick={onHere}>
          playhead
        </button>
      </div>
    </div>
  );
}
