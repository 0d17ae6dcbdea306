// @vitest-environment happy-dom
import { afterEach, expect, it, vi } from "vitest";
import { sharpCanvas } from "./canvas";

afterEach(() => vi.unstubAllGlobals());

function canvas(): HTMLCanvasElement {
  const element = document.createElement("canvas");
  element.getContext = (() => ({ scale: () => undefined })) as never;
  return element;
}

it("is as dense as the screen", () => {
  vi.stubGlobal("devicePixelRatio", 2);
  const element = canvas();
  sharpCanvas(element, 64, 300);
  expect([element.width, element.height]).toEqual([128, 600]);
});

it("is never longer than browsers draw, for a quiet of seven minutes at the largest scale too", () => {
  vi.stubGlobal("devicePixelRatio", 2);
  const element = canvas();
  sharpCanvas(element, 64, 60_000);
  expect(element.height).toBeLessThanOrEqual(16_000);
  expect(element.width).toBeGreaterThan(0);
});
