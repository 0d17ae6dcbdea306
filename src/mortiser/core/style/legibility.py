"""Whether captions can be read on their picture: contrast of letters against what is around them.

Contrast is that of WCAG 2.2 (success criterion 1.4.3): (L1 + 0.05) / (L2 + 0.05) of relative
luminances, where large letters need 3 : 1.
"""

from __future__ import annotations

from collections.abc import Iterator
from dataclasses import dataclass
from typing import Literal

import numpy as np
import numpy.typing as npt
from pydantic import JsonValue

from mortiser.core.style.finish.model import Finish
from mortiser.core.style.motion.timing import live_spans
from mortiser.core.transcript.words import Cue

READABLE = 3.0
EDGE = 25
"""Per cent of a word's edge that may stand out less than its contrast says."""
SAID = (0.8, 0.5, 1.0)
"""When a word is looked at, shares of the time it is live. It is readable if it is at one of them:
first once it has come in, then while a plank or a colour is still on its way."""
DARK, LIGHT = (20, 18, 16), (255, 252, 245)
RIM, RIM_OPACITY, PLATE_OPACITY = 0.07, 255, 215
HEIGHTS = tuple(n / 100 for n in range(-36, 37, 6))
"""Where else captions may stand: their middle from the frame's, share of its height."""

Way = Literal["outline", "plate", "place"]
Rgb = npt.NDArray[np.uint8]
Luminance = npt.NDArray[np.float32]


@dataclass(frozen=True, slots=True)
class Remedy:
    """A way to make a caption readable, and the contrast it has then."""

    way: Way
    changes: dict[str, JsonValue]
    contrast: float


@dataclass(frozen=True, slots=True)
class Faint:
    """A caption that is hard to read: its worst word, when, and what helps."""

    cue_id: int
    at_us: int
    word: str
    contrast: float
    remedies: tuple[Remedy, ...]


def _linear() -> Luminance:
    """sRGB's transfer curve (IEC 61966-2-1) for its 256 values."""
    value = np.arange(256) / 255
    curve = np.where(value <= 0.04045, value / 12.92, ((value + 0.055) / 1.055) ** 2.4)
    return curve.astype(np.float32)


LINEAR = _linear()
WEIGHTS = np.array([0.2126, 0.7152, 0.0722], np.float32)


def luminance(colours: Rgb) -> Luminance:
    """Relative luminance, 0 to 1, of sRGB colours of shape (…, 3)."""
    found: Luminance = LINEAR[colours] @ WEIGHTS
    return found


def contrast(inside: Rgb, edge: Rgb) -> float:
    """How much letters stand out, 1 to 21: colours of shape (n, 3) in them and around them.

    A quarter of the edge may be worse.
    """
    letters = float(luminance(inside).mean())
    around = luminance(edge)
    ratios = (np.maximum(around, letters) + 0.05) / (np.minimum(around, letters) + 0.05)
    return float(np.percentile(ratios, EDGE))


def moments(cue: Cue) -> list[tuple[int, list[int]]]:
    """For each word of a caption when it goes live, and when it is looked at, in piece µs, the
    likeliest moment to be readable first."""
    starts = [word.start_us for word in cue.words]
    lives = live_spans(starts, cue.start_us, cue.end_us)
    return [
        (start, [min(end - 1, int(start + share * (end - start))) for share in SAID])
        for start, end in lives
    ]


def remedies(finish: Finish, letters: float) -> Iterator[tuple[Way, dict[str, JsonValue]]]:
    """What may help letters of a luminance in a finish: changes of it, the mildest of each way first.

    An outline and a plate take the colour that letters stand out from; places are other heights,
    the nearest first.
    """
    dark, light = luminance(np.array([DARK, LIGHT], np.uint8))
    # Halfway between two luminances, as contrast goes, lies their geometric mean.
    ground = DARK if (letters + 0.05) ** 2 > (dark + 0.05) * (light + 0.05) else LIGHT
    rims = [rim.model_dump(mode="json") for rim in finish.outlines[:2]]
    yield "outline", {"outlines": [{"width": RIM, "colour": [*ground, RIM_OPACITY]}, *rims]}
    if finish.plate is not None:
        yield "plate", {"plate.colour": [*ground, PLATE_OPACITY]}
    else:
        box: dict[str, JsonValue] = {"pad_x": 0.22, "pad_y": 0.06, "radius": 0.16}
        yield "plate", {"plate": {"colour": [*ground, PLATE_OPACITY], "behind": "line", **box}}
    place = finish.place
    now = place.dy + {"top": -0.5, "middle": 0.0, "bottom": 0.5}[place.down]
    for height in sorted(HEIGHTS, key=lambda one: abs(one - now)):
        if abs(height - now) > 0.04:
            yield "place", {"place.down": "middle", "place.dy": height}
