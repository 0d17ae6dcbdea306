"""Pictures that move by themselves (GIF, animated WebP), read."""

from __future__ import annotations

from dataclasses import dataclass
from pathlib import Path

import numpy as np
import numpy.typing as npt
from PIL import Image, ImageSequence

from mortiser.core.common.errors import BadMedia

LEAST_SHOWN_US = 20_000
"""Frames that say they show for a shorter time, or for none, are shown for so long."""


@dataclass(frozen=True)
class Moving:
    """Size in pixels, how long each frame shows (µs)."""

    size: tuple[int, int]
    shows_us: tuple[int, ...]


def read_moving(path: Path) -> Moving:
    """What a moving picture is. Raises BadMedia."""
    try:
        with Image.open(path, formats=("GIF", "WEBP")) as picture:
            return Moving(picture.size, tuple(map(_shows_us, ImageSequence.Iterator(picture))))
    except (OSError, ValueError, SyntaxError) as error:
        raise BadMedia("That picture cannot be read.") from error


def light_at(path: Path, at_us: int) -> npt.NDArray[np.uint8]:
    """How light a moving picture is at a moment: of shape (h, w)."""
    with Image.open(path, formats=("GIF", "WEBP")) as picture:
        end = 0
        for frame in ImageSequence.Iterator(picture):
            end += _shows_us(frame)
            if at_us < end:
                break
        return np.asarray(frame.convert("RGB").convert("L"), np.uint8)


class MovingPicture:
    """The frames of a moving picture that is kept (an APNG); best asked forwards."""

    def __init__(self, path: Path) -> None:
        """Raises OSError."""
        self._image = Image.open(path, formats=("PNG",))
        self._number = -1
        self._begins_us = self._ends_us = 0
        self._pixels: npt.NDArray[np.uint8] | None = None

    def at(self, at_us: int) -> tuple[int, npt.NDArray[np.uint8]]:
        """The number of the frame that shows at a moment, and its BGRA pixels; the last one behind its end."""
        if at_us < self._begins_us:
            self._number, self._begins_us, self._ends_us, self._pixels = -1, 0, 0, None
        while self._pixels is None or (
            at_us >= self._ends_us and self._number + 1 < getattr(self._image, "n_frames", 1)
        ):
            self._image.seek(self._number + 1)
            self._number += 1
            self._begins_us = self._ends_us
            self._ends_us += shown_us(self._image)
            rgba = np.asarray(self._image.convert("RGBA"), np.uint8)
            self._pixels = np.ascontiguousarray(rgba[..., [2, 1, 0, 3]])
        return self._number, self._pixels


def shown_us(frame: Image.Image) -> int:
    """How long a frame shows when it is played."""
    return max(LEAST_SHOWN_US, _shows_us(frame))


def _shows_us(frame: Image.Image) -> int:
    frame.load()  # Before that a WebP does not say.
    return round(1_000 * float(frame.info.get("duration", 0)))
