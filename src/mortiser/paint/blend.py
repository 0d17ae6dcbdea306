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


@dataclass(frozen=True)
class Veil:
    """Captions in the planes' terms: what is added (× 255, + 128) and what is kept of the picture."""

    area: Area
    added: tuple[Wide, Wide, Wide]
    kept: tuple[Wide, Wide]
    """How much of luma and of chroma stays, 0 to 255."""


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
    added = (_times_255(luma), _times_255(_quarter(blue)), _times_255(_quarter(red)))
    return Veil(area, added, (255 - alpha.astype(np.uint16), 255 - _quarter(alpha)))


def _quarter(plane: Pixels) -> Wide:
    """The rounded mean of each two by two pixels."""
    rows = plane[0::2].astype(np.uint16)
    rows += plane[1::2]
    # Neighbours are added as the halves of one number, which is quicker than skipping every other.
    pairs = rows.view(np.uint32)
    sums = pairs >> 16
    pairs &= 0xFFFF
    sums += pairs
    sums += 2
    sums >>= 2
    return sums.astype(np.uint16)


def _times_255(plane: Pixels | Wide) -> Wide:
    found = plane.astype(np.uint16)
    found *= 255
    # What a division by 255 is rounded with.
    found += 128
    return found


def lay(frame: av.VideoFrame, over: Veil) -> None:
    """Put a veil over a writable yuv420p frame."""
    left, top, right, bottom = over.area
    for index in range(3):
        step = 1 if index == 0 else 2
        part = plane_of(frame, index)[top // step : bottom // step, left // step : right // step]
        mixed = part * over.kept[min(index, 1)]
        mixed += over.added[index]
        # (v + v/256) / 256 is v / 255 rounded, without a division.
        mixed += mixed >> 8
        mixed >>= 8
        part[...] = mixed
