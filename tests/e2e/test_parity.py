"""The preview is the delivery: the browser's canvas against Skia, pixel by pixel."""

import base64
import json
from pathlib import Path
from typing import Any

import numpy as np
import pytest
import skia
from playwright.sync_api import Page

from mortiser.core.cue_timing import retime
from mortiser.core.finish.builtin import FINISHES
from mortiser.core.pace import PACES
from mortiser.core.scene import Scene, build_scene, scene_json
from mortiser.core.spans import Span, SpanMap
from mortiser.core.words import Cue, Word
from mortiser.fonts import font_book
from mortiser.paint.painter import area_of, paint
from mortiser.paint.state import state_at
from tests.serving import Server

SIZE = (1080, 1920)
MOST_DIFFERENCE = 4
LEAST_SHARE = 0.999
STAGES = {
    "bright": (236, 232, 224),
    "dark": (24, 28, 30),
}
# Entrance, word by word, rest, exit: a caption of 2.9 s that starts at 0.36 s.
MOMENTS = [int(360_000 + 2_900_000 * part) for part in (
    0.001, 0.006, 0.012, 0.02, 0.03, 0.05, 0.08, 0.12, 0.17, 0.2,
    0.24, 0.27, 0.33, 0.4, 0.47, 0.55, 0.66, 0.8, 0.93, 0.999,
)]  # fmt: skip


def scene_of(finish: str) -> Scene:
    spans = SpanMap([Span(1, 0, 10**8)])
    starts = [400, 840, 1010, 1240, 1480, 2100]
    said = zip(
        ["before", "you", "throw", "it", "away:", "£5"], starts, [0, 0, 2, 0, 1, 3], strict=True
    )
    words = tuple(Word(t, a * 1000, a * 1000 + 150_000, accent=mark) for t, a, mark in said)
    return build_scene(
        retime([Cue(1, words, 0, 1, id=1)], spans, PACES["quick"]),
        FINISHES[finish],
        SIZE,
        spans,
        font_book(),
    )


PAINT = """async ([scene, moments, stages]) => {
  const { Painter } = await import("/assets/parts.js");
  const painter = new Painter(scene);
  const canvas = new OffscreenCanvas(scene.width, scene.height);
  const context = canvas.getContext("2d");
  const stage = new OffscreenCanvas(scene.width, scene.height);
  const over = stage.getContext("2d");
  const found = [];
  for (const at of moments) {
    painter.paint(context, at);
    for (const [r, g, b] of stages) {
      over.fillStyle = `rgb(${r},${g},${b})`;
      over.fillRect(0, 0, stage.width, stage.height);
      over.drawImage(canvas, 0, 0);
      const bytes = new Uint8Array(await (await stage.convertToBlob()).arrayBuffer());
      let text = "";
      for (let i = 0; i < bytes.length; i += 8192) {
        text += String.fromCharCode(...bytes.subarray(i, i + 8192));
      }
      found.push(btoa(text));
    }
  }
  return found;
}"""


def in_skia(scene: Scene, at: int, colour: tuple[int, int, int]) -> np.ndarray:
    picture = np.tile(np.array(colour, float), (SIZE[1], SIZE[0], 1))
    state = state_at(scene, at)
    left, top, right, bottom = area = area_of(state, *SIZE)
    if right > left:
        pixels = paint(state, area).astype(float)
        part = picture[top:bottom, left:right]
        part[...] = part * (1 - pixels[..., 3:] / 255) + pixels[..., :3]
    return picture


@pytest.mark.parametrize("finish", FINISHES)
def test_canvas_and_skia_paint_the_same(page: Page, server: Server, finish: str) -> None:
    page.goto(server.address)
    scene = scene_of(finish)
    found = page.evaluate(PAINT, [scene_json(scene), MOMENTS, list(STAGES.values())])
    worst: dict[str, Any] = {"share": 1.0}
    pictures = iter(found)
    for at in MOMENTS:
        area = area_of(state_at(scene, at), *SIZE)
        for name, colour in STAGES.items():
            data = skia.Data.MakeWithCopy(base64.b64decode(next(pictures)))
            canvas = skia.Image.MakeFromEncoded(data).toarray(colorType=skia.kRGBA_8888_ColorType)[
                ..., :3
            ]
            difference = np.abs(canvas.astype(float) - in_skia(scene, at, colour)).max(axis=2)
            assert difference.max() < 120, f"{finish} at {at} on {name}"
            left, top, right, bottom = area
            # Only the painted area counts: the empty frame around it would flatter the share.
            inside = difference[top:bottom, left:right]
            share = float((inside <= MOST_DIFFERENCE).mean()) if inside.size else 1.0
            if share <= worst["share"]:
                worst = {"share": share, "at": at, "on": name, "max": float(difference.max())}
            outside = difference.copy()
            outside[top:bottom, left:right] = 0
            assert outside.max() <= 1
    print(f"{finish}: least share within {MOST_DIFFERENCE}/255 of the painted area: {worst}")
    assert worst["share"] >= LEAST_SHARE, worst


def test_the_browser_reads_tracks_as_the_vectors_say(page: Page, server: Server) -> None:
    page.goto(server.address)
    cases = json.loads(Path("tests/cases/tracks.json").read_text())
    found = page.evaluate(
        """async (cases) => {
          const { valueAt } = await import("/assets/parts.js");
          return cases.map((c) => valueAt(c.track, c.at));
        }""",
        cases,
    )
    for got, case in zip(found, cases, strict=True):
        assert got == pytest.approx(case["value"])
