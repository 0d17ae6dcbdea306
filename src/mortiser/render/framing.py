"""Put a picture into the programme's frame: scaled, whole, with the backdrop beside it."""

from __future__ import annotations

from fractions import Fraction

import av
from av.video.reformatter import VideoReformatter

from mortiser.core.frame import BACKDROP, even_size
from mortiser.media.picture import plane_of
from mortiser.paint.inks import PlaneInks
from mortiser.render.blend import inks_of

ALIKE = 0.01
"""Shapes that differ by no more than this are taken for the same."""


def framed(
    frame: av.VideoFrame,
    size: tuple[int, int],
    scaler: VideoReformatter,
    aspect: Fraction = Fraction(1),
) -> av.VideoFrame:
    """An upright yuv420p frame in a frame of ``size`` pixels; ``aspect`` says how much wider than high
    its pixels are meant to be seen. A ``scaler`` that is kept for all frames of a recording is three
    times as fast as a new one for each."""
    if (frame.width, frame.height) == size and aspect == 1:
        return frame
    width, height = frame.width * aspect, Fraction(frame.height)
    if abs(float(width * size[1] / (height * size[0])) - 1) <= ALIKE:
        return _scaled(frame, size, scaler)
    share = min(size[0] / width, size[1] / height)
    inner = even_size(round(width * share), round(height * share))
    picture = _scaled(frame, inner, scaler)
    whole = av.VideoFrame(*size, picture.format.name)
    colour = _planes(inks_of(frame))
    left, top = (size[0] - inner[0]) // 4 * 2, (size[1] - inner[1]) // 4 * 2
    for index in range(3):
        step = 1 if index == 0 else 2
        plane = plane_of(whole, index)
        plane[...] = colour[index]
        part = plane_of(picture, index)
        rows, columns = part.shape
        plane[top // step : top // step + rows, left // step : left // step + columns] = part
    whole.colorspace, whole.color_range = frame.colorspace, frame.color_range
    whole.pts, whole.time_base = frame.pts, frame.time_base
    return whole


def _scaled(frame: av.VideoFrame, size: tuple[int, int], scaler: VideoReformatter) -> av.VideoFrame:
    if (frame.width, frame.height) == size:
        return frame
    scaled = scaler.reformat(frame, *size)
    scaled.pts, scaled.time_base = frame.pts, frame.time_base
    return scaled


def _planes(inks: PlaneInks) -> tuple[int, int, int]:
    """The backdrop's colour as the planes have it."""
    luma, blue, red, _ = inks.colour(BACKDROP)
    return luma, blue, red
