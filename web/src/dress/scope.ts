/** What a change of the look is about, and the values that hold there. */
import type { Cue, Edit, Piece } from "../api/client";
import { drag, edit } from "../state/commands";
import { projectStore } from "../state/projectSession";
import { useProject } from "../state/store";

export type Scope = "piece" | "captions" | "speaker";
export type Changes = Extract<Edit, { kind: "change_finish" }>["changes"];

export const useDress = projectStore<{ scope: Scope; speaker: string | null }>(() => ({
  scope: "piece",
  speaker: null,
}));

export interface Target {
  /** The value that holds, by its dotted path. */
  value: (path: string) => unknown;
  /** Make the change; while something is dragged (until `drop`), all of it is one. */
  set: (changes: Changes, dragged?: boolean) => void;
  /** Whether the captions chosen have it in place of the finish's. */
  own: (path: string) => boolean;
  back: (...paths: string[]) => void;
  /** Whether it has a part that cannot be taken off here, since it comes from above. */
  given?: (path: string) => boolean;
}

/** Make an edit, as one step of a dragging where something is dragged. */
export function make(command: Edit, dragged = false): void {
  if (dragged) drag(command);
  else void edit(command);
}

/** The settings of the scope that is chosen, as they are now. */
export function useTarget(piece: Piece): Target {
  const { scope, speaker } = useDress();
  const picked = useProject((state) => state.picked);
  const cues = useProject((state) => state.cues);
  if (scope === "speaker" && speaker !== null) return speakerTarget(piece, speaker);
  const chosen = scope === "captions" ? cues.filter((cue) => picked.has(cue.id)) : [];
  const look = chosen[0]?.look ?? {};
  const ids = chosen.map((cue) => cue.id);
  return {
    value: (path) => held(piece.finish, look, path),
    set: (changes, dragged) => {
      if (scope === "piece") make({ kind: "change_finish", piece_id: piece.id, changes }, dragged);
      else if (ids.length) make({ kind: "dress_cues", cue_ids: ids, changes }, dragged);
    },
    own: (path) => chosen.some((cue) => paths(cue).some((one) => touches(one, path))),
    back: (...wanted) => {
      const all = chosen.flatMap(paths).filter((one) => wanted.some((path) => touches(one, path)));
      if (all.length) void edit({ kind: "undress_cues", cue_ids: ids, paths: [...new Set(all)] });
    },
  };
}

/** What all that somebody says has in place of the finish's. */
function speakerTarget(piece: Piece, name: string): Target {
  const look = piece.speaker_looks[name] ?? {};
  const set = (changes: Changes, dragged?: boolean) =>
    make({ kind: "dress_speaker", piece_id: piece.id, name, changes }, dragged);
  const owned = (path: string) => Object.keys(look).filter((one) => touches(one, path));
  return {
    value: (path) => held(piece.finish, look, path),
    set,
    own: (path) => owned(path).length > 0,
    back: (...wanted) => {
      const gone = wanted.flatMap(owned);
      if (gone.length) set(Object.fromEntries(gone.map((path) => [path, null])));
    },
  };
}

const paths = (cue: Cue): string[] => Object.keys(cue.look);

function touches(one: string, path: string): boolean {
  return one === path || one.startsWith(`${path}.`) || path.startsWith(`${one}.`);
}

/** A look's own value where it has one for the path or for what it is part of. */
function held(finish: unknown, look: Record<string, unknown>, path: string): unknown {
  if (path in look) return look[path];
  const steps = path.split(".");
  for (let count = steps.length - 1; count > 0; count--) {
    const above = steps.slice(0, count).join(".");
    if (above in look) return inside(look[above], steps.slice(count));
  }
  const below = Object.keys(look).filter((one) => one.startsWith(`${path}.`));
  const whole = inside(finish, steps);
  if (!below.length) return whole;
  const copy = structuredClone(whole ?? {}) as Record<string, unknown>;
  for (const one of below) copy[one.slice(path.length + 1)] = look[one];
  return copy;
}

/** The value at the end of some steps into another one; undefined where there is none. */
export function inside(value: unknown, steps: readonly string[]): unknown {
  let at = value;
  for (const step of steps) at = (at as Record<string, unknown> | null | undefined)?.[step];
  return at;
}
