"""One picture of all finishes: each at three moments of a caption, on bright, dark and busy ground.

Usage: python -m scripts.contact_sheet [OUT.png] [FINISH ...]
"""

from __future__ import annotations

import sys
from pathlib import Path

import numpy as np
import skia

from mortiser.core.captions.cue_timing import retime
from mortiser.core.captions.pace import PACES
from mortiser.core.editing.timeline import Clip, Timeline
from mortiser.core.scene import build_scene
from mortiser.core.style.finish.builtin import FINISHES
from mortiser.core.style.finish.model import Finish
from mortiser.core.transcript.words import Cue, Shown
from mortiser.fonts import font_book
from mortiser.paint.outlines import outline
from mortiser.paint.painter import draw
from mortiser.paint.state import state_at

OUT = Path("docs/screenshots/finishes.png")
FRAME = (1080, 1920)
CROP = (0, 640, 1080, 1880)
TILE = (270, 310)
SAID = (
    ("Before", 0),
    ("you", 340),
    ("throw", 560),
    ("it", 860),
    ("away,", 1040),
    ("mend", 1500),
    ("it.", 1860),
)
MOMENTS = (0.22, 0.5, 0.83)


def main() -> None:
    """Paint and write the sheet."""
    out = Path(sys.argv[1]) if len(sys.argv) > 1 else OUT
    chosen = [FINISHES[name] for name in sys.argv[2:]] or list(FINISHES.values())
    columns = 2 if len(chosen) > 4 else 1
    rows = -(-len(chosen) // columns)
    width, height = columns * (3 * TILE[0] + 12), rows * (TILE[1] + 26)
    surface = skia.Surface(width, height)
    canvas = surface.getCanvas()
    canvas.clear(skia.ColorSetRGB(244, 240, 232))
    for number, finish in enumerate(chosen):
        x = number % columns * (3 * TILE[0] + 12)
        y = number // columns * (TILE[1] + 26)
        label(canvas, finish.name, x + 4, y + 18)
        _row(canvas, finish, x, y + 24)
    surface.makeImageSnapshot().save(str(out), skia.kPNG)


def _row(canvas: skia.Canvas, finish: Finish, x: int, y: int) -> None:
    spans = Timeline([Clip(1, 0, 10**8)])
    words = tuple(
        Shown(text, 500_000 + at * 1000, 500_000 + at * 1000 + 260_000, accent=int(text == "mend"))
        for text, at in SAID
    )
    (cue,) = retime([Cue(1, words, 0, 1, id=1)], spans, PACES["quick"])
    scene = build_scene([cue], finish, FRAME, font_book())
    for number, (share, ground) in enumerate(zip(MOMENTS, (_bright, _dark, _busy), strict=True)):
        at = cue.start_us + int((cue.end_us - cue.start_us) * share)
        left = x + number * TILE[0]
        canvas.save()
        canvas.clipRect(skia.Rect.MakeXYWH(left, y, TILE[0] - 4, TILE[1]))
        canvas.translate(left, y)
        canvas.scale(TILE[0] / (CROP[2] - CROP[0]), TILE[1] / (CROP[3] - CROP[1]))
        canvas.translate(-CROP[0], -CROP[1])
        ground(canvas)
        draw(canvas, state_at(scene, at))
        canvas.restore()


def _bright(canvas: skia.Canvas) -> None:
    canvas.drawRect(skia.Rect.MakeWH(*FRAME), skia.Paint(Color=skia.ColorSetRGB(232, 226, 214)))


def _dark(canvas: skia.Canvas) -> None:
    canvas.drawRect(skia.Rect.MakeWH(*FRAME), skia.Paint(Color=skia.ColorSetRGB(26, 30, 34)))


def _busy(canvas: skia.Canvas) -> None:
    """Boxes of made-up shelves: colours and edges everywhere."""
    chance = np.random.default_rng(4)
    for top in range(0, FRAME[1], 120):
        for left in range(0, FRAME[0], 90):
            red, green, blue = (int(v) for v in chance.integers(30, 235, 3))
            box = skia.Rect.MakeXYWH(left, top, int(chance.integers(40, 90)), 112)
            canvas.drawRect(box, skia.Paint(Color=skia.ColorSetRGB(red, green, blue)))


def label(canvas: skia.Canvas, text: str, x: int, y: int) -> None:
    """A line of text with its beginning at a place."""
    shaped = font_book().shape(text, "Noto Sans", 700, 16.0)
    item = skia.Paint(AntiAlias=True, Color=skia.ColorSetRGB(52, 50, 46))
    canvas.save()
    canvas.translate(x, y)
    canvas.drawPath(outline(shaped.path), item)
    canvas.restore()


if __name__ == "__main__":
    main()
