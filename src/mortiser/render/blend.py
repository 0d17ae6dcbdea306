"""Blend painted captions straight into the planes of a video frame, only where they are."""

from __future__ import annotations

from dataclasses import dataclass
from typing import Any

import av
import numpy as np
import numpy.typing as npt
from av.video.reformatter import ColorRange, Colorspace, VideoReformatter

from mortiser.media.picture import plane_of
from mortiser.paint.inks import Pixels, PlaneInks
from mortiser.paint.painter import Area

HD_HEIGHT = 720
UNSPECIFIED = 2
"""A frame's colour matrix that nobody has stated (ITU-T H.273, table 4)."""
BT709, BT601 = (0.2126, 0.0722), (0.299, 0.114)
"""Weights of red and blue in luma."""
Wide = npt.NDArray[np.uint16]


BAND = 64
"""Lines mixed at a time: few enough to stay in the processor's cache."""


@dataclass(frozen=True)
class Veil:
    """Captions in the planes' terms: what is added to luma, blue and red difference, and how much of what
    is behind shows through."""

    area: Area
    added: tuple[Pixels, Wide, Wide]
    through: tuple[Wide, Wide]
    """Of luma and of chroma, 0 to 255."""

    def take(self, part: Veil) -> None:
        """Show what another veil shows, within its area, which lies in this one's."""
        left, top = (part.area[side] - self.area[side] for side in (0, 1))
        for mine, other, step in zip(self._planes, part._planes, (1, 2, 2, 1, 2), strict=True):
            _set(mine, other, left // step, top // step)

    @property
    def _planes(self) -> tuple[npt.NDArray[Any], ...]:
        return (*self.added, *self.through)


def _set(plane: npt.NDArray[Any], part: npt.NDArray[Any], left: int, top: int) -> None:
    rows, columns = part.shape
    plane[top : top + rows, left : left + columns] = part


def space_of(frame: av.VideoFrame) -> Colorspace:
    """What a frame's planes hold: BT.709 or BT.601.

    What the file leaves open is taken as players take it: BT.709 from 720 lines up, else BT.601.
    """
    if frame.colorspace == Colorspace.ITU709:
        return Colorspace.ITU709
    large = min(frame.width, frame.height) >= HD_HEIGHT
    said = frame.colorspace in (Colorspace.ITU601, Colorspace.FCC)
    return Colorspace.ITU709 if large and not said else Colorspace.ITU601


def inks_of(frame: av.VideoFrame) -> PlaneInks:
    """What captions are painted in to be laid over a frame."""
    hd = space_of(frame) == Colorspace.ITU709
    full = frame.color_range == ColorRange.JPEG or frame.format.name == "yuvj420p"
    return PlaneInks(*(BT709 if hd else BT601), full)


def veil(pixels: Pixels, area: Area, reformatter: VideoReformatter) -> Veil:
    """Part what was painted in a frame's inks, of shape (h, w, 4), even sizes, into its planes."""
    painted = av.VideoFrame.from_numpy_buffer(pixels, format="bgra")
    parted = reformatter.reformat(painted, format="gbrap", threads=1)
    blue, red, luma, alpha = (plane_of(parted, index) for index in range(4))
    through = [np.subtract(255, one, dtype=np.uint16) for one in (alpha, _quarter(alpha))]
    return Veil(area, (luma, _quarter(blue), _quarter(red)), (through[0], through[1]))


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
    work = np.empty((2, BAND, right - left), np.uint16)
    for index in range(3):
        step = 1 if index == 0 else 2
        part = plane_of(frame, index)[top // step : bottom // step, left // step : right // step]
        added, through = over.added[index], over.through[min(index, 1)]
        for start in range(0, len(part), BAND):
            band = slice(start, start + BAND)
            _mix(part[band], added[band], through[band], work)


def _mix(part: Pixels, added: Pixels | Wide, through: Wide, work: Wide) -> None:
    """``work`` is room for two bands."""
    rows, columns = part.shape
    mixed, share = work[0, :rows, :columns], work[1, :rows, :columns]
    np.multiply(part, through, out=mixed)
    mixed += 128
    # (v + v/256) / 256 is v / 255 rounded, without a division.
    np.right_shift(mixed, 8, out=share)
    mixed += share
    mixed >>= 8
    mixed += added
    part[...] = mixed
