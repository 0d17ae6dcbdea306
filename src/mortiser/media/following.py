"""A box drawn by hand, followed through a recording by what is in it.

Normalised cross-correlation (J. P. Lewis, "Fast normalized cross-correlation", 1995) with what was drawn and
with how it looked last, near where it was; over the whole picture where it is not found there.
"""

from __future__ import annotations

from collections.abc import Callable, Sequence
from pathlib import Path

import cv2
import numpy as np
import numpy.typing as npt

from mortiser.core.common.errors import BadInput, BadMedia
from mortiser.core.framing.subject import LOOK_US, Face, Track
from mortiser.media.faces import SIDE, small_pictures

ALIKE, LOST = 0.8, 0.45
"""Correlations: the look is learned above the first; below the second it is looked for everywhere."""
REACH = 0.22
"""How far from its last place it is looked for at first, a share of the picture's longer side."""
SCALES = (1.0, 0.94, 1.06)
LEAST_PX = 8
LONGEST_US = 600_000_000
"""No more than so much of a recording is followed to either side, as its pictures are kept meanwhile."""

Grey = npt.NDArray[np.uint8]
Box = tuple[float, float, float, float]
"""Middle, width and height, in shares of the picture."""


def follow_box(
    path: Path,
    at_us: int,
    box: Box,
    stretch_us: tuple[int, int],
    progress: Callable[[float], None],
) -> Track:
    """Where what is in a box at a moment is over a stretch of a recording, a look at a time.

    ``progress`` gets 0..1 and may raise to stop. Raises BadMedia, BadInput.
    """
    first = max(stretch_us[0], at_us - LONGEST_US) // LOOK_US
    last = min(stretch_us[1], at_us + LONGEST_US) // LOOK_US
    looks = _looks(path, first, last, lambda part: progress(0.8 * part))
    here = min(max(0, at_us // LOOK_US - first), len(looks) - 1)
    if not looks:
        raise BadMedia("This stretch of the recording has no picture to look at.")
    ahead = _follow(looks[here:], box)
    before = _follow(looks[here::-1], box)[1:]
    progress(1.0)
    faces = (*before[::-1], *ahead)
    return Track(looks=tuple(range(first, first + len(faces))), faces=faces, drawn=True)


def _looks(path: Path, first: int, last: int, progress: Callable[[float], None]) -> list[Grey]:
    """Small grey pictures of the looks from ``first`` to ``last``, one each."""
    found: list[Grey] = []
    for picture, count in small_pictures(path, first, last):
        found += [np.asarray(cv2.cvtColor(picture, cv2.COLOR_RGB2GRAY), np.uint8)] * count
        progress(len(found) / (last - first + 1))
    return found


def _follow(looks: Sequence[Grey], box: Box) -> list[Face]:
    """The box in each of the pictures, which begin with the one it was drawn in."""
    rows, columns = looks[0].shape
    x, y = box[0] * columns, box[1] * rows
    wide, high = box[2] * columns, box[3] * rows
    drawn = _cut(looks[0], x, y, wide, high)
    if min(drawn.shape) < LEAST_PX:
        raise BadInput("That box is too small to be followed. Draw a larger one.")
    latest, scale = drawn, 1.0
    found = [Face(x=box[0], y=box[1], width=box[2], height=box[3], score=1.0)]
    for grey in looks[1:]:
        near = _within(grey, x, y, REACH * SIDE + max(wide, high))
        score, at, grown = _best(grey, near, (drawn, latest), scale)
        if score < LOST:
            everywhere = _best(grey, (0, 0, columns, rows), (drawn,), scale)
            if everywhere[0] > max(LOST, score):
                score, at, grown = everywhere
        if score >= LOST:
            (x, y), scale = at, min(3.0, max(0.33, grown))
        if score > ALIKE:
            latest = _cut(grey, x, y, wide * scale, high * scale)
            if min(latest.shape) < LEAST_PX:
                latest = drawn
        found.append(
            Face(
                x=x / columns,
                y=y / rows,
                width=box[2] * scale,
                height=box[3] * scale,
                score=max(0.0, score),
            )
        )
    return found


def _best(
    grey: Grey, within: tuple[int, int, int, int], likes: Sequence[Grey], scale: float
) -> tuple[float, tuple[float, float], float]:
    """The correlation, the middle and the size of what is most like one of the pictures."""
    left, top, right, low = within
    part = grey[top:low, left:right]
    best = -1.0, (0.0, 0.0), scale
    for number, like in enumerate(likes):
        # What was drawn has grown since; how it looked last has not.
        for step in SCALES:
            share = step * (scale if number == 0 else 1.0)
            sought = np.asarray(cv2.resize(like, None, fx=share, fy=share), np.uint8)
            rows, columns = sought.shape
            if rows > part.shape[0] or columns > part.shape[1] or min(rows, columns) < LEAST_PX:
                continue
            map_ = cv2.matchTemplate(part, sought, cv2.TM_CCOEFF_NORMED)
            _, score, _, at = cv2.minMaxLoc(map_)
            # A size is kept unless another one is clearly better.
            score -= 0.0 if step == 1.0 else 0.02
            if score > best[0]:
                middle = left + at[0] + columns / 2, top + at[1] + rows / 2
                best = score, middle, step * scale
    return best


def _cut(grey: Grey, x: float, y: float, wide: float, high: float) -> Grey:
    rows, columns = grey.shape
    left, right = max(0, round(x - wide / 2)), min(columns, round(x + wide / 2))
    top, low = max(0, round(y - high / 2)), min(rows, round(y + high / 2))
    return grey[top:low, left:right].copy()


def _within(grey: Grey, x: float, y: float, reach: float) -> tuple[int, int, int, int]:
    rows, columns = grey.shape
    return (
        max(0, int(x - reach)),
        max(0, int(y - reach)),
        min(columns, int(x + reach)),
        min(rows, int(y + reach)),
    )
