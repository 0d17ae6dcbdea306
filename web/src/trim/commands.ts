/** What is done to the talk. */
import type { Player } from "../playback/player";
import { edit } from "../state/commands";
import { whenProjectEnds } from "../state/projectSession";
import { showPiece } from "../state/server";
import { openPiece, useProject } from "../state/store";
import { say } from "../ui/notice";
import { type Item, passagesOf, rangeOf, rowFrom, type Selection, wordFrom } from "./selection";
import { listed, type Removal, useTrim } from "./store";

const AROUND_US = 1_000_000;

/** The selected items, in their order. */
export function selected(): Item[] {
  const { items, selection } = useTrim.getState();
  const range = rangeOf(items, selection);
  return range ? items.slice(range[0], range[1] + 1) : [];
}

export function select(selection: Selection | null): void {
  useTrim.setState({ selection });
}

/** Strike what is selected; bring it back where all of it is struck. */
export async function strike(player: Player | null): Promise<void> {
  const piece = openPiece(useProject.getState());
  const chosen = selected();
  const passages = passagesOf(chosen);
  if (!piece || !chosen.length) {
    say("Select words first: drag over them, or hold Shift with the arrows.");
    return;
  }
  const [quiet] = chosen;
  if (!passages.length && quiet) return void (await toggleQuiet(quiet));
  // The playhead waits just before the cut: behind the last word that stays.
  const { items } = useTrim.getState();
  const before = items.slice(0, items.indexOf(chosen[0] as Item));
  const stays = before.findLast((item) => item.id && item.at_us !== null);
  player?.seek(stays ? (stays.at_us ?? 0) + stays.end_us - stays.start_us : 0);
  const { beforeUs: before_us, afterUs: after_us } = useTrim.getState();
  await edit({ kind: "toggle_words", piece_id: piece.id, passages, before_us, after_us });
}

/** Make a piece of what is selected; the one that is open stays open. */
export async function makePiece(): Promise<void> {
  const { project } = useProject.getState();
  const piece = openPiece(useProject.getState());
  const passages = passagesOf(selected());
  if (!piece || !project || !passages.length) {
    say("Select the words of the new piece first: drag over them, or hold Shift with the arrows.");
    return;
  }
  const known = new Set(project.pieces.map((one) => one.id));
  if (!(await edit({ kind: "new_piece", piece_id: piece.id, passages, name: "" }))) return;
  const made = useProject.getState().project?.pieces.find((one) => !known.has(one.id));
  if (!made) return;
  fresh = made.id;
  say(`Made the piece “${made.name}”. V goes to it.`);
}

/** The piece that was made last, as long as nobody has gone to it or elsewhere. */
let fresh: number | null = null;
whenProjectEnds(() => {
  fresh = null;
});

/** Open the next piece, or the one before. */
export function walkPieces(by: number): void {
  const { project } = useProject.getState();
  const piece = openPiece(useProject.getState());
  if (!project || !piece) return;
  const { pieces } = project;
  const at = pieces.findIndex((one) => one.id === piece.id);
  const made = by > 0 ? pieces.find((one) => one.id === fresh) : undefined;
  const next = made ?? pieces[(at + by + pieces.length) % pieces.length];
  fresh = null;
  if (next) void showPiece(next.id);
}

/** Take a quiet stretch out, or bring it back. */
export async function toggleQuiet(item: Item): Promise<void> {
  const piece = openPiece(useProject.getState());
  if (!piece) return;
  await edit({
    kind: "toggle_quiet",
    piece_id: piece.id,
    strand_id: item.strand,
    from_us: item.start_us,
    to_us: item.end_us,
    cut_from_us: item.cut_from_us,
    cut_to_us: item.cut_to_us,
  });
}

/** Go to the word so many words, or rows, on. */
export function walkTalk(player: Player | null, by: number, rows: boolean, extend: boolean): void {
  const { items, selection } = useTrim.getState();
  const here = selection?.focus ?? playing(items, player)?.key ?? null;
  const next = (rows ? rowFrom : wordFrom)(items, here, selection ? by : 0);
  if (!next) return;
  select({ anchor: extend && selection ? selection.anchor : next.key, focus: next.key });
  if (!extend && next.at_us !== null) player?.seek(next.at_us);
  document
    .querySelector(`[data-talk="${CSS.escape(next.key)}"]`)
    ?.scrollIntoView({ block: "nearest" });
}

/** The word that is said at the playhead. */
export function playing(items: readonly Item[], player: Player | null): Item | undefined {
  const at = player?.at ?? 0;
  return items.findLast((item) => item.id && item.at_us !== null && item.at_us <= at + 1_000);
}

/** Play over the place of the selection, or where the playhead is: a second on each side. */
export function playAcross(player: Player | null): void {
  const { items, selection } = useTrim.getState();
  const range = rangeOf(items, selection);
  if (!range) {
    playCut(player);
    return;
  }
  const from = items.slice(0, range[0] + 1).findLast((item) => item.at_us !== null);
  const at = from?.at_us ?? player?.at ?? 0;
  const to = items.slice(range[1]).find((item) => item.at_us !== null);
  player?.playStretch(at - AROUND_US, Math.max(at, to?.at_us ?? at) + AROUND_US, false);
}

/** Play from a second before the cut that the Loupe shows to a second after it. */
export function playCut(player: Player | null): void {
  const { cut } = useTrim.getState();
  if (cut) player?.playStretch(cut.atUs - AROUND_US, cut.atUs + AROUND_US, false);
}

/** Move an edge of the cut that the Loupe shows. */
export function nudgeCut(side: "end" | "start", byUs: number): void {
  const { cut } = useTrim.getState();
  const piece = openPiece(useProject.getState());
  const clip = side === "end" ? cut?.left : cut?.right;
  if (!piece || !clip) return;
  const to = Math.max(0, (side === "end" ? clip.end_us : clip.start_us) + Math.round(byUs));
  void edit({ kind: "move_cut", piece_id: piece.id, clip_id: clip.id, edge: side, to_us: to });
}

const keyOf = (one: Removal): number => one.at_us;

/** The suggestion that is looked at. */
export function looked(): Removal | undefined {
  const state = useTrim.getState();
  return listed(state).find((one) => keyOf(one) === state.looked);
}

/** Look at a suggestion and hear it, with what is around it. */
export function look(one: Removal, player: Player | null): void {
  const { items } = useTrim.getState();
  useTrim.setState({ looked: keyOf(one) });
  const inside = items.filter(
    (item) =>
      item.strand === one.strand_id &&
      item.start_us < one.to_us &&
      item.end_us > one.from_us &&
      (item.id ? one.text !== "" : one.text === ""),
  );
  const [first, last] = [inside[0], inside.at(-1)];
  if (first && last) select({ anchor: first.key, focus: last.key });
  player?.playStretch(one.at_us - AROUND_US, one.at_us + one.saves_us + AROUND_US, false);
}

/** Look at the suggestion behind the one looked at, or behind the playhead. */
export function lookNext(player: Player | null): void {
  const state = useTrim.getState();
  const all = listed(state);
  const here = all.findIndex((one) => keyOf(one) === state.looked);
  const at = (player?.at ?? 0) - 1;
  const ahead = state.order === "time" ? all.find((one) => keyOf(one) > at) : undefined;
  const next = (here < 0 ? ahead : all[here + 1]) ?? all[0];
  if (next) look(next, player);
}

/** Take suggestions out of the piece, as one edit. */
export async function takeOut(some: readonly Removal[]): Promise<boolean> {
  const piece = openPiece(useProject.getState());
  if (!piece || !some.length) return false;
  const kinds = new Set(some.map((one) => one.kind));
  const [only] = kinds;
  return edit({
    kind: "cut_stretches",
    piece_id: piece.id,
    stretches: some.map(({ strand_id, from_us, to_us }) => ({ strand_id, from_us, to_us })),
    found: kinds.size === 1 && only ? only : "suggestions",
  });
}

/** Take the suggestion that is looked at and go on to the next. */
export async function takeLooked(player: Player | null): Promise<void> {
  const one = looked();
  if (!one) return lookNext(player);
  const at = one.at_us;
  if (!(await takeOut([one]))) return;
  useTrim.setState({ looked: null, selection: null });
  player?.seek(Math.max(0, at - 1));
}
