/** The rules that caption times are worked out by. */
import type { Piece } from "../api/client";
import { edit } from "../state/commands";
import { useProject } from "../state/store";
import { Button } from "../ui/Button";
import { Check } from "../ui/Check";
import { TraySection } from "../ui/TraySection";
import { PaceField, setPace } from "./PaceField";

export function TimingSection({ piece }: { piece: Piece }) {
  const cues = useProject((state) => state.cues);
  const kind = useProject((state) => state.project?.sources[0]?.kind);
  const pinned = cues.filter((cue) => cue.start_pinned || cue.end_pinned).map((cue) => cue.id);
  return (
    <>
      <TraySection
        title="Timing"
        about="Whole piece, worked out from the words. Pinned times are never moved."
      >
        <PaceField
          piece={piece}
          name="lead_us"
          per={1_000}
          label="Lead-in"
          unit="ms"
          hint="How long a caption comes before its first word."
        />
        <PaceField
          piece={piece}
          name="linger_us"
          per={1_000}
          label="Linger"
          unit="ms"
          hint="How long a caption stays after its last word."
        />
        <PaceField
          piece={piece}
          name="shortest_us"
          per={1e6}
          label="Shortest"
          unit="s"
          hint="Shorter captions stay this long where the next one leaves room."
        />
        <PaceField piece={piece} name="longest_us" per={1e6} label="Longest" unit="s" />
        <PaceField
          piece={piece}
          name="close_us"
          per={1_000}
          label="Close gaps under"
          unit="ms"
          hint="Shorter gaps would flicker."
        />
        <PaceField
          piece={piece}
          name="gap_frames"
          label="What is left of them"
          unit="frames"
          hint="0 hands over without a gap; 2 is usual in caption files."
        />
        <div className="flex items-center gap-2">
          <Check
            className="flex-1"
            label="Snap to frames"
            checked={piece.pace.snap}
            onChange={(snap) => setPace(piece, { snap })}
          />
          <span className="text-dim">
            {piece.frame_rate
              ? `${Number(piece.frame_rate.toFixed(3))} a second`
              : kind === "audio"
                ? "no picture"
                : "rate varies"}
          </span>
        </div>
      </TraySection>
      <TraySection title="Pinned">
        {pinned.length ? (
          <>
            <p>
              {pinned.length} caption{pinned.length > 1 ? "s have" : " has"} a time set by hand.
            </p>
            <Button onClick={() => void edit({ kind: "unpin_cues", cue_ids: pinned })}>
              Let {pinned.length > 1 ? "them" : "it"} follow the words
            </Button>
          </>
        ) : (
          <p className="text-dim">
            All times follow the words. Drag an edge or type a time to pin one.
          </p>
        )}
      </TraySection>
    </>
  );
}
