"""Blend painted captions straight into the planes of a video frame, only where they are."""

from __future__ import annotations

from dataclasses import dataclass

import av
import numpy as np
import numpy.typing as npt
from av.video.reformatter import ColorRange, Colorspace, VideoReformatter

from mortiser.media.picture import plane_of
from mortiser.paint.inks import Pixels, PlaneInks
from mortiser.paint.painter import Area

HD_HEIGHT = 720
BT709, BT601 = (0.2126, 0.0722), (0.299, 0.114)
"""Weights of red and blue in luma."""
Wide = npt.NDArray[np.uint16]


BAND = 64
"""Lines mixed at a time: few enough to stay in the processor's cache."""


@dataclass(frozen=True)
class Veil:
    """Captions in the planes' terms: what is added to luma, blue and red difference, and its opacity."""

    area: Area
    added: tuple[Pixels, Wide, Wide]
    opacity: tuple[Pixels, Wide]
    """Of luma and of chroma, 0 to 255."""


def inks_of(frame: av.VideoFrame) -> PlaneInks:
    """What captions are painted in to be laid over a frame.

    What the file leaves open is taken as players take it: BT.709 from 720 lines up, else BT.601.
    """
    large = min(frame.width, frame.height) >= HD_HEIGHT
    space = frame.colorspace
    hd = space == Colorspace.ITU709
    if not hd and large and space not in (Colorspace.ITU601, Colorspace.FCC):
        hd = True
    full = frame.color_range == ColorRange.JPEG or frame.format.name == "yuvj420p"
    return PlaneInks(*(BT709 if hd else BT601), full)


def veil(pixels: Pixels, area: Area, reformatter: VideoReformatter) -> Veil:
    """Part what was painted in a frame's inks, of shape (h, w, 4), even sizes, into its planes."""
    painted = av.VideoFrame.from_numpy_buffer(pixels, format="bgra")
    parted = reformatter.reformat(painted, format="gbrap", threads=1)
    blue, red, luma, alpha = (plane_of(parted, index) for index in range(4))
    return Veil(area, (luma, _quarter(blue), _quarter(red)), (alpha, _quarter(alpha)))


def _quarter(plane: Pixels) -> Wide:
    """The rounded mean of each two by two pixels."""
    # Two neighbours are read as one number.
    pairs = plane.view(np.uint16)
    above, below = pairs[0::2], pairs[1::2]
    sums: Wide = above >> np.uint16(8)
    sums += below >> 8
    sums += above & 0xFF
    sums += below & 0xFF
    sums += 2
    sums >>= 2
    return sums


def lay(frame: av.VideoFrame, over: Veil) -> None:
    """Put a veil over a writable yuv420p frame."""
    left, top, right, bottom = over.area
    for index in range(3):
        step = 1 if index == 0 else 2
        part = plane_of(frame, index)[top // step : bottom // step, left // step : right // step]
        added, opacity = over.added[index], over.opacity[min(index, 1)]
        for start in range(0, len(part), BAND):
            band = slice(start, start + BAND)
            _mix(part[band], added[band], opacity[band])


def _mix(part: Pixels, added: Pixels | Wide, opacity: Pixels | Wide) -> None:
    mixed = np.subtract(255, opacity, dtype=np.uint16)
    mixed *= part
    mixed += 128
    # (v + v/256) / 256 is v / 255 rounded, without a division.
    mixed += mixed >> 8
    mixed >>= 8
    mixed += added
    part[...] = mixed
