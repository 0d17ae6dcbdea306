"""What a lens would do: closer, or out of focus."""

from __future__ import annotations

import cv2
import numpy as np

from mortiser.media.picture import Planes
from mortiser.render.transitions.pair import Pair, Three, faded

NEARER, FURTHER = 1.8, 0.7
"""How large the one is at the end, and the other at the beginning."""
SOFTEST = 0.035
"""Sigma in the middle of a blur, a share of the frame's short side."""
SMALL = 4
"""Soft pictures are worked out at this part of their size."""


def zoom(pair: Pair) -> Three:
    """Into the one, and the other is there."""
    share = pair.share
    one = [_scaled(plane, 1 + (NEARER - 1) * share) for plane in pair.one]
    other = [_scaled(plane, FURTHER + (1 - FURTHER) * share) for plane in pair.other]
    return faded(one, other, share)


def blur(pair: Pair) -> Three:
    """Out of focus, and the other comes into it."""
    share = pair.share
    sigma = SOFTEST * min(pair.size) * 4 * share * (1 - share)
    over = min(1.0, max(0.0, 3 * share - 1))
    seen = faded(pair.one, pair.other, over) if 0 < over < 1 else (pair.other if over else pair.one)
    return [soft(plane, sigma / (1 if index == 0 else 2)) for index, plane in enumerate(seen)]


def soft(plane: Planes, sigma: float) -> Planes:
    """A plane blurred by a Gaussian of ``sigma`` pixels."""
    if sigma < 0.3:
        return plane
    rows, columns = plane.shape
    if sigma < 2 * SMALL or min(rows, columns) < 4 * SMALL:
        return np.asarray(cv2.GaussianBlur(plane, (0, 0), sigma), np.uint8)
    small = cv2.resize(plane, (columns // SMALL, rows // SMALL), interpolation=cv2.INTER_AREA)
    softer = cv2.GaussianBlur(small, (0, 0), sigma / SMALL)
    return np.asarray(cv2.resize(softer, (columns, rows), interpolation=cv2.INTER_LINEAR), np.uint8)


def _scaled(plane: Planes, by: float) -> Planes:
    """A plane made larger or smaller about its middle, mirrored where it does not reach."""
    rows, columns = plane.shape
    x, y = (columns - 1) / 2 * (1 - by), (rows - 1) / 2 * (1 - by)
    turn = np.array([[by, 0, x], [0, by, y]], np.float64)
    found = cv2.warpAffine(
        plane, turn, (columns, rows), flags=cv2.INTER_LINEAR, borderMode=cv2.BORDER_REFLECT_101
    )
    return np.asarray(found, np.uint8)
