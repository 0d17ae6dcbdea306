/** The seven stages, and what each still finds to do. */
import { create } from "zustand";
import type { Check, Cue, Project } from "../api/client";
import { shapeName } from "../frame/shapes";
import { allDoubts } from "../state/doubts";
import { jobOf } from "../state/jobs";
import { openPiece, shapeOf, useProject } from "../state/store";
import { length } from "../ui/format";

export const STAGES = ["Gather", "Proof", "Trim", "Pace", "Dress", "Frame", "Deliver"] as const;
export type Stage = (typeof STAGES)[number];

export const PROOF_TABS = ["Doubts", "Find", "Glossary", "Speakers"] as const;
export type ProofTab = (typeof PROOF_TABS)[number];

export const PACE_TABS = ["Grouping", "Timing", "Shift", "Checks"] as const;
export type PaceTab = (typeof PACE_TABS)[number];

export const DRESS_TABS = ["Finish", "Letters", "Colours", "Motion", "Accents", "Legible"] as const;
export type DressTab = (typeof DRESS_TABS)[number];

export const FRAME_TABS = ["Picture", "Look", "Cuts", "Layers", "In the way", "Jigs"] as const;
export type FrameTab = (typeof FRAME_TABS)[number];

export const DELIVER_TABS = ["Files", "Deliveries", "Post"] as const;
export type DeliverTab = (typeof DELIVER_TABS)[number];

interface State {
  stage: Stage;
  proofTab: ProofTab;
  paceTab: PaceTab;
  dressTab: DressTab;
  frameTab: FrameTab;
  deliverTab: DeliverTab;
  /** Whether the Tray is shown where the window is narrow. */
  trayOpen: boolean;
}

export const useStage = create<State>(() => ({
  stage: "Proof",
  proofTab: "Doubts",
  paceTab: "Grouping",
  dressTab: "Finish",
  frameTab: "Picture",
  deliverTab: "Files",
  trayOpen: false,
}));

export function showProofTab(proofTab: ProofTab): void {
  useStage.setState({ proofTab });
}

export function goTo(stage: Stage): void {
  useStage.setState({ stage });
}

/** Before the second listening is over, nobody knows that there are no doubts. */
function doubtless(project: Project, cues: Cue[]): string {
  if (!cues.length) return "no words yet";
  const second = jobOf(project, "doubt");
  return second?.status === "running" || second?.status === "queued" ? "checking" : "no doubts";
}

/** A few words on the state of a stage; `wrong` when there is something to look at, `short` how much. */
export function stageNote(
  stage: Stage,
  project: Project,
  cues: Cue[],
  checks: Check[] | null,
  faint: number,
): { text: string; short?: string; wrong?: boolean } {
  const piece = openPiece(useProject.getState());
  switch (stage) {
    case "Gather": {
      const hearing = jobOf(project, "transcribe");
      if (hearing?.status === "running")
        return { text: `listening ${Math.round(hearing.progress * 100)} %` };
      if (hearing?.status === "queued") return { text: "waiting" };
      if (hearing?.status === "failed") return { text: "not transcribed", short: "!", wrong: true };
      return {
        text: `${project.sources.length} recording${project.sources.length > 1 ? "s" : ""}`,
      };
    }
    case "Proof": {
      const doubts = allDoubts(cues).length;
      return doubts
        ? {
            text: `${doubts} doubt${doubts > 1 ? "s" : ""}${doubts > 9 ? "" : " left"}`,
            short: String(doubts),
            wrong: true,
          }
        : { text: doubtless(project, cues) };
    }
    case "Trim": {
      if (!piece) return { text: "" };
      if (piece.over_us > 0) {
        const over = length(piece.over_us);
        return { text: `${over} over`, short: over, wrong: true };
      }
      return {
        text:
          piece.whole_us - piece.duration_us > 50_000
            ? `${length(piece.whole_us)} → ${length(piece.duration_us)}`
            : length(piece.duration_us),
      };
    }
    case "Pace":
      return checks?.length
        ? { text: `${checks.length} to look at`, short: String(checks.length), wrong: true }
        : { text: `${cues.length} captions` };
    case "Dress":
      return faint
        ? { text: `${faint} too faint`, short: String(faint), wrong: true }
        : { text: piece?.finish.name ?? "" };
    case "Frame":
      if (!piece) return { text: "" };
      return piece.shapes.length > 1
        ? { text: `${piece.shapes.length} shapes` }
        : { text: shapeName(shapeOf(piece, null)) };
    case "Deliver": {
      const newest = project.deliveries[0];
      if (!newest) return { text: "nothing yet" };
      if (newest.status === "running") return { text: `${Math.round(doneOf(newest) * 100)} %` };
      if (newest.status === "failed") return { text: "failed", short: "!", wrong: true };
      if (newest.status !== "done") return { text: newest.status };
      return newest.revision === project.revision
        ? { text: "up to date" }
        : { text: "changed since" };
    }
  }
}

/** How much of a delivery is made: by frames, or by files where none has any. */
function doneOf(delivery: Project["deliveries"][number]): number {
  const weights = delivery.files.map((one) => one.frames || 1);
  const done = delivery.files.reduce((sum, one, at) => sum + one.progress * (weights[at] ?? 1), 0);
  return done / weights.reduce((sum, one) => sum + one, 0);
}
