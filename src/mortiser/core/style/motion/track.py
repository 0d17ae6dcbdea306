"""A keyframed value and the way it is read at a moment. The browser has the same few lines.

tests/cases/tracks.json holds the vectors that both must agree on.
"""

from __future__ import annotations

from bisect import bisect_right
from dataclasses import dataclass
from typing import Literal

Ease = Literal["hold", "linear", "out", "inout", "over"]
Value = tuple[float, ...]


@dataclass(frozen=True, slots=True)
class Key:
    """From ``at_us`` (piece time) the value is ``value``; ``ease`` shapes the way to it."""

    at_us: int
    value: Value
    ease: Ease = "linear"


Track = tuple[Key, ...]
"""Keys in time order, at least one, values of equal length."""


def eased(ease: Ease, x: float) -> float:
    """Progress for ``x`` in 0..1: cubic curves, ``over`` passing its goal by a tenth."""
    match ease:
        case "hold":
            return 0.0
        case "linear":
            return x
        case "out":
            return 1 - (1 - x) ** 3
        case "inout":
            return 4 * x**3 if x < 0.5 else 1 - (2 - 2 * x) ** 3 / 2
        case "over":
            return 1 + 2.70158 * (x - 1) ** 3 + 1.70158 * (x - 1) ** 2


def value_at(track: Track, at_us: int) -> Value:
    """The track's value at a moment: held before the first and after the last key."""
    index = bisect_right(track, at_us, key=lambda key: key.at_us)
    if index == 0:
        return track[0].value
    if index == len(track):
        return track[-1].value
    left, right = track[index - 1], track[index]
    x = eased(right.ease, (at_us - left.at_us) / (right.at_us - left.at_us))
    return tuple(a + (b - a) * x for a, b in zip(left.value, right.value, strict=True))


def fixed(*value: float) -> Track:
    """A track that never changes."""
    return (Key(0, value),)
