/** What the rules find in the captions: asked again a moment after anything changed. */
import { api, type Check, take } from "../api/client";
import { edit } from "./commands";
import { openPiece, useProject } from "./store";

const SOONEST_MS = 250;
const LATEST_MS = 1_500;
/** Long pieces take the server longer to check: it waits for a pause in the work. */
const EACH_MS = 0.4;

/** Keep the findings up to date until the returned function is called. */
export function watchChecks(): () => void {
  let timer = 0;
  let asked = 0;
  const ask = async () => {
    const piece = openPiece(useProject.getState());
    if (!piece) return;
    asked += 1;
    const mine = asked;
    const found = await take(
      api.GET("/api/pieces/{piece_id}/checks", { params: { path: { piece_id: piece.id } } }),
    ).catch(() => null);
    if (found && mine === asked) useProject.setState({ checks: found });
  };
  const stop = useProject.subscribe((now, before) => {
    if (now.sceneVersion === before.sceneVersion) return;
    window.clearTimeout(timer);
    const wait = Math.min(LATEST_MS, Math.max(SOONEST_MS, now.cues.length * EACH_MS));
    timer = window.setTimeout(() => void ask(), wait);
  });
  void ask();
  return () => {
    stop();
    window.clearTimeout(timer);
    asked += 1;
  };
}

/** Apply the remedies of some findings, as one change. */
export function fix(checks: Check[]): void {
  const piece = openPiece(useProject.getState());
  const safe = checks.filter((check) => check.fix);
  if (!piece || !safe.length) return;
  void edit({
    kind: "fix_checks",
    piece_id: piece.id,
    findings: safe.map(({ kind, cue_id, word_ids }) => ({ kind, cue_id, word_ids })),
  });
}

/** Speech that no caption shows is meant to have none: it is not pointed out again. */
export function leaveOut(check: Check): void {
  const piece = openPiece(useProject.getState());
  if (piece) void edit({ kind: "leave_out", piece_id: piece.id, word_ids: check.word_ids });
}
