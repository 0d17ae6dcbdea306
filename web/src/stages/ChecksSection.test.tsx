// @vitest-environment happy-dom
import { cleanup, render, screen } from "@testing-library/react";
import userEvent from "@testing-library/user-event";
import { Tooltip } from "radix-ui";
import { afterEach, beforeEach, expect, test, vi } from "vitest";

const edits = vi.hoisted(() => [] as unknown[]);
vi.mock("../state/commands", () => ({ edit: (command: unknown) => edits.push(command) }));

import type { Check, Cue, Piece, Project } from "../api/client";
import { useProject } from "../state/store";
import { ChecksSection } from "./ChecksSection";

const piece = { id: 7, checked_by: "own" } as Piece;
const check = (cue_id: number, about: string, fix: string | null): Check =>
  ({ kind: "wide_line", at_us: cue_id * 1e6, about, cue_id, word_ids: [], fix }) as Check;

function shown(checks: Check[] | null) {
  const cues = [1, 2, 3].map((id) => ({
    id,
    piece_id: 7,
    start_us: id * 1e6,
    end_us: id * 1e6 + 5e5,
    words: [{ id, text: `kettle${id}` }],
  })) as unknown as Cue[];
  const project = { id: 1, pieces: [piece] } as Project;
  useProject.setState({ project, pieceId: 7, cues, checks });
  render(
    <Tooltip.Provider>
      <ChecksSection piece={piece} player={null} />
    </Tooltip.Provider>,
  );
}

beforeEach(() => edits.splice(0));
afterEach(cleanup);

test("nothing found is said, and looking too", () => {
  shown([]);
  expect(screen.getByText(/Nothing found/)).toBeTruthy();
  cleanup();
  shown(null);
  expect(screen.getByText("Looking …")).toBeTruthy();
});

test("only what has a remedy offers one", async () => {
  shown([check(1, "30 characters", "break its lines"), check(2, "42 characters", null)]);
  expect(screen.getByText("kettle2")).toBeTruthy();
  expect(screen.queryByText(/fix all/)).toBeNull();
  await userEvent.click(screen.getByText("break its lines"));
  expect(edits).toEqual([
    {
      kind: "fix_checks",
      piece_id: 7,
      findings: [{ kind: "wide_line", cue_id: 1, word_ids: [] }],
    },
  ]);
});

test("all that can be put right is put right as one change", async () => {
  shown([check(1, "", "break"), check(2, "", null), check(3, "", "break")]);
  await userEvent.click(screen.getByText("fix all 2"));
  expect(edits).toHaveLength(1);
  expect(edits[0]).toMatchObject({ findings: [{ cue_id: 1 }, { cue_id: 3 }] });
});

test("a finding is gone to by its text", async () => {
  shown([check(3, "42 characters", null)]);
  await userEvent.click(screen.getByText("kettle3"));
  expect(useProject.getState().selected).toBe(3);
});
