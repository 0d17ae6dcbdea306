import { beforeEach, describe, expect, it, vi } from "vitest";

/** The answer to the last question, given when the test says so. */
let answer: (found: unknown) => void = () => undefined;
vi.mock("../api/client", () => ({
  api: { GET: () => new Promise((resolve) => (answer = resolve)) },
  take: (found: unknown) => found,
  takeAs: (found: unknown) => found,
  Problem: class extends Error {},
}));

import type { Project, ProjectStatus } from "../api/client";
import { onStatus } from "./following";
import { open, reload } from "./server";
import { useProject } from "./store";

const project = (status: string) =>
  ({
    id: 1,
    revision: 3,
    cues: [],
    pieces: [{ id: 7 }],
    sources: [],
    deliveries: [],
    jobs: [{ id: 5, kind: "prepare", status }],
  }) as unknown as Project;

const told = (status: string) =>
  ({ ...project(status), heard: 0, disk_full: false }) as ProjectStatus;

const status = () => useProject.getState().project?.jobs[0]?.status;

describe("what the server tells by itself", () => {
  beforeEach(async () => {
    const opened = open(1);
    answer(project("queued"));
    await opened;
    await onStatus(told("queued"));
  });

  it("is not replaced by an answer that was asked for before", async () => {
    const read = reload();
    await new Promise((ready) => setTimeout(ready));
    await Promise.race([onStatus(told("done")), new Promise((ready) => setTimeout(ready))]);
    answer(project("running"));
    await read;
    expect(status()).toBe("done");
  });

  it("gives way to an answer that was asked for after it", async () => {
    const read = reload();
    await new Promise((ready) => setTimeout(ready));
    answer(project("running"));
    await read;
    expect(status()).toBe("running");
  });
});
