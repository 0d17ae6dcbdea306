import { describe, expect, it } from "vitest";
import type { ProjectCard } from "../api/client";
import { arranged } from "./arranged";

const card = (id: number, name: string, changed_us: number, duration_us: number): ProjectCard => ({
  id,
  name,
  changed_us,
  duration_us,
  revision: 0,
  kind: "video",
  source_id: id,
  cue_count: 0,
  hearing: "done",
});

describe("projects on the start page", () => {
  const list = [
    card(1, "Chair 10", 30, 500),
    card(2, "chair 9", 10, 900),
    card(3, "Kettle", 20, 100),
  ];
  const ids = (found: ProjectCard[]) => found.map((one) => one.id);

  it("are sorted by what is chosen, numbers in names as numbers", () => {
    expect(ids(arranged(list, "", "changed"))).toEqual([1, 3, 2]);
    expect(ids(arranged(list, "", "created"))).toEqual([3, 2, 1]);
    expect(ids(arranged(list, "", "name"))).toEqual([2, 1, 3]);
    expect(ids(arranged(list, "", "length"))).toEqual([2, 1, 3]);
  });

  it("are searched whatever the capitals", () => {
    expect(ids(arranged(list, " CHAIR ", "name"))).toEqual([2, 1]);
    expect(arranged(list, "radio", "name")).toEqual([]);
    expect(list).toHaveLength(3);
  });
});
