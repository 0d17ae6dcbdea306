/**
 * Drafts of the open project: kept by caption from the first letter, in the browser's own storage
 * too, so that they outlive a reload, a closed tab and another window's edits. A draft is sent
 * after a rest and when its caption is left, and goes when the transcript reads the same.
 */
import type { Cue, Edit } from "../api/client";
import { edit } from "../state/commands";
import { projectStore } from "../state/projectSession";
import { openPiece, useProject } from "../state/store";
import { type Draft, fateOf, textOf, tidy } from "./draft";

export const REST_MS = 2_000;

interface State {
  projectId: number | null;
  drafts: ReadonlyMap<number, Draft>;
}

export const useDrafts = projectStore<State>(() => ({ projectId: null, drafts: new Map() }));
const { getState: get, setState: set } = useDrafts;

const timers = new Map<number, number>();
const sending = new Map<number, Promise<boolean>>();
/** Captions whose text is being typed in now: nobody else settles their drafts. */
const open = new Set<number>();

const keyOf = (projectId: number, cueId: number) => `mortiser.draft.${projectId}.${cueId}`;

export const draftOf = (cueId: number): Draft | undefined => get().drafts.get(cueId);

/** Take up what was left of a project's drafts; the returned function lets go of them. */
export function openDrafts(projectId: number): () => void {
  const kept = Object.keys(localStorage)
    .filter((key) => key.startsWith(keyOf(projectId, 0).slice(0, -1)))
    .flatMap((key) => parsed(localStorage.getItem(key)));
  set({ projectId, drafts: new Map(kept.map((draft) => [draft.cueId, draft])) });
  void settleDrafts();
  const stop = useProject.subscribe((now, before) => {
    if (now.cues !== before.cues) void settleDrafts();
  });
  return () => {
    stop();
    for (const timer of timers.values()) window.clearTimeout(timer);
    timers.clear();
    sending.clear();
    open.clear();
    set({ projectId: null, drafts: new Map() });
  };
}

function parsed(text: string | null): Draft[] {
  try {
    const draft: Draft = JSON.parse(text ?? "");
    return typeof draft.text === "string" && Array.isArray(draft.wordIds) ? [draft] : [];
  } catch {
    return [];
  }
}

function put(draft: Draft): void {
  const { projectId, drafts } = get();
  if (projectId === null) return;
  localStorage.setItem(keyOf(projectId, draft.cueId), JSON.stringify(draft));
  set({ drafts: new Map(drafts).set(draft.cueId, draft) });
}

/** Forget a draft: it was taken, or is not wanted. */
export function dropDraft(cueId: number): void {
  const { projectId, drafts } = get();
  window.clearTimeout(timers.get(cueId));
  timers.delete(cueId);
  if (projectId !== null) localStorage.removeItem(keyOf(projectId, cueId));
  if (!drafts.has(cueId)) return;
  const left = new Map(drafts);
  left.delete(cueId);
  set({ drafts: left });
}

/** Words that come later have higher numbers. */
function lastWordId(): number {
  let last = 0;
  for (const cue of useProject.getState().cues) {
    for (const word of cue.words) last = Math.max(last, word.id);
  }
  return last;
}

/** Note what a caption reads as somebody types; `resting` says whether a rest may send it. */
export function typeDraft(cue: Cue, text: string, resting = true): void {
  const old = draftOf(cue.id);
  const stored = textOf(cue);
  if (tidy(text) === stored && (!old || old.base === stored)) {
    dropDraft(cue.id);
    return;
  }
  const base = old ?? {
    cueId: cue.id,
    base: stored,
    wordIds: cue.words.map((word) => word.id),
    lastWordId: lastWordId(),
    startUs: cue.words[0]?.start_us ?? cue.start_us,
  };
  put({ ...base, text, held: false });
  window.clearTimeout(timers.get(cue.id));
  if (!resting) return;
  timers.set(
    cue.id,
    window.setTimeout(() => void sendDraft(cue.id, false), REST_MS),
  );
}

/** The caption is being typed in, or not any more. */
export function openDraft(cueId: number): void {
  open.add(cueId);
  const draft = draftOf(cueId);
  if (draft?.held) put({ ...draft, held: false });
}

export function closeDraft(cueId: number): void {
  open.delete(cueId);
}

/** Keep a draft as it is until it is taken or dropped by hand. */
export function holdDraft(cueId: number): void {
  const draft = draftOf(cueId);
  window.clearTimeout(timers.get(cueId));
  if (draft) put({ ...draft, held: true });
}

/**
 * Put a draft into the transcript. Emptied captions go when they are left, not in a rest. Resolves
 * to whether nothing is left to be settled.
 */
export function sendDraft(cueId: number, leaving: boolean): Promise<boolean> {
  window.clearTimeout(timers.get(cueId));
  const before = sending.get(cueId) ?? Promise.resolve(true);
  // One after the other, so that nothing is sent twice.
  const next = before.then(() => send(cueId, leaving));
  sending.set(cueId, next);
  return next;
}

async function send(cueId: number, leaving: boolean): Promise<boolean> {
  const draft = draftOf(cueId);
  if (!draft) return true;
  const { cues } = useProject.getState();
  const fate = fateOf(draft, cues);
  if (fate.kind === "same") {
    dropDraft(cueId);
    return true;
  }
  const text = tidy(draft.text);
  if (fate.kind === "conflict" || fate.kind === "gone") return false;
  if (!text && !leaving) return true;
  const command: Edit =
    fate.kind === "retype" && text
      ? { kind: "retype_cue", cue_id: fate.cueId, text }
      : {
          kind: "retype_run",
          ...(fate.kind === "run"
            ? {
                from_cue: fate.fromCue,
                from_letter: fate.fromLetter,
                to_cue: fate.toCue,
                to_letter: fate.toLetter,
              }
            : {
                from_cue: fate.cueId,
                from_letter: 0,
                to_cue: fate.cueId,
                to_letter: draft.base.length,
              }),
          text,
          cue_ids: null,
          doing: text ? "type" : "delete",
        };
  const taken = await edit(command);
  settleSent(cueId, text, taken);
  return taken;
}

/** What was typed while a draft was on its way stays one, over what is stored now. */
function settleSent(cueId: number, sent: string, taken: boolean): void {
  const now = draftOf(cueId);
  if (!now) return;
  if (!taken) {
    // It is not tried again by itself: the message says why, and the text stays.
    if (!open.has(cueId)) put({ ...now, held: true });
    return;
  }
  const cue = useProject.getState().cues.find((one) => one.id === cueId);
  if (tidy(now.text) === sent || !cue) dropDraft(cueId);
  else {
    const wordIds = cue.words.map((word) => word.id);
    put({ ...now, base: sent, wordIds, lastWordId: lastWordId() });
  }
}

/** Drafts that nobody types in are sent, or go where they read as the transcript does. */
async function settleDrafts(): Promise<void> {
  const { cues, project } = useProject.getState();
  if (!project) return;
  for (const draft of [...get().drafts.values()]) {
    if (open.has(draft.cueId) || timers.has(draft.cueId)) continue;
    const same = fateOf(draft, cues).kind === "same";
    if (same) dropDraft(draft.cueId);
    else if (!draft.held) await sendDraft(draft.cueId, true);
  }
}

/** Drafts that need a decision: their captions were changed or deleted elsewhere. */
export function unsettled(drafts: ReadonlyMap<number, Draft>, cues: readonly Cue[]) {
  return [...drafts.values()].flatMap((draft) => {
    const fate = fateOf(draft, cues);
    return fate.kind === "conflict" || fate.kind === "gone" ? [{ draft, fate }] : [];
  });
}

/** A caption of its own again, behind the one that stands before its place. */
function putBack(piece_id: number, cues: readonly Cue[], startUs: number, text: string): Edit {
  const before = cues.findLast((cue) => (cue.words[0]?.start_us ?? 0) < startUs);
  const beside = before ?? cues[0];
  if (!beside) return { kind: "add_cue", piece_id, at_us: startUs, text };
  const letter = before ? textOf(before).length : 0;
  const place = { from_cue: beside.id, from_letter: letter, to_cue: beside.id, to_letter: letter };
  const line = before ? `\n${text}` : `${text}\n`;
  return { kind: "retype_run", ...place, text: line, cue_ids: null, doing: "paste" };
}

/** Settle a draft the way that was chosen: what was typed goes in, or what is there stays. */
export async function decide(draft: Draft, mine: boolean): Promise<void> {
  if (!mine) return dropDraft(draft.cueId);
  const { cues } = useProject.getState();
  const piece = openPiece(useProject.getState());
  const fate = fateOf(draft, cues);
  const text = tidy(draft.text);
  let taken = true;
  if (fate.kind === "conflict") {
    taken = await edit({ kind: "retype_cue", cue_id: fate.cueId, text });
  } else if (fate.kind === "gone" && piece && text) {
    taken = await edit(putBack(piece.id, cues, draft.startUs, text));
  } else if (fate.kind !== "gone") taken = await sendDraft(draft.cueId, true);
  if (taken) dropDraft(draft.cueId);
}
