"""One picture fades into the other."""

from __future__ import annotations

import cv2
import numpy as np

from mortiser.render.transitions.pair import Pair, Three, faded


def dissolve(pair: Pair) -> Three:
    """As much of the other as has gone over."""
    return faded(pair.one, pair.other, pair.share)


def through_colour(pair: Pair) -> Three:
    """Into a colour, and out of it."""
    first = pair.share < 0.5
    shown = pair.one if first else pair.other
    covered = 2 * pair.share if first else 2 - 2 * pair.share
    colour = pair.inks.colour(pair.transition.colour)
    values = np.arange(256)
    return [
        np.asarray(cv2.LUT(plane, np.rint(values + (ink - values) * covered).astype(np.uint8)))
        for plane, ink in zip(shown, colour, strict=False)
    ]
