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
    """Turn premultiplied RGBA of shape (h, w, 4), even sizes, into a veil for yuv420p planes."""
    kr, kb = weights
    rgba = pixels.astype(np.float32)
    red, green, blue, alpha = (rgba[..., i] for i in range(4))
    luma = kr * red + (1 - kr - kb) * green + kb * blue
    small = rgba.reshape(rgba.shape[0] // 2, 2, rgba.shape[1] // 2, 2, 4).mean(axis=(1, 3))
    small_luma = kr * small[..., 0] + (1 - kr - kb) * small[..., 1] + kb * small[..., 2]
    cb = (small[..., 2] - small_luma) / (2 - 2 * kb)
    cr = (small[..., 0] - small_luma) / (2 - 2 * kr)
    y_gain, c_gain, foot = (1.0, 1.0, 0.0) if full else (219 / 255, 224 / 255, 16 / 255)
    thin = small[..., 3]
    added = (
        _wide((luma * y_gain + alpha * foot) * 255),
        _wide((cb * c_gain + thin * (128 / 255)) * 255),
        _wide((cr * c_gain + thin * (128 / 255)) * 255),
    )
    return Veil(area, added, (_wide(255 - alpha), _wide(255 - thin)))


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
    return np.clip(np.round(values), 0, 65_025).astype(np.uint16)
