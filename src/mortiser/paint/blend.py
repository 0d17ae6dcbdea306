"""Blend painted captions straight into the planes of a video frame, only where they are."""

from __future__ import annotations

from dataclasses import dataclass

import av
import numpy as np
import numpy.typing as npt
from av.video.reformatter import ColorRange, Colorspace

from mortiser.media.picture import plane_of
from mortiser.paint.painter import Area, Pixels

HD_HEIGHT = 720
Wide = npt.NDArray[np.uint16]


@dataclass(frozen=True)
class Veil:
    """Captions in the planes' terms: what is added (× 255) and what is kept of the picture."""

    area: Area
    added: tuple[Wide, Wide, Wide]
    kept: tuple[Wide, Wide]
    """How much of luma and of chroma stays, 0 to 255."""


def colours_of(frame: av.VideoFrame) -> tuple[tuple[float, float], bool]:
    """(Kr, Kb) of the frame's matrix and whether its range is full.

    What the file leaves open is taken as players take it: BT.709 from 720 lines up, else BT.601.
    """
    large = min(frame.width, frame.height) >= HD_HEIGHT
    space = frame.colorspace
    if space == Colorspace.ITU709 or (space not in (Colorspace.ITU601, Colorspace.FCC) and large):
        weights = (0.2126, 0.0722)
    else:
        weights = (0.299, 0.114)
    full = frame.color_range == ColorRange.JPEG or frame.format.name == "yuvj420p"
    return weights, full


def veil(pixels: Pixels, area: Area, weights: tuple[float, float], full: bool) -> Veil:
    """Turn premultiplied BGRA of shape (h, w, 4), even sizes, into a veil for yuv420p planes."""
    kr, kb = weights
    kg = 1 - kr - kb
    y_gain, c_gain, foot = (1.0, 1.0, 0.0) if full else (219 / 255, 224 / 255, 16 / 255)
    luma = np.array([kb * y_gain, kg * y_gain, kr * y_gain, foot], np.float32) * 255
    blue, red = c_gain / (2 - 2 * kb), c_gain / (2 - 2 * kr)
    chroma = np.array(
        [
            [(1 - kb) * blue, -kb * red],
            [-kg * blue, -kg * red],
            [-kr * blue, (1 - kr) * red],
            [128 / 255, 128 / 255],
        ],
        np.float32,
    ) * (255 / 4)
    # Four neighbours summed by slices: numpy's mean over two axes took most of the burn-in's time.
    wide = pixels.astype(np.uint16)
    rows = wide[0::2] + wide[1::2]
    four = rows[:, 0::2] + rows[:, 1::2]
    tinted = four.astype(np.float32) @ chroma
    added = (_wide(pixels.astype(np.float32) @ luma), _wide(tinted[..., 0]), _wide(tinted[..., 1]))
    return Veil(area, added, (255 - wide[..., 3], 255 - (four[..., 3] + 2) // 4))


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


def _wide(values: npt.NDArray[np.float32]) -> Wide:
    return (np.clip(values, 0, 65_025) + 0.5).astype(np.uint16)
