"""How captions, lines, words and letters come in.

To add one: write a function of the same form, name it in ENTRANCES and in ``EntranceName``
(core/style/finish/names.py).
"""

from __future__ import annotations

from collections.abc import Callable
from dataclasses import dataclass

from mortiser.core.style.finish.names import Curve, EntranceName
from mortiser.core.style.motion.layers import MotionLayer
from mortiser.core.style.motion.track import Ease, Key, Track


@dataclass(frozen=True, slots=True)
class Coming:
    """A part that comes in: from when (piece µs), how long it takes, the type size in pixels."""

    at_us: int
    length_us: int
    size: float
    pivot: tuple[float, float]
    strength: float
    curve: Curve

    def from_to(self, start: tuple[float, ...], rest: tuple[float, ...]) -> Track:
        """From ``start`` to ``rest`` along the curve."""
        return Key(self.at_us, start), Key(self.at_us + max(1, self.length_us), rest, self.curve)

    def seen(self, first: float = 0.0, share: float = 0.5) -> Track:
        """Not there before; then from ``first`` to whole within a share of the time."""
        goal = self.at_us + max(1, round(self.length_us * share))
        way: Ease = "linear"
        return (
            Key(self.at_us - 1, (0.0,)),
            Key(self.at_us, (first,), "hold"),
            Key(goal, (1.0,), way),
        )


def _appear(part: Coming) -> MotionLayer:
    """At once."""
    hidden = Key(part.at_us - 1, (0.0,)), Key(part.at_us, (1.0,), "hold")
    return MotionLayer(part.pivot, opacity=hidden)


def _fade(part: Coming) -> MotionLayer:
    """From nothing, in place."""
    return MotionLayer(part.pivot, opacity=part.seen(share=1.0))


def _settle(part: Coming) -> MotionLayer:
    """Sinks the last bit into its place."""
    start = 0.0, -0.22 * part.size * part.strength
    return MotionLayer(part.pivot, opacity=part.seen(), move=part.from_to(start, (0.0, 0.0)))


def _rise(part: Coming) -> MotionLayer:
    """Comes up into its place and grows to size."""
    start = 0.0, 0.34 * part.size * part.strength
    small = max(0.1, 1 - 0.18 * part.strength)
    return MotionLayer(
        part.pivot,
        opacity=part.seen(first=0.35),
        move=part.from_to(start, (0.0, 0.0)),
        scale=part.from_to((small,), (1.0,)),
    )


def _drop(part: Coming) -> MotionLayer:
    """Falls into its place from well above."""
    start = 0.0, -0.9 * part.size * part.strength
    return MotionLayer(
        part.pivot, opacity=part.seen(share=0.3), move=part.from_to(start, (0.0, 0.0))
    )


def _slide(part: Coming) -> MotionLayer:
    """From the side."""
    start = -1.1 * part.size * part.strength, 0.0
    return MotionLayer(part.pivot, opacity=part.seen(), move=part.from_to(start, (0.0, 0.0)))


def _swell(part: Coming) -> MotionLayer:
    """Grows from small."""
    small = max(0.05, 1 - 0.6 * part.strength)
    return MotionLayer(
        part.pivot, opacity=part.seen(share=0.4), scale=part.from_to((small,), (1.0,))
    )


def _stamp(part: Coming) -> MotionLayer:
    """Comes down from large, as a stamp on paper."""
    large = 1 + 0.7 * part.strength
    return MotionLayer(
        part.pivot, opacity=part.seen(share=0.6), scale=part.from_to((large,), (1.0,))
    )


def _swing(part: Coming) -> MotionLayer:
    """Turns upright about its middle."""
    start = (-14.0 * part.strength,)
    return MotionLayer(
        part.pivot,
        opacity=part.seen(),
        turn=part.from_to(start, (0.0,)),
        scale=part.from_to((0.9,), (1.0,)),
    )


ENTRANCES: dict[EntranceName, Callable[[Coming], MotionLayer]] = {
    "appear": _appear,
    "fade": _fade,
    "settle": _settle,
    "rise": _rise,
    "drop": _drop,
    "slide": _slide,
    "swell": _swell,
    "stamp": _stamp,
    "swing": _swing,
}
"""All but ``none``, which has no layer."""
