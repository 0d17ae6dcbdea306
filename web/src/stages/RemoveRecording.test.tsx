// @vitest-environment happy-dom
import { cleanup, render, screen } from "@testing-library/react";
import userEvent from "@testing-library/user-event";
import { afterEach, beforeEach, expect, test, vi } from "vitest";

const edits = vi.hoisted(() => [] as unknown[]);
vi.mock("../state/commands", () => ({ edit: (command: unknown) => edits.push(command) }));
vi.mock("../api/client", () => ({
  api: {
    GET: () =>
      Promise.resolve([{ piece_id: 1, name: "Fuse", lost_us: 65e6, whole: false, cutaways: 0 }]),
  },
  take: (found: unknown) => found,
}));

import type { Project, Source } from "../api/client";
import { lossText, RemoveRecording } from "./RemoveRecording";

const source = (id: number, sound_id?: number) =>
  ({ id, name: `${id}.mp4`, microphone: sound_id ? { sound_id } : null }) as Source;
const shown = (sources: Source[]) =>
  render(<RemoveRecording project={{ id: 1, sources } as Project} source={sources[0] as Source} />);

beforeEach(() => edits.splice(0));
afterEach(cleanup);

test("what becomes of a piece is said in a sentence", () => {
  const piece = { piece_id: 1, name: "Fuse", lost_us: 0, whole: false, cutaways: 0 };
  expect(lossText({ ...piece, whole: true })).toBe("The piece “Fuse” goes: nothing else is in it.");
  expect(lossText(piece)).toContain("only what was struck");
  expect(lossText({ ...piece, cutaways: 1 })).toBe("“Fuse” loses 1 cutaway.");
  expect(lossText({ ...piece, lost_us: 65e6, cutaways: 2 })).toBe(
    "“Fuse” gets 1:05 shorter and loses 2 cutaways.",
  );
});

test("the only recording is not offered to be removed", () => {
  shown([source(1)]);
  expect(screen.queryByRole("button")).toBeNull();
});

test("what goes with it is said before, and nothing is done where it is kept", async () => {
  shown([source(1), source(2, 1)]);
  await userEvent.click(screen.getByRole("button", { name: "Remove 1.mp4 …" }));
  expect(await screen.findByText("“Fuse” gets 1:05 shorter.")).toBeTruthy();
  expect(screen.getByText(/2.mp4” is heard by its own sound again/)).toBeTruthy();
  await userEvent.click(screen.getByText("Keep it"));
  expect(screen.queryByRole("alertdialog")).toBeNull();
  expect(edits).toEqual([]);
});

test("it is removed by one edit", async () => {
  shown([source(1), source(2)]);
  await userEvent.click(screen.getByRole("button", { name: "Remove 1.mp4 …" }));
  await userEvent.click(await screen.findByText("Remove recording"));
  expect(edits).toEqual([{ kind: "remove_recording", source_id: 1 }]);
});
