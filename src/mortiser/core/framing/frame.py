"""The frame a piece is shown in."""

from mortiser.core.style.finish.parts import Colour

BACKDROP: Colour = (46, 60, 64, 255)
"""What stands behind captions where a recording has no picture."""

BACKDROP_FPS = 30
"""Frames a second of a piece without a moving picture."""


def even_size(width: int, height: int) -> tuple[int, int]:
    """The size that video with halved colour planes can have: odd edges lose a pixel."""
    return max(2, width & ~1), max(2, height & ~1)
