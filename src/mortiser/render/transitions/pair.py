"""What a transition is worked out from."""

from __future__ import annotations

from collections.abc import Callable, Sequence
from dataclasses import dataclass

import cv2
import numpy as np
import numpy.typing as npt

from mortiser.core.assembly.transition import Transition
from mortiser.media.picture import Planes
from mortiser.paint.inks import PlaneInks

Three = Sequence[Planes]
"""Luma (h, w), and both colour differences (h / 2, w / 2)."""
Weights = npt.NDArray[np.float32]
"""Of shape (h, w), 0 to 1."""


@dataclass(frozen=True)
class Pair:
    """Two pictures, and how much of the way from one to the other has been gone."""

    one: Three
    other: Three
    share: float
    transition: Transition
    inks: PlaneInks

    @property
    def size(self) -> tuple[int, int]:
        """Width and height in pixels."""
        rows, columns = self.one[0].shape
        return columns, rows


Mix = Callable[[Pair], Three]


def faded(one: Three, other: Three, share: float) -> Three:
    """One picture over another, ``share`` of the other."""
    return [
        np.asarray(cv2.addWeighted(a, 1 - share, b, share, 0), np.uint8)
        for a, b in zip(one, other, strict=True)
    ]


def blended(one: Three, other: Three, weights: Weights) -> Three:
    """As much of the other picture at each point as ``weights`` (of luma's size) say."""
    rows, columns = weights.shape
    half = np.asarray(
        cv2.resize(weights, (columns // 2, rows // 2), interpolation=cv2.INTER_AREA), np.float32
    )
    return [
        np.asarray(cv2.blendLinear(a, b, 1 - share, share), np.uint8)
        for a, b, share in zip(one, other, (weights, half, half), strict=True)
    ]
