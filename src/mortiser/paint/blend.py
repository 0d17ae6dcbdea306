"""Blend painted captions straight into the planes of a video frame, only where they are."""

from __future__ import annotations

from dataclasses import dataclass

import av
import numpy as np
import numpy.typing as npt
from av.video.reformatter import ColorRange, Colorspace, Interpolation, VideoReformatter

from mortiser.media.picture import plane_of
from mortiser.paint.painter import Area, Pixels

HD_HEIGHT = 720
FOOT, GREY = 16, 128
"""Black in a limited range, and no colour, in the planes."""
Wide = npt.NDArray[np.uint16]


@dataclass(frozen=True)
class Veil:
    """Captions in the planes' terms: what is added (× 255) and what is kept of the picture."""

    area: Area
    added: tuple[Wide, Wide, Wide]
    kept: tuple[Wide, Wide]
    """How much of luma and of chroma stays, 0 to 255."""


def colours_of(frame: av.VideoFrame) -> tuple[Colorspace, bool]:
    """The frame's matrix (BT.709 or BT.601) and whether its range is full.

    What the file leaves open is taken as players take it: BT.709 from 720 lines up, else BT.601.
    """
    large = min(frame.width, frame.height) >= HD_HEIGHT
    space = frame.colorspace
    hd = space == Colorspace.ITU709
    if not hd and large and space not in (Colorspace.ITU601, Colorspace.FCC):
        hd = True
    full = frame.color_range == ColorRange.JPEG or frame.format.name == "yuvj420p"
    return Colorspace.ITU709 if hd else Colorspace.ITU601, full


def veil(
    pixels: Pixels, area: Area, space: Colorspace, full: bool, reformatter: VideoReformatter
) -> Veil:
    """Turn premultiplied BGRA of shape (h, w, 4), even sizes, into a veil for yuv420p planes.

    The colours go through the matrix as they are, premultiplied; since black is not 0 in the planes,
    what lies at its foot is then weighed by the opacity.
    """
    painted = av.VideoFrame.from_numpy_buffer(pixels, format="bgra")
    # The exact mean of two lines; a wider filter would bleed over the edges of the area.
    turned = reformatter.reformat(
        painted,
        format="yuv420p",
        dst_colorspace=space,
        interpolation=Interpolation.AREA,
        src_color_range=ColorRange.JPEG,
        dst_color_range=ColorRange.JPEG if full else ColorRange.MPEG,
        threads=1,
    )
    alpha = pixels[..., 3].astype(np.uint16)
    rows = alpha[0::2] + alpha[1::2]
    quarter = (rows[:, 0::2] + rows[:, 1::2] + 2) // 4
    added = (
        _weighed(plane_of(turned, 0), 0 if full else FOOT, alpha),
        _weighed(plane_of(turned, 1), GREY, quarter),
        _weighed(plane_of(turned, 2), GREY, quarter),
    )
    return Veil(area, added, (255 - alpha, 255 - quarter))


def _weighed(plane: npt.NDArray[np.uint8], foot: int, alpha: Wide) -> Wide:
    """A plane × 255 whose foot counts as much as what is painted is opaque."""
    found = plane.astype(np.uint16)
    found *= np.uint16(255)
    if foot == GREY:
        # Rounding to whole levels may leave a little less than nothing where little is painted.
        np.maximum(found, 255 * GREY - alpha * np.uint16(GREY), out=found)
    if foot:
        found += alpha * np.uint16(foot)
        found -= np.uint16(255 * foot)
    return found


def lay(frame: av.VideoFrame, over: Veil) -> None:
    """Put a veil over a writable yuv420p frame."""
    left, top, right, bottom = over.area
    for index in range(3):
        step = 1 if index == 0 else 2
        part = plane_of(frame, index)[top // step : bottom // step, left // step : right // step]
        mixed = part * over.kept[min(index, 1)]
        mixed += over.added[index]
        mixed += 128
        # (v + v/256) / 256 is v / 255 rounded, without a division.
        mixed += mixed >> 8
        mixed >>= 8
        part[...] = mixed
