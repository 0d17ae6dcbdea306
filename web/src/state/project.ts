/** The open project as the server last told it. Edits go out one after another. */
import { create } from "zustand";
import {
  api,
  type Check,
  type Cue,
  type Edit,
  type EditAnswer,
  type GlossaryApplied,
  type Job,
  Problem,
  type Project,
  type Pulse,
  take,
  takeAs,
  type Word,
} from "../api/client";
import { lastBy } from "../playback/player";
import { say, sayWrong } from "../ui/notice";

interface State {
  project: Project | null;
  problem: string | null;
  cues: Cue[];
  /** Grows whenever what is painted may have changed. */
  sceneVersion: number;
  heard: number;
  /** Whether the server has no room on its disk. */
  diskFull: boolean;
  selected: number | null;
  /** All captions that commands work on; the selected one is among them. */
  picked: ReadonlySet<number>;
  /** Where a range of picked captions began. */
  anchor: number | null;
  /** The caption whose text is typed in, at time scale. */
  typing: number | null;
  /** The word whose start keys move. */
  word: number | null;
  /** What the rules found, newest first known; null until they have been asked. */
  checks: Check[] | null;
  /** The doubtful word being looked at. */
  doubt: number | null;
  /** Words that the text being looked for touches. */
  found: ReadonlySet<number>;
  /** The one speaker whose captions the Strip shows. */
  onlySpeaker: string | null;
}

/** What is known of a project before one is open. */
const NOTHING: Omit<State, "sceneVersion"> = {
  project: null,
  problem: null,
  cues: [],
  heard: 0,
  diskFull: false,
  selected: null,
  picked: new Set(),
  anchor: null,
  typing: null,
  word: null,
  checks: null,
  doubt: null,
  found: new Set(),
  onlySpeaker: null,
};

export const useProject = create<State>(() => ({ ...NOTHING, sceneVersion: 0 }));

const { getState: get, setState: set } = useProject;
let queue: Promise<unknown> = Promise.resolve();

/** Load the whole project, newest state. */
export async function load(projectId: number): Promise<void> {
  try {
    const project = await takeAs<Project>(
      api.GET("/api/projects/{project_id}", { params: { path: { project_id: projectId } } }),
    );
    set((state) => ({
      project,
      problem: null,
      cues: project.cues,
      sceneVersion: state.sceneVersion + 1,
    }));
  } catch (error) {
    set({ problem: error instanceof Problem ? error.message : String(error) });
  }
}

export function close(): void {
  set(NOTHING);
}

/** Captions that the newest answer changed. */
let touched: number[] = [];

/** Make an edit. Resolves to whether it was taken; a refusal is said to the user. */
export async function edit(command: Edit): Promise<boolean> {
  const before = get().project?.revision;
  const taken = await send(command);
  if (taken && TYPED.has(command.kind) && get().project?.revision === (before ?? 0) + 1) {
    alignTyped();
  }
  return taken;
}

const TYPED = new Set([
  "retype_cue",
  "replace_word",
  "retype_run",
  "replace_text",
  "refuse_glossary",
]);
const MOST_ALIGNED = 12;

/** Typed words are put on their sound right after, softly: nothing waits for it. */
function alignTyped(): void {
  const waiting = get().cues.filter(
    (cue) => touched.includes(cue.id) && cue.words.some((word) => !word.aligned),
  );
  for (const cue of waiting.slice(0, MOST_ALIGNED)) {
    void inOrder(
      (project) =>
        takeAs<EditAnswer>(
          api.POST("/api/projects/{project_id}/cues/{cue_id}/align", {
            params: { path: { project_id: project.id, cue_id: cue.id } },
            body: { base_revision: project.revision },
          }),
        ),
      true,
    );
  }
}

/** Write the captions that are there as the glossary says; says how many places it changed. */
export async function applyGlossary(): Promise<void> {
  let changes = 0;
  await inOrder(async (project) => {
    const found = await takeAs<GlossaryApplied>(
      api.POST("/api/projects/{project_id}/glossary", {
        params: { path: { project_id: project.id } },
        body: { base_revision: project.revision },
      }),
    );
    changes = found.changes;
    return found.answer;
  });
  if (changes) say(`The glossary changed ${changes} ${changes === 1 ? "place" : "places"} here.`);
}

function send(command: Edit, goesOn = false): Promise<boolean> {
  return inOrder(
    (project) =>
      takeAs<EditAnswer>(
        api.POST("/api/projects/{project_id}/edits", {
          params: { path: { project_id: project.id } },
          body: { base_revision: project.revision, edit: command, goes_on: goesOn },
        }),
      ),
    false,
    sameCaptions(command),
  );
}

interface Dragging {
  begun: boolean;
  waiting: Edit | null;
  sent: Promise<void> | null;
}

let dragging: Dragging | null = null;

/**
 * Make an edit while something is dragged. The newest goes out as soon as the one before is
 * answered, those between are left out, and one undo takes the whole dragging back.
 */
export function drag(command: Edit): void {
  dragging ??= { begun: false, waiting: null, sent: null };
  dragging.waiting = command;
  dragging.sent ??= sendWaiting(dragging);
}

async function sendWaiting(mine: Dragging): Promise<void> {
  while (mine.waiting) {
    const next: Edit = mine.waiting;
    mine.waiting = null;
    if (await send(next, mine.begun)) mine.begun = true;
  }
  mine.sent = null;
}

/** What was dragged is let go: the next change is one of its own. Resolves when all is sent. */
export async function drop(): Promise<void> {
  const mine = dragging;
  dragging = null;
  await mine?.sent;
}

export function step(direction: "undo" | "redo"): Promise<boolean> {
  return inOrder((project) =>
    takeAs<EditAnswer>(
      api.POST(`/api/projects/{project_id}/${direction}`, {
        params: { path: { project_id: project.id } },
        body: { base_revision: project.revision },
      }),
    ),
  );
}

type Work = (project: Project) => Promise<EditAnswer | null>;

/**
 * Work on the project in turn. When it was changed elsewhere in the meantime (a job ended, another
 * window) the newest state is loaded, and the work done on it if what it is about is still the same.
 */
function inOrder(work: Work, quiet = false, unchanged?: () => boolean): Promise<boolean> {
  const attempt = async (again: boolean): Promise<boolean> => {
    const { project } = get();
    if (!project) return false;
    try {
      const answer = await work(project);
      if (answer) merge(answer);
      return true;
    } catch (error) {
      if (error instanceof Problem && error.code === "stale") {
        await load(project.id);
        if (again && unchanged?.()) return attempt(false);
      }
      if (!quiet) sayWrong(error);
      return false;
    }
  };
  const next = queue.then(() => attempt(true));
  queue = next;
  return next;
}

/** Whether the captions an edit names still read as they do now. */
function sameCaptions(command: Edit): () => boolean {
  const ids = Object.entries(command).flatMap(([key, value]) =>
    ["cue_id", "from_cue", "to_cue"].includes(key) ? [value as number] : [],
  );
  const look = () =>
    ids.map((id) =>
      get()
        .cues.find((cue) => cue.id === id)
        ?.words.map(wordText),
    );
  const before = JSON.stringify(look());
  return () => JSON.stringify(look()) === before;
}

const wordText = (word: Word): string => `${word.id} ${word.text}`;

function merge(answer: EditAnswer): void {
  const { project, cues } = get();
  if (!project) return;
  touched = answer.cues.map((cue) => cue.id);
  const changed = new Set([...answer.gone, ...touched]);
  const rest = () => cues.filter((cue) => !changed.has(cue.id));
  const { revision, history, settings } = answer;
  set((state) => ({
    project: { ...project, ...settings, revision, history },
    cues: changed.size ? sorted([...rest(), ...answer.cues]) : cues,
    sceneVersion: state.sceneVersion + 1,
  }));
}

/** Take in what changed by itself; fetch new captions while a recording is being heard. */
export async function onPulse(pulse: Pulse): Promise<void> {
  const { project, heard } = get();
  if (!project) return;
  set({
    heard: pulse.heard,
    diskFull: pulse.disk_full,
    project: {
      ...project,
      jobs: pulse.jobs,
      deliveries: pulse.deliveries,
      sources: project.sources.map((s, i) =>
        i === 0 ? { ...s, playable: pulse.playable, language: pulse.language } : s,
      ),
    },
  });
  if (pulse.heard !== heard) await fetchTail();
  await followDoubts(project.jobs, pulse.jobs);
  await queue;
  if (pulse.revision > (get().project?.revision ?? 0)) await load(project.id);
}

/** Doubts come while the second listening goes on: all captions are read again now and then. */
async function followDoubts(before: Job[], now: Job[]): Promise<void> {
  const was = before.findLast((job) => job.kind === "doubt");
  const is = now.findLast((job) => job.kind === "doubt");
  if (!is) return;
  const grown = Math.floor(is.progress * 8) > Math.floor((was?.progress ?? 0) * 8);
  if (grown || is.status !== was?.status) await fetchFrom(() => 0);
}

function fetchTail(): Promise<void> {
  return fetchFrom((cues) => cues.at(-2)?.start_us ?? 0);
}

/** Read the captions that end after a moment again; in turn with edits, so that none is hidden. */
function fetchFrom(moment: (cues: Cue[]) => number): Promise<void> {
  const next = queue.then(async () => {
    const piece = get().project?.pieces[0];
    if (!piece) return;
    const from = moment(get().cues);
    const fresh = await take(
      api.GET("/api/pieces/{piece_id}/cues", {
        params: { path: { piece_id: piece.id }, query: { from_us: from } },
      }),
    ).catch(() => null);
    if (!fresh) return;
    set((state) => ({
      cues: sorted([...state.cues.filter((cue) => cue.end_us <= from), ...fresh]),
      sceneVersion: state.sceneVersion + 1,
    }));
  });
  queue = next;
  return next;
}

function sorted(cues: Cue[]): Cue[] {
  const unique = new Map(cues.map((cue) => [cue.id, cue]));
  return [...unique.values()].sort((a, b) => a.start_us - b.start_us || a.id - b.id);
}

export function select(cueId: number | null): void {
  set({ selected: cueId, anchor: cueId, picked: new Set(cueId === null ? [] : [cueId]) });
}

/** The caption that shows at a moment, if any. */
export function cueAt(cues: Cue[], atUs: number): Cue | undefined {
  const cue = cues[lastBy(cues, atUs, (one) => one.start_us)];
  return cue && atUs < cue.end_us ? cue : undefined;
}

/** The word that keys are about: the one clicked in the Loupe, else the one at a moment. */
export function wordAt(atUs: number): { cue: Cue; word: Word } | null {
  const { cues, word: clicked, selected } = get();
  const here = cues.find((one) => one.id === selected);
  const chosen = here?.words.find((one) => one.id === clicked);
  if (here && chosen) return { cue: here, word: chosen };
  const cue = cueAt(cues, atUs) ?? here;
  const word = cue?.words.findLast((one) => one.start_us <= atUs + 1_000) ?? cue?.words[0];
  return cue && word ? { cue, word } : null;
}

export function showFound(wordIds: Iterable<number>): void {
  set({ found: new Set(wordIds) });
}

export function speakerOf(cue: Cue): string | null {
  return cue.words[0]?.speaker ?? null;
}
