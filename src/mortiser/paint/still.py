"""A still: one frame of a recording with its captions, as the delivery shows it."""

from __future__ import annotations

from collections.abc import Iterator
from fractions import Fraction
from pathlib import Path

import av
import numpy as np
import skia

from mortiser.core.errors import BadMedia
from mortiser.core.scene import Shows
from mortiser.media.opening import moving_picture, open_media, reason
from mortiser.media.picture import turned
from mortiser.paint.burn import Veils, backdrop

SLACK_US = 1_000
"""A moment this little before a frame is meant to be that frame."""


def still(path: Path, shows: Shows, size: tuple[int, int], source_us: int, at_us: int) -> bytes:
    """A PNG of ``size`` pixels: the frame at a moment of the source, captions of one of the piece.

    Raises BadMedia.
    """
    try:
        with open_media(path) as container:
            picture = moving_picture(container)
            if picture is None:
                frame = next(backdrop(size, 1))
            else:
                container.seek(max(0, source_us - SLACK_US))
                frame = _frame_at(container.decode(picture), source_us)
    except av.error.FFmpegError as error:
        raise BadMedia(f"This frame of the recording cannot be read. ({reason(error)})") from error
    Veils(shows).put_on(frame, at_us)
    rgb = frame.reformat(format="rgba", src_colorspace=frame.colorspace).to_ndarray()
    # Rows of a picture may be padded, which skia does not take.
    image = skia.Image.fromarray(np.ascontiguousarray(rgb), colorType=skia.kRGBA_8888_ColorType)
    return bytes(image.encodeToData(skia.kPNG, 100))


def _frame_at(frames: Iterator[av.VideoFrame], source_us: int) -> av.VideoFrame:
    """The last frame that has begun by a moment; the first one where none has."""
    found: av.VideoFrame | None = None
    for frame in frames:
        if frame.pts is None:
            continue
        begins = frame.pts * (frame.time_base or Fraction(1)) * 1_000_000
        if found is not None and begins > source_us + SLACK_US:
            break
        found = frame
    if found is None:
        raise BadMedia("There is no frame at this moment of the recording.")
    return turned(found)
