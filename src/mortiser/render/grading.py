"""Grades put into planes: luma by a table, colour by tables of the luma beside it."""

from __future__ import annotations

from dataclasses import dataclass
from functools import lru_cache

import cv2
import numpy as np
import numpy.typing as npt

from mortiser.core.assembly.grade import Grade
from mortiser.media.picture import Planes
from mortiser.paint.inks import FOOT, GREY, PlaneInks
from mortiser.render.transitions.optical import soft
from mortiser.render.transitions.pair import Three, Weights

GAMMA = 2.2
"""Between light and luma."""
PIVOT = 0.45
"""The luma that contrast turns about: a face in good light."""
LIFT = 0.9
"""Of shadows and lights; more would turn dark and bright about."""
WARM, TINT = (-0.10, 0.08), (0.05, 0.06)
"""What they add to blue and red difference, for the brightest."""
EPSILON = 0.02
"""What is nearly black has hardly any colour to be made more of."""
DARKEST = 0.75
"""How much of the light a vignette takes from the corners."""
SOFTEST = 0.004
"""Sigma of softness, a share of the frame's short side."""
GRAIN = 26.0
"""Standard deviation of the strongest grain, of 255."""
GRAIN_SIDE = 540
"""Grain is as fine as it would be in a frame of this short side."""
FIELDS = 8
"""Of grain, one after another; so few are not seen to come again."""
Table = npt.NDArray[np.float32]


def graded(planes: Three, grade: Grade, inks: PlaneInks, number: int) -> Three:
    """Planes of yuv420p with a grade; ``number`` says which of the fields of grain is put on."""
    if grade.plain:
        return planes
    tables = _tables(grade, inks)
    luma = np.asarray(cv2.LUT(planes[0], tables.luma), np.uint8)
    blue, red = _coloured(planes, tables)
    made = [luma, blue, red]
    size = luma.shape[1], luma.shape[0]
    if grade.softness:
        sigma = SOFTEST * min(size)
        shares = (sigma, sigma / 2, sigma / 2)
        made = [_softened(one, own, grade.softness) for one, own in zip(made, shares, strict=True)]
    if grade.vignette:
        made = _darkened(made, grade.vignette, inks)
    if grade.grain:
        field = _grain(size, number % FIELDS)
        shown = cv2.addWeighted(made[0].astype(np.float32), 1, field, grade.grain * GRAIN, 0)
        low, high = (0, 255) if inks.full else (FOOT, 235)
        made[0] = np.clip(np.rint(shown), low, high).astype(np.uint8)
    return made


@dataclass(frozen=True)
class _Tables:
    luma: Planes
    """The luma for each luma."""
    gain: Table
    """What colour is multiplied by beside each luma."""
    blue: Table
    red: Table
    """What is added to the colour differences beside each luma."""

    @property
    def plain(self) -> bool:
        return not (self.blue.any() or self.red.any() or (self.gain != 1).any())


@lru_cache(maxsize=32)
def _tables(grade: Grade, inks: PlaneInks) -> _Tables:
    foot, reach = (0, 255) if inks.full else (FOOT, 219)
    was = np.clip((np.arange(256) - foot) / reach, 0, 1)
    now = was * 2 ** (grade.exposure / GAMMA)
    now = PIVOT + (now - PIVOT) * 2**grade.contrast
    now = np.clip(now, 0, 1)
    now = (
        now + LIFT * grade.shadows * now * (1 - now) ** 3 + LIFT * grade.lights * now**3 * (1 - now)
    )
    now = np.clip(now, 0, 1)
    # As it is, below black and above white too, where nothing of it changes.
    luma = np.arange(256) if np.allclose(now, was) else np.rint(foot + reach * now)
    gain = (now + EPSILON) / (was + EPSILON) * (1 + grade.saturation)
    colour = 255 if inks.full else 224
    added = [
        colour * now * (grade.warmth * warm + grade.tint * tint)
        for warm, tint in zip(WARM, TINT, strict=True)
    ]
    floats = [np.asarray(one, np.float32) for one in (gain, *added)]
    return _Tables(luma.astype(np.uint8), *floats)


def _coloured(planes: Three, tables: _Tables) -> tuple[Planes, Planes]:
    if tables.plain:
        return planes[1], planes[2]
    rows, columns = planes[1].shape
    beside = cv2.resize(planes[0], (columns, rows), interpolation=cv2.INTER_AREA)
    gain = cv2.LUT(beside, tables.gain)
    found = []
    for plane, added in zip(planes[1:], (tables.blue, tables.red), strict=True):
        shown = cv2.multiply(plane.astype(np.float32) - GREY, gain) + GREY
        if added.any():
            shown = cv2.add(shown, cv2.LUT(beside, added))
        found.append(_rounded(shown))
    return found[0], found[1]


def _softened(plane: Planes, sigma: float, strength: float) -> Planes:
    softer = soft(plane, sigma)
    return np.asarray(cv2.addWeighted(plane, 1 - strength, softer, strength, 0), np.uint8)


def _darkened(planes: Three, strength: float, inks: PlaneInks) -> list[Planes]:
    found = []
    for index, plane in enumerate(planes):
        base = GREY if index else (0 if inks.full else FOOT)
        left, added = _less((plane.shape[1], plane.shape[0]), strength, base)
        # In bytes: five times as fast as in numbers with fractions, and no more than one of 255 apart.
        shown = cv2.add(cv2.multiply(plane, left, scale=1 / 255), added)
        found.append(np.asarray(shown, np.uint8))
    return found


@lru_cache(maxsize=12)
def _less(size: tuple[int, int], strength: float, base: int) -> tuple[Planes, Planes]:
    """How much of each point is left (of 255), and what of what stands for nothing comes in its stead."""
    left = np.rint(255 * (1 - strength * DARKEST * _corners(size)))
    return left.astype(np.uint8), np.rint(base * (1 - left / 255)).astype(np.uint8)


@lru_cache(maxsize=6)
def _corners(size: tuple[int, int]) -> Weights:
    """How near each point is to a corner: 0 in the middle and well around it, 1 there."""
    columns, rows = size
    x = (np.arange(columns, dtype=np.float32) + 0.5) / columns * 2 - 1
    y = (np.arange(rows, dtype=np.float32) + 0.5) / rows * 2 - 1
    far = np.hypot(x[None, :], y[:, None]) / np.sqrt(2)
    near = np.clip((far - 0.35) / 0.65, 0, 1)
    return np.asarray(near * near * (3 - 2 * near), np.float32)


@lru_cache(maxsize=FIELDS)
def _grain(size: tuple[int, int], number: int) -> Table:
    columns, rows = size
    share = GRAIN_SIDE / min(size)
    small = (max(1, round(columns * share)), max(1, round(rows * share)))
    dice = np.random.default_rng(number)
    field = dice.standard_normal((small[1], small[0]), np.float32)
    way = cv2.INTER_AREA if share > 1 else cv2.INTER_CUBIC
    return np.asarray(cv2.resize(field, size, interpolation=way), np.float32)


def _rounded(plane: npt.NDArray[np.generic]) -> Planes:
    return np.asarray(np.clip(np.rint(plane), 0, 255), np.uint8)
