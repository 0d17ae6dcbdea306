/** All actions, by their names and by their keys. */
import type { Action } from "./action";
import { CAPTIONS } from "./captions";
import { PLAYING } from "./playing";
import { DELIVER, DOUBTS, DRESS, PACE, PAGE } from "./stages";
import { TRIM } from "./trim";

export const ACTIONS: readonly Action[] = [
  ...PLAYING,
  ...CAPTIONS,
  ...DOUBTS,
  ...TRIM,
  ...PACE,
  ...DRESS,
  ...DELIVER,
  ...PAGE,
];

const known = new Map(ACTIONS.map((action) => [action.id, action]));

/** An action by its id; one that is not there is a fault of the page. */
export function action(id: string): Action {
  const found = known.get(id);
  if (!found) throw new Error(`no action ${id}`);
  return found;
}
