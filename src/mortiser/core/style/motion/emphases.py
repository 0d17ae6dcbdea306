"""What a word does while it is being said, and back. To add one: as in ``entrances``."""

from __future__ import annotations

from collections.abc import Callable

from mortiser.core.style.finish.motions import Emphasis
from mortiser.core.style.finish.names import EmphasisName
from mortiser.core.style.motion.layers import MotionLayer
from mortiser.core.style.motion.track import Key, Track

GROWTH = 0.16
RISE = 0.14
LEAN = 5.0


def emphasis_layer(
    emphasis: Emphasis, live: tuple[int, int], size: float, pivot: tuple[float, float]
) -> MotionLayer:
    """The layer of a word that is live (piece µs) at a type size in pixels."""
    make = EMPHASES.get(emphasis.kind)
    return make(emphasis, live, size, pivot) if make else MotionLayer(pivot)


def _there_and_back(
    emphasis: Emphasis, live: tuple[int, int], rest: tuple[float, ...], peak: tuple[float, ...]
) -> Track:
    """To ``peak`` as the word begins, back to ``rest`` as the next one does."""
    start, end = live
    way = max(1, min(emphasis.duration_ms * 1000, (end - start) * 2 // 5))
    return (
        Key(start, rest),
        Key(start + way, peak, emphasis.curve),
        Key(max(start + way + 1, end), peak),
        Key(max(start + way + 1, end) + way, rest, "out"),
    )


def _grow(
    emphasis: Emphasis, live: tuple[int, int], size: float, pivot: tuple[float, float]
) -> MotionLayer:
    peak = (1 + GROWTH * emphasis.strength,)
    return MotionLayer(pivot, scale=_there_and_back(emphasis, live, (1.0,), peak))


def _lift(
    emphasis: Emphasis, live: tuple[int, int], size: float, pivot: tuple[float, float]
) -> MotionLayer:
    peak = 0.0, -RISE * size * emphasis.strength
    return MotionLayer(pivot, move=_there_and_back(emphasis, live, (0.0, 0.0), peak))


def _tilt(
    emphasis: Emphasis, live: tuple[int, int], size: float, pivot: tuple[float, float]
) -> MotionLayer:
    peak = (-LEAN * emphasis.strength,)
    return MotionLayer(
        pivot,
        turn=_there_and_back(emphasis, live, (0.0,), peak),
        scale=_there_and_back(emphasis, live, (1.0,), (1 + GROWTH / 2 * emphasis.strength,)),
    )


def _pulse(
    emphasis: Emphasis, live: tuple[int, int], size: float, pivot: tuple[float, float]
) -> MotionLayer:
    """Up and down once, whatever the word's length."""
    start, end = live
    way = max(1, min(emphasis.duration_ms * 1000, (end - start) // 2))
    peak = (1 + 1.5 * GROWTH * emphasis.strength,)
    scale = (
        Key(start, (1.0,)),
        Key(start + max(1, way // 2), peak, "out"),
        Key(start + max(2, way + way // 2), (1.0,), "inout"),
    )
    return MotionLayer(pivot, scale=scale)


EMPHASES: dict[
    EmphasisName, Callable[[Emphasis, tuple[int, int], float, tuple[float, float]], MotionLayer]
] = {"grow": _grow, "lift": _lift, "tilt": _tilt, "pulse": _pulse}
"""All but ``none`` and ``ink``: that one runs a paint through the letters (see ``paints``)."""
