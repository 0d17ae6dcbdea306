"""The other picture comes from a side."""

from __future__ import annotations

import cv2
import numpy as np

from mortiser.core.common.easing import eased
from mortiser.media.picture import Planes
from mortiser.render.transitions.pair import Pair, Three

STREAK = 0.16
"""How far a whip is blurred at its quickest, a share of its way."""


def slide(pair: Pair) -> Three:
    """The other comes over the one, which rests."""
    return _shifted(pair, pair.share, pushed=False)


def push(pair: Pair) -> Three:
    """The other pushes the one away."""
    return _shifted(pair, pair.share, pushed=True)


def whip(pair: Pair) -> Three:
    """A push that is quick in its middle and blurred along its way."""
    share = pair.share
    across = pair.transition.direction in ("left", "right")
    length = pair.size[0 if across else 1] * STREAK * 4 * share * (1 - share)
    found = []
    for index, plane in enumerate(_shifted(pair, eased(share), pushed=True)):
        reach = 1 + 2 * round(length / (2 if index == 0 else 4))
        kernel = (reach, 1) if across else (1, reach)
        found.append(np.asarray(cv2.blur(plane, kernel), np.uint8))
    return found


def _shifted(pair: Pair, share: float, *, pushed: bool) -> Three:
    """The other picture so far in the frame; the one at rest, or as far out of it."""
    way = pair.transition.direction
    length = pair.size[0 if way in ("left", "right") else 1]
    # Even, so that colours move as far as what they are of.
    off = 2 * round(share * length / 2)
    return [
        _beside(one, other, off if index == 0 else off // 2, way, pushed=pushed)
        for index, (one, other) in enumerate(zip(pair.one, pair.other, strict=True))
    ]


def _beside(one: Planes, other: Planes, off: int, way: str, *, pushed: bool) -> Planes:
    if way in ("right", "down"):
        # The same seen in a mirror.
        turned = (
            (slice(None), slice(None, None, -1)) if way == "right" else (slice(None, None, -1),)
        )
        back = "left" if way == "right" else "up"
        found = _beside(one[turned], other[turned], off, back, pushed=pushed)
        return np.ascontiguousarray(found[turned])
    if way == "up":
        return np.ascontiguousarray(_beside(one.T, other.T, off, "left", pushed=pushed).T)
    width = one.shape[1]
    made = np.empty_like(one)
    made[:, : width - off] = one[:, off:] if pushed else one[:, : width - off]
    made[:, width - off :] = other[:, :off]
    return made
