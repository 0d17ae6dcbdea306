import { expect, test } from "vitest";
import { lossText } from "./RemoveRecording";

test("what becomes of a piece is said in a sentence", () => {
  const piece = { piece_id: 1, name: "Fuse", lost_us: 0, whole: false };
  expect(lossText({ ...piece, whole: true })).toBe("The piece “Fuse” goes: nothing else is in it.");
  expect(lossText(piece)).toContain("only what was struck");
  expect(lossText({ ...piece, lost_us: 65_000_000 })).toBe("“Fuse” gets 1:05 shorter.");
});
