"""Pictures that move by themselves (GIF, animated WebP), read."""

from __future__ import annotations

from dataclasses import dataclass
from pathlib import Path

import numpy as np
import numpy.typing as npt
from PIL import Image, ImageSequence

from mortiser.core.common.errors import BadMedia


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


def _shows_us(frame: Image.Image) -> int:
    frame.load()  # Before that a WebP does not say.
    return round(1_000 * float(frame.info.get("duration", 0)))
