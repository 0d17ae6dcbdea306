"""How captions and words go. To add one: as in ``entrances``."""

from __future__ import annotations

from mortiser.core.style.finish.motions import Exit
from mortiser.core.style.motion.layers import MotionLayer
from mortiser.core.style.motion.track import Key, Track


def exit_layer(
    leaving: Exit, span: tuple[int, int], size: float, pivot: tuple[float, float]
) -> MotionLayer:
    """The layer of a part that goes within ``span`` (piece µs) and is gone at its end."""
    start, end = span

    def way(rest: tuple[float, ...], gone: tuple[float, ...], linear: bool = False) -> Track:
        return Key(start, rest), Key(end, gone, "linear" if linear else leaving.curve)

    if end <= start:
        return MotionLayer(pivot)
    far = size * leaving.strength
    fading = way((1.0,), (0.0,), linear=True)
    match leaving.kind:
        case "none":
            return MotionLayer(pivot)
        case "fade":
            return MotionLayer(pivot, opacity=fading)
        case "sink":
            return MotionLayer(pivot, opacity=fading, move=way((0.0, 0.0), (0.0, 0.3 * far)))
        case "lift_off":
            return MotionLayer(pivot, opacity=fading, move=way((0.0, 0.0), (0.0, -0.3 * far)))
        case "shrink":
            small = max(0.05, 1 - 0.5 * leaving.strength)
            return MotionLayer(pivot, opacity=fading, scale=way((1.0,), (small,)))
