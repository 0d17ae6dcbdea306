"""An edge uncovers the other picture: every point has its turn, early (0) or late (1)."""

from __future__ import annotations

from functools import lru_cache

import cv2
import numpy as np

from mortiser.core.framing.own_picture import OwnPicture
from mortiser.render.backdrops import solid_pixels
from mortiser.render.transitions.pair import Pair, Three, Weights, blended, faded

HARDEST = 0.004
"""An edge is at least this soft, so that it does not go in steps."""


def wipe(pair: Pair) -> Three:
    """Across the frame."""
    return _uncovered(pair, _across(pair.size, pair.transition.direction))


def iris(pair: Pair) -> Three:
    """From the middle on, in a circle."""
    return _uncovered(pair, _round(pair.size))


def by_picture(pair: Pair) -> Three:
    """Where a picture of the user's own is dark first; dissolved where it is not in this workspace."""
    picture = pair.transition.picture
    turns = None if picture is None else _of_picture(picture, pair.size)
    return faded(pair.one, pair.other, pair.share) if turns is None else _uncovered(pair, turns)


def _uncovered(pair: Pair, turns: Weights) -> Three:
    soft = max(HARDEST, pair.transition.soft)
    weights = np.clip((pair.share * (1 + soft) - turns) / soft, 0, 1)
    return blended(pair.one, pair.other, weights.astype(np.float32))


@lru_cache(maxsize=8)
def _across(size: tuple[int, int], way: str) -> Weights:
    columns, rows = size
    length = columns if way in ("left", "right") else rows
    turns = (np.arange(length, dtype=np.float32) + 0.5) / length
    if way in ("left", "up"):
        turns = turns[::-1]
    along = turns[None, :] if way in ("left", "right") else turns[:, None]
    return np.ascontiguousarray(np.broadcast_to(along, (rows, columns)))


@lru_cache(maxsize=4)
def _round(size: tuple[int, int]) -> Weights:
    columns, rows = size
    x = np.arange(columns, dtype=np.float32) + 0.5 - columns / 2
    y = np.arange(rows, dtype=np.float32) + 0.5 - rows / 2
    far = np.hypot(x[None, :], y[:, None]) / np.hypot(columns / 2, rows / 2)
    return np.asarray(far, np.float32)


@lru_cache(maxsize=4)
def _of_picture(picture: OwnPicture, size: tuple[int, int]) -> Weights | None:
    solid = solid_pixels(picture, (picture.width, picture.height))
    if solid is None:
        return None
    grey = cv2.cvtColor(solid, cv2.COLOR_BGR2GRAY)
    fitted = cv2.resize(grey, size, interpolation=cv2.INTER_AREA).astype(np.float32)
    low, high = float(fitted.min()), float(fitted.max())
    return np.asarray((fitted - low) / max(1.0, high - low), np.float32)
