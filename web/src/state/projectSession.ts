/** The session of the open project: what the page keeps about it, all of which ends with it. */
import { create, type StoreApi, type UseBoundStore } from "zustand";

const ends: (() => void)[] = [];

/** Have something done whenever a project is closed. */
export function whenProjectEnds(end: () => void): void {
  ends.push(end);
}

/** A store about the open project: as it began once that is closed. */
export function projectStore<T>(begin: () => T): UseBoundStore<StoreApi<T>> {
  const store = create<T>(begin);
  whenProjectEnds(() => store.setState(begin(), true));
  return store;
}

/** Close the project: nothing of it is left. */
export function endProject(): void {
  for (const end of ends) end();
}
