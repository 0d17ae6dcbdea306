"""What lies behind a picture that does not cover the frame, in the frame's planes."""

from __future__ import annotations

import av
import cv2
import numpy as np

from mortiser.core.shape import Backdrop
from mortiser.media.picture import Planes, plane_of
from mortiser.paint.inks import FOOT, GREY
from mortiser.render.blend import inks_of

SMALL = 16
"""A blurred picture is worked out at this part of the frame's size."""
SOFT = 2.2
"""Sigma of the blur, in pixels of the small picture."""


def backdrop_planes(
    backdrop: Backdrop, frame: av.VideoFrame, size: tuple[int, int]
) -> list[Planes]:
    """Planes of yuv420p for a frame of ``size``, in the terms of the picture ``frame``; to be read only."""
    if backdrop.kind == "blur":
        return _blurred(frame, size, backdrop.dark)
    return _coloured(backdrop, frame, size)


def _coloured(backdrop: Backdrop, frame: av.VideoFrame, size: tuple[int, int]) -> list[Planes]:
    inks = inks_of(frame)
    first, last = (np.array(inks.colour(one)[:3]) for one in (backdrop.first, backdrop.last))
    if backdrop.kind == "colour":
        last = first
    planes: list[Planes] = []
    for index, (width, height) in enumerate(_sizes(size)):
        share = (np.arange(height) + 0.5) / height
        rows = np.rint(first[index] + (last[index] - first[index]) * share).astype(np.uint8)
        planes.append(np.broadcast_to(rows[:, None], (height, width)))
    return planes


def _blurred(frame: av.VideoFrame, size: tuple[int, int], dark: float) -> list[Planes]:
    """The picture filling the frame, soft and darkened."""
    share = max(size[0] / frame.width, size[1] / frame.height)
    across, down = size[0] / share / frame.width, size[1] / share / frame.height
    full = inks_of(frame).full
    planes: list[Planes] = []
    for index, (width, height) in enumerate(_sizes(size)):
        step = SMALL if index == 0 else SMALL // 2
        small = -(-width // step), -(-height // step)
        seen = _middle(plane_of(frame, index), across, down)
        soft = cv2.GaussianBlur(cv2.resize(seen, small, interpolation=cv2.INTER_AREA), (0, 0), SOFT)
        base = GREY if index else (0 if full else FOOT)
        lit = np.rint((soft.astype(np.float32) - base) * (1 - dark) + base).astype(np.uint8)
        large = cv2.resize(lit, (small[0] * step, small[1] * step), interpolation=cv2.INTER_LINEAR)
        planes.append(np.asarray(large, np.uint8)[:height, :width])
    return planes


def _middle(plane: Planes, across: float, down: float) -> Planes:
    rows, columns = plane.shape
    height, width = max(1, round(rows * down)), max(1, round(columns * across))
    top, left = (rows - height) // 2, (columns - width) // 2
    return plane[top : top + height, left : left + width]


def _sizes(size: tuple[int, int]) -> tuple[tuple[int, int], ...]:
    half = size[0] // 2, size[1] // 2
    return size, half, half
