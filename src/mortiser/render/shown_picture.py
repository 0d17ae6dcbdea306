"""A picture of the user's own as a cutaway shows it: still or moving, with what can be seen through."""

from __future__ import annotations

from typing import NamedTuple

import av
import cv2
import numpy as np
import numpy.typing as npt
from av.video.reformatter import ColorRange, Colorspace

from mortiser.core.common.errors import NotFound
from mortiser.core.framing.clip_framing import ClipFraming
from mortiser.core.framing.own_picture import OwnPicture
from mortiser.core.framing.shape import Backdrop
from mortiser.media.picture import plane_of
from mortiser.paint.inks import FOOT, GREY
from mortiser.pictures import moving_picture
from mortiser.pictures.moving import MovingPicture
from mortiser.render.backdrops import own_pixels, planes_like
from mortiser.render.framing import Framer
from mortiser.render.transitions.pair import Weights

REACH = 219
"""Of luma between black and white."""
BLACK = Backdrop(kind="colour", first=(0, 0, 0, 255))
LEAST = 1 / 255
Pixels = npt.NDArray[np.uint8]


class SeenOver(NamedTuple):
    """What is seen of a cutaway, not to be written to, and how much of each point there is; None where that is all
    of it."""

    frame: av.VideoFrame
    weights: Weights | None = None


class ShownPicture:
    """The frames of a picture, as they lie in a cutaway's box; best asked forwards."""

    def __init__(self, picture: OwnPicture) -> None:
        self._picture = picture
        self._framer, self._through = Framer(), Framer()
        self._moving: MovingPicture | None = None
        self._pixels: Pixels | None = None
        self._at: tuple[int, tuple[int, int]] | None = None
        self._lies: SeenOver | None = None

    def at(
        self, size: tuple[int, int], framing: ClipFraming, on_us: int, moment_us: int
    ) -> SeenOver | None:
        """The frame of ``size`` pixels when the cutaway has been on for so long; ``moment_us`` is the picture's own
        time. None where it is not in this workspace."""
        number = self._frame(moment_us)
        if number is None or self._pixels is None:
            return None
        if self._at != (number, size) or not framing.rests:
            self._lies = self._laid(self._pixels, size, framing, on_us)
            self._at = number, size
        return self._lies

    def _frame(self, moment_us: int) -> int | None:
        """Have the pixels of a moment at hand; the number of the frame they are of."""
        if not self._picture.lasts_us:
            if self._pixels is None:
                self._pixels = own_pixels(
                    self._picture, (self._picture.width, self._picture.height)
                )
            return None if self._pixels is None else 0
        try:
            self._moving = self._moving or moving_picture(self._picture.digest)
        except NotFound:
            return None
        number, pixels = self._moving.at(moment_us % self._picture.lasts_us)
        self._pixels = pixels
        return number

    def _laid(
        self, pixels: Pixels, size: tuple[int, int], framing: ClipFraming, on_us: int
    ) -> SeenOver:
        share = pixels[..., 3:].astype(np.uint16)
        solid = (pixels[..., :3] * share // 255).astype(np.uint8)
        if share.min() == 255:
            return SeenOver(self._framer.framed(_even(solid), size, framing, on_us))
        # Colours are laid down on black, and how much there is beside them in the same way: where they lie is
        # decided once, and edges stay clean.
        within = ClipFraming(framing.framing, BLACK, framing.moves)
        framed = self._framer.framed(_even(solid), size, within, on_us)
        alone = np.repeat(pixels[..., 3:], 3, axis=2)
        through = plane_of(self._through.framed(_even(alone), size, within, on_us), 0)
        weights: Weights = np.clip(
            (through.astype(np.float32) - FOOT) / REACH, 0, 1, dtype=np.float32
        )
        return SeenOver(_apart(framed, weights), weights)


def _apart(frame: av.VideoFrame, weights: Weights) -> av.VideoFrame:
    """Colours by themselves of such that were laid down on black."""
    fresh = av.VideoFrame(frame.width, frame.height, "yuv420p")
    fresh.colorspace, fresh.color_range = frame.colorspace, frame.color_range
    for index in range(3):
        plane = plane_of(frame, index)
        rows, columns = plane.shape
        there = (
            weights
            if index == 0
            else cv2.resize(weights, (columns, rows), interpolation=cv2.INTER_AREA)
        )
        base = GREY if index else FOOT
        shown = base + (plane.astype(np.float32) - base) / np.maximum(there, LEAST)
        plane_of(fresh, index)[...] = np.clip(np.rint(shown), 0, 255).astype(np.uint8)
    return fresh


def _even(bgr: Pixels) -> av.VideoFrame:
    """Pixels as a frame; planes of half the size need even sides."""
    high, wide = (side + side % 2 for side in bgr.shape[:2])
    shown = cv2.copyMakeBorder(
        bgr, 0, high - bgr.shape[0], 0, wide - bgr.shape[1], cv2.BORDER_REPLICATE
    )
    frame = av.VideoFrame(wide, high, "yuv420p")
    frame.colorspace, frame.color_range = Colorspace.ITU709, ColorRange.MPEG
    for index, plane in enumerate(planes_like(frame, np.asarray(shown, np.uint8))):
        plane_of(frame, index)[...] = plane
    return frame
