"""Dressing: painting a frame in the browser, the scene of a window, a colour seen in the preview."""

from __future__ import annotations

import time

import numpy as np
from playwright.sync_api import Browser, Page, sync_playwright
from tests.serving import Server

from bench.report import at_most
from bench.screen import long_project
from mortiser.core.captions.cue_timing import retime
from mortiser.core.captions.pace import PACES
from mortiser.core.editing.timeline import Clip, Timeline
from mortiser.core.scene import Scene, build_scene, scene_json
from mortiser.core.style.finish.builtin import FINISHES
from mortiser.core.transcript.words import Cue, Shown
from mortiser.fonts import font_book

FRAMES = 120
SIZE = (1080, 1920)
SAID = ("before", "you", "throw", "it", "away:", "mend")
CHANGES = 40
PAINT = """async ([scene, frames]) => {
  const { Painter } = await import("/assets/parts.js");
  const painter = new Painter(scene);
  await painter.ready;
  const canvas = new OffscreenCanvas(scene.width, scene.height);
  const context = canvas.getContext("2d");
  const probe = new OffscreenCanvas(1, 1).getContext("2d", { willReadFrequently: true });
  const settle = () => { probe.drawImage(canvas, 0, 0); probe.getImageData(0, 0, 1, 1); };
  const [cue] = scene.cues;
  const took = [];
  for (let i = 0; i < frames; i++) {
    const at = cue.start_us + ((cue.end_us - cue.start_us) * i) / frames;
    const start = performance.now();
    painter.paint(context, at);
    settle();
    took.push(performance.now() - start);
  }
  return took;
}"""
# The clock runs from the choice until the preview has been painted with the new colour. One pixel
# in the word is watched: reading the whole canvas again and again took longer than what it measures.
COLOUR = """async (colours) => {
  const field = document.querySelector('input[type=color][aria-label="Live"]');
  const canvas = document.querySelector("[data-testid=scene]");
  const context = canvas.getContext("2d");
  const set = Object.getOwnPropertyDescriptor(HTMLInputElement.prototype, "value").set;
  const near = (bytes, at, colour) => bytes[at + 3] > 250
    && [1, 3, 5].every((n, i) => Math.abs(bytes[at + i] - Number.parseInt(colour.slice(n, n + 2), 16)) < 3);
  const choose = (colour) => {
    set.call(field, colour);
    field.dispatchEvent(new Event("input", { bubbles: true }));
    field.dispatchEvent(new Event("change", { bubbles: true }));
  };
  const rest = (ms) => new Promise((done) => setTimeout(done, ms));
  choose("#00ff00");
  await rest(2000);
  const { data } = context.getImageData(0, 0, canvas.width, canvas.height);
  let inside = 0;
  while (!near(data, inside * 4, "#00ff00") || !near(data, inside * 4 + 4, "#00ff00")) inside++;
  const [x, y] = [inside % canvas.width, Math.floor(inside / canvas.width)];
  const took = [];
  for (const colour of colours) {
    const start = performance.now();
    choose(colour);
    while (!near(context.getImageData(x, y, 1, 1).data, 0, colour)) await new Promise(requestAnimationFrame);
    took.push(performance.now() - start);
    await rest(400);
  }
  return took;
}"""


def run() -> None:
    """Print all measurements of dressing."""
    with long_project() as (server, project), sync_playwright() as playwright:
        browser = playwright.chromium.launch(
            executable_path="/usr/bin/chromium-headless-shell", args=["--no-sandbox"]
        )
        _painting(server, browser)
        _window(server, project)
        _colour(server, browser, project)
        browser.close()


def _painting(server: Server, browser: Browser) -> None:
    page = browser.new_page()
    page.goto(server.address)
    plain = float(np.mean(page.evaluate(PAINT, [scene_json(_scene("Linen")), FRAMES])))
    for name in FINISHES:
        took = page.evaluate(PAINT, [scene_json(_scene(name)), FRAMES])
        reference = f"{plain:.1f} ms for Linen; 95 % {np.percentile(took, 95):.1f} ms"
        at_most(f"a frame of 6 words, {name}", float(np.mean(took)), "ms", 6, reference, 1)
    page.close()


def _scene(finish: str) -> Scene:
    spans = Timeline([Clip(1, 0, 10**8)])
    words = tuple(
        Shown(text, 400_000 + n * 330_000, 700_000 + n * 330_000) for n, text in enumerate(SAID)
    )
    cues = retime([Cue(1, words, 0, 1, id=1)], spans, PACES["quick"])
    return build_scene(cues, FINISHES[finish], SIZE, font_book())


def _window(server: Server, project: int) -> None:
    with server.client() as client:
        piece = client.get(f"/api/projects/{project}").json()["pieces"][0]["id"]
        took = []
        for at in range(20):
            start = at * 100_000_000
            window = {"from_us": start, "to_us": start + 30_000_000}
            began = time.perf_counter()
            client.get(f"/api/pieces/{piece}/scene", params=window).raise_for_status()
            took.append((time.perf_counter() - began) * 1000)
        began = time.perf_counter()
        client.get("/api/engines")
        empty = (time.perf_counter() - began) * 1000
    reference = f"{empty:.0f} ms for an empty answer; worst {max(took):.0f} ms"
    at_most("scene of 30 s in an hour of captions", float(np.median(took)), "ms", 60, reference)


def _colour(server: Server, browser: Browser, project: int) -> None:
    page: Page = browser.new_page(viewport={"width": 1280, "height": 800})
    page.goto(f"{server.address}/projects/{project}")
    page.get_by_role("button", name="Dress").click()
    page.get_by_role("tab", name="Colours").click()
    page.locator("[data-cue-text]").first.click()
    page.wait_for_timeout(1500)
    for _ in range(7):  # past the caption's coming in
        page.get_by_role("button", name="One frame on").click()
        page.wait_for_timeout(100)
    colours = [f"#{20 + n * 4:02x}{200 - n * 3:02x}{40 + n * 2:02x}" for n in range(CHANGES)]
    took = page.evaluate(COLOUR, colours)
    at_most(
        "a colour seen in the preview, 95 %",
        float(np.percentile(took, 95)),
        "ms",
        100,
        f"{CHANGES} changes on 10,000 words, median {np.median(took):.0f} ms",
    )
