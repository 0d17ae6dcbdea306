"""A layer of motion: what it does to everything inside it, around a point of the frame."""

from __future__ import annotations

from dataclasses import dataclass

from mortiser.core.style.motion.track import Track


@dataclass(frozen=True, slots=True)
class MotionLayer:
    """Opacity 0 to 1, ``move`` (dx, dy) in pixels, ``scale`` and ``turn`` (degrees clockwise).

    Inside a layer: turned and scaled about ``pivot``, then moved. What a layer does not touch is
    None.
    """

    pivot: tuple[float, float]
    opacity: Track | None = None
    move: Track | None = None
    scale: Track | None = None
    turn: Track | None = None

    @property
    def idle(self) -> bool:
        """Whether it does nothing at all."""
        return self.opacity is self.move is self.scale is self.turn is None


def kept(*layers: MotionLayer) -> tuple[MotionLayer, ...]:
    """The layers that do something, outermost first."""
    return tuple(layer for layer in layers if not layer.idle)
