"""Waveforms of a piece's sound as parts of the scene."""

from __future__ import annotations

from collections.abc import Iterator
from dataclasses import dataclass
from math import cos, pi, sin

import numpy as np

from mortiser.core.framing.layer import Wave
from mortiser.core.scene.model import Mark, WaveItem
from mortiser.core.style.finish.parts import Colour
from mortiser.core.style.layout.rect import Rect

APART_US = 50_000
"""The age of a mark's sound differs from its neighbour's by so much."""
LEAST = 0.03
"""The level of silence: a mark is always seen."""
INNER = 0.6
"""The inner radius of a ring, a share of its outer one."""
LONGEST_US = 120 * APART_US
"""No mark's sound is older, or younger, than this."""


@dataclass(frozen=True)
class Heard:
    """The peaks of a piece's sound (0 to 255), the first from ``from_us`` on, one for every ``step_us``;
    ``loudest`` is the largest of the whole piece."""

    from_us: int = 0
    step_us: int = 20_000
    peaks: bytes = b""
    loudest: int = 255


NOT_HEARD = Heard()


def wave_item(wave: Wave, box: Rect, colour: Colour, heard: Heard) -> WaveItem:
    """A sound drawn in a box of frame pixels: the present in its middle, or on top of a ring."""
    levels = np.frombuffer(heard.peaks, np.uint8) / max(1, heard.loudest)
    sigma = wave.smooth_ms * 1000 / heard.step_us
    if sigma and len(levels):
        reach = int(3 * sigma) + 1
        kernel = np.exp(-0.5 * (np.arange(-reach, reach + 1) / sigma) ** 2)
        padded = np.pad(levels, reach, mode="edge")
        levels = np.convolve(padded, kernel / kernel.sum(), mode="valid")
    kept = np.clip(levels, LEAST, 1.0).tolist() or [LEAST]
    room = box.width / wave.count
    if wave.form == "ring":
        room = pi * INNER * min(box.width, box.height) / wave.count
    thick = max(1.5, wave.thick * room)
    # A peak belongs to the middle of what it is the peak of.
    begin = heard.from_us + heard.step_us // 2
    both, joined = wave.form == "mirrored", wave.form == "line"
    marks = tuple(_marks(wave, box, thick))
    grown = box.grown(thick, thick)
    return WaveItem(tuple(kept), begin, heard.step_us, marks, thick, colour, both, joined, grown)


def _marks(wave: Wave, box: Rect, thick: float) -> Iterator[Mark]:
    count, room = wave.count, box.width / wave.count
    x, y = box.middle
    radius = min(box.width, box.height) / 2
    for i in range(count):
        age = (count // 2 - i) * APART_US
        across = box.left + (i + 0.5) * room
        match wave.form:
            case "bars":
                yield Mark(across, box.bottom - thick / 2, 0.0, thick - box.height, age)
            case "mirrored":
                yield Mark(across, y, 0.0, (thick - box.height) / 2, age)
            case "line":
                up = (thick - box.height) / 2
                yield Mark(across, y, 0.0, up if i % 2 else -up, age)
            case "ring":
                angle = 2 * pi * i / count - pi / 2
                way, inner = (cos(angle), sin(angle)), INNER * radius
                far = radius - inner - thick / 2
                age = min(i, count - i) * APART_US
                yield Mark(x + way[0] * inner, y + way[1] * inner, way[0] * far, way[1] * far, age)
