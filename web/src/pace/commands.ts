/** What can be done to the picked captions, each one change that one undo takes back. */
import { MOST_CLOSED_US } from "../api/values";
import { holdTyping } from "../focus/held";
import { focusPage } from "../focus/page";
import type { Player } from "../playback/player";
import { edit } from "../state/commands";
import { pick, pickedCues, pickedIds } from "../state/picks";
import { select, wordAt } from "../state/session";
import { openPiece, useProject } from "../state/store";
import { visibleCues } from "../state/visible";
import { focusCue } from "../strip/focus";
import { say } from "../ui/notice";

const { getState: get } = useProject;
const pieceId = (): number | null => openPiece(get())?.id ?? null;

const NEW_TEXT = "New caption";

/** Put a caption at the playhead and begin to type in it. */
export function addCaption(player: Player | null): Promise<void> {
  return holdTyping(async () => {
    const piece_id = pieceId();
    if (piece_id === null) return;
    const before = new Set(get().cues.map((cue) => cue.id));
    const at_us = Math.round(player?.at ?? 0);
    if (!(await edit({ kind: "add_cue", piece_id, at_us, text: NEW_TEXT }))) return;
    const made = get().cues.find((cue) => !before.has(cue.id));
    if (!made) return;
    pick(made.id);
    await focusCue(made.id, 0, NEW_TEXT.length);
  });
}

/** Delete the picked captions; the one behind them is selected. */
export async function removePicked(): Promise<void> {
  const cue_ids = pickedIds();
  const first = cue_ids[0];
  if (first === undefined) return;
  const at = visibleCues().findIndex((cue) => cue.id === first);
  if (!(await edit({ kind: "delete_cues", cue_ids }))) return;
  const left = visibleCues();
  select((left[at] ?? left.at(-1))?.id ?? null);
  focusPage();
}

export function closeGaps(): void {
  const cue_ids = pickedIds();
  if (cue_ids.length) void edit({ kind: "close_gaps", cue_ids, most_us: MOST_CLOSED_US });
}

export function splitHere(player: Player | null): void {
  const piece_id = pieceId();
  if (piece_id !== null && player) {
    void edit({ kind: "split_at", piece_id, at_us: Math.round(player.at) });
  }
}

/** Join the picked captions; a single one with the next or the one before. */
export function join(to: "before" | "after"): void {
  const ids = pickedIds();
  const [first] = ids;
  if (first === undefined) return;
  void edit(
    ids.length > 1 ? { kind: "join_cues", cue_ids: ids } : { kind: "join_cue", cue_id: first, to },
  );
}

/** Give the first word to the caption before, or the last to the next. */
export function moveWord(which: "first" | "last"): void {
  const { selected } = get();
  if (selected !== null) void edit({ kind: "move_word", cue_id: selected, which });
}

/** Set an edge of the selected caption to the playhead. */
export function setEdge(edge: "start" | "end", player: Player | null): void {
  const { selected } = get();
  if (selected === null || !player) return;
  const at = Math.round(player.at);
  void edit({
    kind: "set_cue_times",
    cue_id: selected,
    ...(edge === "start" ? { start_us: at } : { end_us: at }),
    together: false,
    ripple: false,
  });
}

export function unpin(): void {
  const cue_ids = pickedCues()
    .filter((cue) => cue.start_pinned || cue.end_pinned)
    .map((cue) => cue.id);
  if (cue_ids.length) void edit({ kind: "unpin_cues", cue_ids });
  else say("None of these captions has a pinned time.");
}

/** Show the picked captions a frame earlier or later than now. */
export function moveFrames(frames: number): void {
  const cue_ids = pickedIds();
  const by_us = Math.round(frames * frameLength());
  if (cue_ids.length) void edit({ kind: "move_cues", cue_ids, by_us, ripple: false });
}

const RUN_IN_US = 400_000;
const RUN_OUT_US = 150_000;

/** Move the start of the word, and let it be heard at once. */
export async function nudgeWord(player: Player | null, byUs: number): Promise<void> {
  const found = wordAt(player?.at ?? 0);
  if (!found) return;
  const ids = { cue_id: found.cue.id, word_id: found.word.id };
  useProject.setState({ word: ids.word_id, selected: ids.cue_id });
  const taken = await edit({ kind: "move_word_edge", ...ids, edge: "start", by_us: byUs });
  const word = get()
    .cues.find((cue) => cue.id === ids.cue_id)
    ?.words.find((w) => w.id === ids.word_id);
  if (!taken || !word || !player || player.looping) return;
  player.playStretch(word.start_us - RUN_IN_US, word.end_us + RUN_OUT_US, false);
}

/** A frame of the recording in µs. */
export function frameLength(): number {
  return 1e6 / (openPiece(get())?.frame_rate || 30);
}
