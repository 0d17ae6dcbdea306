import { beforeEach, describe, expect, it, vi } from "vitest";
import type { Scene } from "../api/client";

const answers: { from: number; give: (scene: Scene) => void }[] = [];

vi.mock("../api/scene", () => ({
  fetchScene: (_: number, from: number) =>
    new Promise<Scene>((give) => {
      answers.push({ from, give });
    }),
}));
vi.mock("./painter", () => ({
  Painter: class {
    ready = Promise.resolve();
    constructor(readonly scene: Scene) {}
  },
}));

const { SceneWindows } = await import("./sceneWindows");
const scene = (width: number) => ({ width, outlines: [], cues: [] }) as unknown as Scene;
const SECOND = 1e6;

async function arrive(from: number, width = 1): Promise<void> {
  const at = answers.findIndex((one) => one.from === from);
  answers.splice(at, 1)[0]?.give(scene(width));
  await new Promise((resolve) => setTimeout(resolve, 0));
}

beforeEach(() => {
  answers.length = 0;
});

describe("the scene in windows", () => {
  it("has nothing to paint at a far moment until its own window is there", async () => {
    let arrived = 0;
    const windows = new SceneWindows(1, 1, () => {
      arrived += 1;
    });
    windows.at(0);
    await arrive(0);
    expect(windows.at(5 * SECOND)).toBeDefined();
    expect(windows.at(500 * SECOND)).toBeUndefined();
    const before = arrived;
    await arrive(500 * SECOND);
    expect(arrived).toBeGreaterThan(before);
    expect(windows.at(501 * SECOND)).toBeDefined();
  });

  it("keeps the windows around the one that came last, however far one goes", async () => {
    const windows = new SceneWindows(1, 1, () => undefined);
    for (let at = 0; at < 60; at += 1) {
      windows.at(at * 20 * SECOND);
      await arrive(at * 20 * SECOND);
    }
    const kept = Array.from({ length: 60 }, (_, at) => windows.at(at * 20 * SECOND)).filter(
      Boolean,
    );
    expect(kept.length).toBeLessThanOrEqual(3);
  });

  it("never puts an older state over a newer one", async () => {
    const windows = new SceneWindows(1, 1, () => undefined);
    windows.at(0);
    windows.changed(0);
    const [first, second] = answers.filter((one) => one.from === 0);
    second?.give(scene(2));
    await new Promise((resolve) => setTimeout(resolve, 0));
    first?.give(scene(1));
    await new Promise((resolve) => setTimeout(resolve, 0));
    expect(windows.at(0)?.scene.width).toBe(2);
  });
});
