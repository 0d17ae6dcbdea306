"""What a file says of itself, without walking through it: enough to be listed."""

from __future__ import annotations

from pathlib import Path

import av

from mortiser.core.common.errors import MortiserError
from mortiser.media.opening import moving_picture, open_media


def length_and_sides(path: Path) -> tuple[int, tuple[int, int]]:
    """The length (µs) and the sides (pixels) that a film or a sound states; 0 where it does not say."""
    try:
        with open_media(path) as container:
            picture = moving_picture(container)
            sides = (picture.width, picture.height) if picture else (0, 0)
            length = round((container.duration or 0) * 1_000_000 / av.time_base)
    except (MortiserError, OSError):
        return 0, (0, 0)
    return max(0, length), sides
