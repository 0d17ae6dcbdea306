/** Which captions are hard to read on their picture: gone over window by window while work rests. */
import { api, type Faint, take } from "../api/client";
import { edit } from "./commands";
import { projectStore } from "./projectSession";
import { openPiece, shapeOf, useProject } from "./store";

export type Way = Faint["remedies"][number]["way"];

const WINDOW_US = 6_000_000;
const REST_MS = 700;

interface State {
  pieceId: number | null;
  faint: Faint[];
  /** Whether all captions have been gone over as they are now. */
  known: boolean;
}

export const useLegibility = projectStore<State>(() => ({
  pieceId: null,
  faint: [],
  known: false,
}));

let stopForgetting = (): void => undefined;

/** Keep the findings up to date until the returned function is called. */
export function watchLegibility(pieceId: number): () => void {
  if (useLegibility.getState().pieceId !== pieceId) {
    useLegibility.setState({ pieceId, faint: [], known: false });
  }
  stopForgetting();
  let round = 0;
  let timer = 0;
  const again = (after: number) => {
    round += 1;
    const mine = round;
    window.clearTimeout(timer);
    timer = window.setTimeout(() => void goOver(pieceId, () => mine === round), after);
  };
  const stop = useProject.subscribe((now, before) => {
    const looked = lookedOver(now.project?.jobs) !== lookedOver(before.project?.jobs);
    if (now.sceneVersion === before.sceneVersion && !looked) return;
    useLegibility.setState({ known: false });
    again(REST_MS);
  });
  again(0);
  return () => {
    stop();
    window.clearTimeout(timer);
    round += 1;
    // What was found stands only until something changes, since nobody looks any more.
    if (!useLegibility.getState().known) forget();
    const unwatched = useProject.subscribe((now, before) => {
      if (now.sceneVersion === before.sceneVersion) return;
      unwatched();
      forget();
    });
    stopForgetting = unwatched;
  };
}

function forget(): void {
  useLegibility.setState({ faint: [], known: false });
}

/** Change captions in a way that makes them readable, as one change. */
export function help(faint: readonly Faint[], way: Way): void {
  const looks = faint.flatMap((one) => {
    const remedy = one.remedies.find((each) => each.way === way);
    return remedy ? [{ cue_id: one.cue_id, changes: remedy.changes }] : [];
  });
  if (looks.length) void edit({ kind: "dress_each", looks });
}

/** How the newest looking over of the recording stands. */
export function lookedOver(jobs: readonly { kind: string; status: string }[] = []): string {
  return jobs.findLast((job) => job.kind === "thumbnails")?.status ?? "";
}

/** The shape that is looked at, as requests name it. */
function lookedAt(): { shape_id?: number } {
  const state = useProject.getState();
  const piece = openPiece(state);
  return piece ? { shape_id: shapeOf(piece, state.shapeId).id } : {};
}

/** Have the recording looked over; what comes of it arrives with the next pulse. */
export function lookOver(pieceId: number): void {
  void api.POST("/api/pieces/{piece_id}/thumbnails", { params: { path: { piece_id: pieceId } } });
}

async function goOver(pieceId: number, current: () => boolean): Promise<void> {
  const { cues, project, selected } = useProject.getState();
  const first = Math.max(
    0,
    cues.findIndex((cue) => cue.id === selected),
  );
  const done = new Set<number>();
  // From where the work is on, then what is before.
  for (const cue of [...cues.slice(first), ...cues.slice(0, first)]) {
    if (done.has(cue.id)) continue;
    const start = cue.start_us;
    const end = start + WINDOW_US;
    const asked = performance.now();
    const answer = await take(
      api.GET("/api/pieces/{piece_id}/legibility", {
        params: {
          path: { piece_id: pieceId },
          query: { from_us: start, to_us: end, ...lookedAt() },
        },
      }),
    ).catch(() => null);
    if (!current() || !answer) return;
    if (!answer.seen) {
      if (lookedOver(project?.jobs) === "") lookOver(pieceId);
      return;
    }
    const here = new Set(
      cues.flatMap(({ id, start_us }) => (start_us >= start && start_us < end ? [id] : [])),
    );
    for (const id of here) done.add(id);
    useLegibility.setState(({ faint }) => ({
      faint: [...faint.filter((one) => !here.has(one.cue_id)), ...answer.faint].sort(
        (a, b) => a.at_us - b.at_us,
      ),
    }));
    // Half of the server's time is left to whoever works on.
    await new Promise((rest) => setTimeout(rest, performance.now() - asked));
    if (!current()) return;
  }
  const there = new Set(cues.map((cue) => cue.id));
  useLegibility.setState(({ faint }) => ({
    known: true,
    faint: faint.filter((one) => there.has(one.cue_id)),
  }));
}
