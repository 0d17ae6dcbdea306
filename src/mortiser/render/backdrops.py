"""What lies behind a picture that does not cover the frame, in the frame's planes."""

from __future__ import annotations

import av
import cv2
import numpy as np
import numpy.typing as npt

from mortiser.core.common.errors import NotFound
from mortiser.core.framing.own_picture import OwnPicture
from mortiser.core.framing.shape import Backdrop
from mortiser.media.picture import Planes, plane_of
from mortiser.paint.inks import FOOT, GREY
from mortiser.pictures import sized_png
from mortiser.render.blend import inks_of

SMALL = 16
"""A blurred picture is worked out at this part of the frame's size."""
SOFTEST = 0.05
"""Sigma of the softest picture, a share of the frame's short side."""
SOFT = 2.2
"""Sigma of the blur, in pixels of the small picture."""


def backdrop_planes(
    backdrop: Backdrop, frame: av.VideoFrame, size: tuple[int, int]
) -> list[Planes]:
    """Planes of yuv420p for a frame of ``size``, in the terms of the picture ``frame``; to be read only."""
    if backdrop.kind == "blur":
        return _blurred(frame, size, backdrop.dark)
    if backdrop.kind == "picture":
        found = _pictured(backdrop, frame, size)
        if found is not None:
            return found
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


def _pictured(
    backdrop: Backdrop, frame: av.VideoFrame, size: tuple[int, int]
) -> list[Planes] | None:
    """A picture of the user's own filling the frame; None where it is not in this workspace."""
    pixels = filling(backdrop, size)
    if pixels is None:
        return None
    return planes_like(frame, pixels[..., ::-1])


def planes_like(frame: av.VideoFrame, bgr: npt.NDArray[np.uint8]) -> list[Planes]:
    """Planes of yuv420p of a picture of even sides, in the terms of ``frame``."""
    inked = inks_of(frame).picture(np.dstack([bgr, np.full(bgr.shape[:2], 255, np.uint8)]))
    blue, red = (
        cv2.resize(inked[..., at], None, fx=0.5, fy=0.5, interpolation=cv2.INTER_AREA)
        for at in (1, 0)
    )
    return [
        np.ascontiguousarray(inked[..., 2]),
        np.asarray(blue, np.uint8),
        np.asarray(red, np.uint8),
    ]


def filling(backdrop: Backdrop, size: tuple[int, int]) -> npt.NDArray[np.uint8] | None:
    """RGB of a backdrop's picture that fills a frame, soft and darkened as it says; what can be seen through
    is black. None where there is no picture, or it is not in this workspace."""
    picture = backdrop.picture
    if picture is None:
        return None
    share = max(size[0] / picture.width, size[1] / picture.height)
    width = max(size[0], round(picture.width * share))
    height = max(size[1], round(picture.height * share))
    solid = solid_pixels(picture, (width, height))
    if solid is None:
        return None
    left, top = (width - size[0]) // 2, (height - size[1]) // 2
    part = solid[top : top + size[1], left : left + size[0]]
    seen: npt.NDArray[np.generic] = part[..., ::-1]
    if backdrop.soft:
        sigma = backdrop.soft * SOFTEST * min(size)
        seen = cv2.GaussianBlur(seen.astype(np.float32), (0, 0), sigma)
    lit = seen.astype(np.float32) * (1 - backdrop.dark)
    return np.ascontiguousarray(np.rint(lit).astype(np.uint8))


def solid_pixels(picture: OwnPicture, size: tuple[int, int]) -> npt.NDArray[np.uint8] | None:
    """BGR of a picture of the user's own in ``size`` pixels, what can be seen through black; None where it is not
    in this workspace."""
    bgra = own_pixels(picture, size)
    if bgra is None:
        return None
    return (bgra[..., :3] * bgra[..., 3:].astype(np.uint16) // 255).astype(np.uint8)


def own_pixels(picture: OwnPicture, size: tuple[int, int]) -> npt.NDArray[np.uint8] | None:
    """BGRA of a picture of the user's own in ``size`` pixels; None where it is not in this workspace."""
    try:
        data = np.frombuffer(sized_png(picture.digest, *size), np.uint8)
    except NotFound:
        return None
    return np.asarray(cv2.imdecode(data, cv2.IMREAD_UNCHANGED), np.uint8)


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
