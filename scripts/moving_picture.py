"""The README's first picture, moving: one talk of the demo in three finishes, beside one another.

``python -m scripts.moving_picture`` writes docs/screenshots/finishes.webp.
"""

from __future__ import annotations

from contextlib import ExitStack, closing
from fractions import Fraction
from pathlib import Path

import av
import numpy as np
from scripts.said import captions_of, words_of

from mortiser.core.captions.pace import PACES
from mortiser.core.common.time import SECOND
from mortiser.core.delivery.order import OrderedSource
from mortiser.core.editing.timeline import Clip, Timeline
from mortiser.core.framing.shape import Shape
from mortiser.core.project.output import VideoFile
from mortiser.core.project.piece import MediaFacts, Piece
from mortiser.core.project.settings import PieceSettings
from mortiser.core.style.finish.builtin import FINISHES
from mortiser.media.encode import Encoder
from mortiser.media.forms import form_of
from mortiser.outputs.plans import painted, plan_of
from mortiser.render import burn
from mortiser.render.plan import RenderPlan

OUT = Path("docs/screenshots/finishes.webp")
CLIP = Path("src/mortiser/demo/media/kettle.mp4")
SHOWN = ("Lacquer", "Beeswax", "Veneer")
END_US = 28 * SECOND
SIZE, GAP = (236, 420), 8
RATE = 10
GROUND = (240, 126, 130)
"""Birch, in the planes of a frame."""


def main() -> None:
    """Write the picture."""
    width, height = len(SHOWN) * (SIZE[0] + GAP) - GAP, SIZE[1]
    encoder = Encoder(
        OUT, (width, height), Fraction(RATE), Fraction(1, RATE), form_of("webp", "good")
    )
    with ExitStack() as stack:
        readers = [stack.enter_context(closing(burn.painted(_plan(name)))) for name in SHOWN]
        for number, frames in enumerate(zip(*readers, strict=False)):
            beside = av.VideoFrame(width, height, "yuv420p")
            for plane, (bytes_, ground) in enumerate(zip(beside.planes, GROUND, strict=True)):
                rows = np.frombuffer(memoryview(bytes_), np.uint8).reshape(-1, bytes_.line_size)
                rows[:] = ground
                step = (SIZE[0] + GAP) // (2 if plane else 1)
                for at, frame in enumerate(frames):
                    part = frame.planes[plane]
                    seen = np.frombuffer(part, np.uint8).reshape(-1, part.line_size)[
                        :, : part.width
                    ]
                    rows[: part.height, at * step : at * step + part.width] = seen
            beside.pts, beside.time_base = number, Fraction(1, RATE)
            encoder.add_picture(beside)
    encoder.finish()


def _plan(name: str) -> RenderPlan:
    line, pace = Timeline([Clip(1, 0, END_US, id=1)]), PACES["quick"]
    inside = [word for word in words_of(CLIP) if word.end_us < END_US]
    cues = captions_of(inside, line, pace)
    shape = Shape(id=1, width=SIZE[0], height=SIZE[1])
    settings = PieceSettings("", (shape,), FINISHES[name], pace)
    facts = MediaFacts(pictures={1: (1080, 1920)})
    piece = Piece(1, 1, settings, line, facts).in_shape()
    source = OrderedSource(id=1, path=str(CLIP), duration_us=END_US, sound=str(CLIP))
    video = VideoFile(form="webp", rate=RATE)
    return plan_of(piece, painted(piece, cues), [source], Path, video=video)


if __name__ == "__main__":
    main()
