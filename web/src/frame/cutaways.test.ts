import { expect, it } from "vitest";
import { inOrder, nameOf } from "./cutaways";

const cutaway = (id: number, ...starts: number[]) => ({
  cutaway: { id } as never,
  lies: starts.map((start_us) => ({ start_us, end_us: start_us + 1, whole_us: start_us })),
});

it("lists cutaways as they are seen, struck ones last", () => {
  const all = [cutaway(1), cutaway(2, 500, 900), cutaway(3, 40), cutaway(4)];
  expect(inOrder(all).map((one) => one.cutaway.id)).toEqual([3, 2, 1, 4]);
});

it("calls them by what is seen", () => {
  const sources = [{ id: 4, name: "Chairs.mp4" }] as never;
  expect(nameOf({ kind: "recording", source_id: 4, from_us: 0 }, sources)).toBe("Chairs.mp4");
  expect(nameOf({ kind: "recording", source_id: 5, from_us: 0 }, sources)).toBe("a recording");
  const picture = {
    digest: "a".repeat(32),
    name: "",
    width: 4,
    height: 4,
    lasts_us: 0,
    through: false,
  };
  expect(nameOf({ kind: "picture", picture }, sources)).toBe("a picture");
});
