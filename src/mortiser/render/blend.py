"""Blend painted captions straight into the planes of a video frame, only where they are."""

from __future__ import annotations

from dataclasses import dataclass

import av
import cv2
import numpy as np
from av.video.reformatter import ColorRange, Colorspace, VideoReformatter

from mortiser.media.picture import plane_of
from mortiser.paint.inks import Pixels, PlaneInks
from mortiser.paint.painter import Area

HD_HEIGHT = 720
UNSPECIFIED = 2
"""A frame's colour matrix that nobody has stated (ITU-T H.273, table 4)."""
BT709, BT601 = (0.2126, 0.0722), (0.299, 0.114)
"""Weights of red and blue in luma."""


@dataclass(frozen=True)
class Veil:
    """Captions in the planes' terms: what is added to luma, blue and red difference, and how much of what
    is behind shows through."""

    area: Area
    added: tuple[Pixels, Pixels, Pixels]
    through: tuple[Pixels, Pixels]
    """Of luma and of chroma, 0 to 255."""

    def take(self, part: Veil) -> None:
        """Show what another veil shows, within its area, which lies in this one's."""
        left, top = (part.area[side] - self.area[side] for side in (0, 1))
        for mine, other, step in zip(self._planes, part._planes, (1, 2, 2, 1, 2), strict=True):
            _set(mine, other, left // step, top // step)

    @property
    def _planes(self) -> tuple[Pixels, ...]:
        return (*self.added, *self.through)


def _set(plane: Pixels, part: Pixels, left: int, top: int) -> None:
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
    through = [np.subtract(255, one) for one in (alpha, _quarter(alpha))]
    return Veil(area, (luma, _quarter(blue), _quarter(red)), (through[0], through[1]))


def _quarter(plane: Pixels) -> Pixels:
    """The rounded mean of each two by two pixels."""
    rows, columns = plane.shape
    half = (columns // 2, rows // 2)
    return np.asarray(cv2.resize(plane, half, interpolation=cv2.INTER_AREA), np.uint8)


def lay(frame: av.VideoFrame, over: Veil) -> None:
    """Put a veil over a writable yuv420p frame."""
    left, top, right, bottom = over.area
    for index in range(3):
        step = 1 if index == 0 else 2
        part = plane_of(frame, index)[top // step : bottom // step, left // step : right // step]
        # Rounded; never past 255, since nothing adds more than it covers.
        cv2.multiply(part, over.through[min(index, 1)], dst=part, scale=1 / 255)
        cv2.add(part, over.added[index], dst=part)
