/** Projects searched and sorted, as the start page lists them. */
import type { ProjectCard } from "../api/client";

export const ORDER = "mortiser.projects-order";
export const ORDERS = [
  { value: "changed", text: "last changed first" },
  { value: "created", text: "newest first" },
  { value: "name", text: "by name" },
  { value: "length", text: "longest first" },
] as const;
export type Order = (typeof ORDERS)[number]["value"];

/** The projects with a text in their name, in an order. */
export function arranged(list: readonly ProjectCard[], text: string, order: Order): ProjectCard[] {
  const key = text.trim().toLocaleLowerCase();
  const found = list.filter((card) => card.name.toLocaleLowerCase().includes(key));
  const compare: Record<Order, (a: ProjectCard, b: ProjectCard) => number> = {
    changed: (a, b) => b.changed_us - a.changed_us,
    created: (a, b) => b.id - a.id,
    name: (a, b) => a.name.localeCompare(b.name, undefined, { numeric: true }),
    length: (a, b) => b.duration_us - a.duration_us,
  };
  return found.sort(compare[order]);
}
