import { beforeEach, expect, it } from "vitest";
import { useDress } from "../dress/scope";
import { useFrame } from "../frame/shapes";
import { pickFromPicture } from "../preview/dropper";
import { usePassage } from "../strip/passage";
import { useTrim } from "../trim/store";
import { useLegibility } from "./legibility";
import { endProject, projectStore, whenProjectEnds } from "./projectSession";
import { close, opening } from "./server";
import { useProject } from "./store";

beforeEach(endProject);

it("begins every store of a project anew", () => {
  const useCount = projectStore(() => ({ count: 1, of: null as string | null }));
  useCount.setState({ count: 5, of: "chairs" });
  endProject();
  expect(useCount.getState()).toEqual({ count: 1, of: null });
});

it("tells whoever has something to let go of", () => {
  const told: string[] = [];
  whenProjectEnds(() => told.push("ended"));
  endProject();
  expect(told).toEqual(["ended"]);
});

it("leaves nothing of a project that is closed", async () => {
  const version = useProject.getState().sceneVersion;
  useProject.setState({ pieceId: 3, selected: 7, picked: new Set([7]), onlySpeaker: "Ada" });
  useTrim.setState({ selection: { anchor: "a", focus: "b" }, looked: 4, quietUs: 900_000 });
  useFrame.setState({ scope: "clips", saying: { kind: "box" } });
  useDress.setState({ scope: "speaker", speaker: "Ada" });
  useLegibility.setState({ pieceId: 3, known: true });
  usePassage.setState({ selecting: true });
  const colour = pickFromPicture();
  const before = opening();
  close();
  expect(opening()).toBe(before + 1);
  const { pieceId, selected, picked, onlySpeaker, sceneVersion } = useProject.getState();
  expect([pieceId, selected, picked.size, onlySpeaker]).toEqual([null, null, 0, null]);
  expect(sceneVersion).toBe(version);
  expect(useTrim.getState()).toMatchObject({ selection: null, looked: null, quietUs: 900_000 });
  expect(useFrame.getState()).toEqual({ scope: "piece", saying: null });
  expect(useDress.getState()).toEqual({ scope: "piece", speaker: null });
  expect(useLegibility.getState()).toEqual({ pieceId: null, faint: [], known: false });
  expect(usePassage.getState().selecting).toBe(false);
  expect(await colour).toBeNull();
});
