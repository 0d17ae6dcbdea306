"""Gentle motion for as long as a caption stands. To add one: as in ``entrances``."""

from __future__ import annotations

from itertools import cycle

from mortiser.core.style.finish.motions import Loop
from mortiser.core.style.motion.layers import MotionLayer
from mortiser.core.style.motion.track import Key, Track


def loop_layer(
    loop: Loop, span: tuple[int, int], size: float, pivot: tuple[float, float], part: int = 0
) -> MotionLayer:
    """The layer of a part that stands during ``span`` (piece µs); ``part`` n starts out of step."""
    match loop.kind:
        case "none":
            return MotionLayer(pivot)
        case "sway":
            lean = 2.2 * loop.strength
            return MotionLayer(pivot, turn=_waves(loop, span, part, (-lean,), (lean,)))
        case "breathe":
            swing = 0.035 * loop.strength
            return MotionLayer(pivot, scale=_waves(loop, span, part, (1 - swing,), (1 + swing,)))
        case "bob":
            far = 0.07 * size * loop.strength
            return MotionLayer(pivot, move=_waves(loop, span, part, (0.0, -far), (0.0, far)))


def _waves(
    loop: Loop,
    span: tuple[int, int],
    part: int,
    low: tuple[float, ...],
    high: tuple[float, ...],
) -> Track:
    """Back and forth between two values, a whole wave in each period."""
    start, end = span
    half = loop.period_ms * 500
    at = start - (part * 2 * half // 5) % (2 * half)
    keys = []
    for value in cycle((low, high)):
        keys.append(Key(at, value, "inout"))
        if at >= end:
            break
        at += half
    return tuple(keys)
