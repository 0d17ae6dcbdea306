"""Put pictures into the plan's frame, in the planes, as their framing says."""

from __future__ import annotations

from fractions import Fraction

import av
import cv2
import numpy as np
from av.video.reformatter import Interpolation, VideoReformatter

from mortiser.core.framing.clip_framing import ClipFraming
from mortiser.core.framing.frame import even_size
from mortiser.core.framing.placing import (
    Affine,
    Size,
    covers,
    cut_of,
    is_level,
    is_plain,
    matrix_of,
    scale_of,
)
from mortiser.core.framing.shape import Backdrop, Framing
from mortiser.media.picture import Planes, plane_of
from mortiser.render.backdrops import backdrop_planes

SHRINK = 0.75
"""A picture that is made smaller than this is scaled before it is moved: moving alone leaves pixels out."""
cv2.setNumThreads(1)


class Framer:
    """Puts the frames of one recording into frames of a plan. Kept for all of them: a scaler that
    is used again is three times as fast as a new one.

    ``recorded`` is the size of the recording's own picture where frames come from a smaller copy of it:
    what is cut out is then what would be of the recording.
    """

    def __init__(self, recorded: Size | None = None) -> None:
        self._recorded = recorded
        self._scaler = VideoReformatter()
        self._cutter = VideoReformatter()
        self._behind: tuple[object, list[Planes]] | None = None

    def framed(
        self,
        frame: av.VideoFrame,
        size: tuple[int, int],
        clip: ClipFraming,
        source_us: int,
        aspect: Fraction = Fraction(1),
    ) -> av.VideoFrame:
        """An upright yuv420p frame in a frame of ``size`` pixels, as it lies there at a moment of its
        source; ``aspect`` says how much wider than high its pixels are meant to be seen."""
        framing = clip.at(source_us)
        whole = float(frame.width * aspect), float(frame.height)
        if is_plain(framing, whole, size):
            return self._scaled(frame, size)
        if aspect != 1:
            frame = self._scaled(frame, even_size(round(whole[0]), frame.height))
        picture = frame.width, frame.height
        if clip.rests and is_level(framing):
            if framing.fit == "whole" and framing.zoom <= 1:
                return self._inside(frame, size, framing, clip.backdrop)
            if covers(framing, picture, size) and self._recorded in (None, picture):
                return self._cut(frame, cut_of(framing, picture, size), size)
        return self._moved(frame, size, framing, clip)

    def _scaled(self, frame: av.VideoFrame, size: tuple[int, int]) -> av.VideoFrame:
        return _like(self._scaler.reformat(frame, *size), frame)

    def _cut(
        self, frame: av.VideoFrame, cut: tuple[int, int, int, int], size: tuple[int, int]
    ) -> av.VideoFrame:
        """A part of the picture at another size."""
        left, top, width, height = cut
        part = _new(frame, (width, height))
        for index in range(3):
            step = 1 if index == 0 else 2
            seen = plane_of(frame, index)[top // step :, left // step :]
            plane_of(part, index)[...] = seen[: height // step, : width // step]
        found = self._cutter.reformat(part, *size, interpolation=Interpolation.BICUBIC)
        return _like(found, frame)

    def _inside(
        self, frame: av.VideoFrame, size: tuple[int, int], framing: Framing, backdrop: Backdrop
    ) -> av.VideoFrame:
        """All of the picture in the frame, on the backdrop."""
        picture = frame.width, frame.height
        scale, _, left, _, _, top = matrix_of(framing, picture, size)
        x, right = (2 * round(at / 2) for at in (left, left + picture[0] * scale))
        y, low = (2 * round(at / 2) for at in (top, top + picture[1] * scale))
        part = self._cutter.reformat(
            frame, max(2, right - x), max(2, low - y), interpolation=Interpolation.BICUBIC
        )
        whole = self._backed(frame, size, backdrop)
        for index in range(3):
            step = 1 if index == 0 else 2
            inner = plane_of(part, index)
            rows, columns = inner.shape
            place = plane_of(whole, index)[y // step :, x // step :]
            place[:rows, :columns] = inner
        return whole

    def _moved(
        self, frame: av.VideoFrame, size: tuple[int, int], framing: Framing, clip: ClipFraming
    ) -> av.VideoFrame:
        """The picture turned, or at a part of a pixel."""
        recorded = self._recorded or (frame.width, frame.height)
        most = max((move.zoom for move in clip.moves), default=1.0)
        share = scale_of(clip.framing, recorded, size) * most * recorded[0] / frame.width
        if share < SHRINK:
            shrunk = even_size(round(frame.width * share), round(frame.height * share))
            frame = self._scaled(frame, shrunk)
        matrix = _from_pixels(matrix_of(framing, recorded, size), recorded, frame)
        if covers(framing, recorded, size):
            whole = _new(frame, size)
            for index in range(3):
                _warp(plane_of(frame, index), matrix, index, plane_of(whole, index))
            return whole
        whole = self._backed(frame, size, clip.backdrop)
        for index in range(3):
            inner, behind = plane_of(frame, index), plane_of(whole, index)
            over, here = np.empty_like(behind), np.empty_like(behind)
            _warp(inner, matrix, index, over)
            _warp(np.full(inner.shape, 255, np.uint8), matrix, index, here, cv2.BORDER_CONSTANT)
            share_of = here.astype(np.uint16)
            mixed = over * share_of + behind * (255 - share_of) + 127
            behind[...] = mixed // 255
        return whole

    def _backed(
        self, frame: av.VideoFrame, size: tuple[int, int], backdrop: Backdrop
    ) -> av.VideoFrame:
        """A frame that shows the backdrop alone."""
        key = backdrop, size, frame.colorspace, frame.color_range, frame.height
        if self._behind is None or self._behind[0] != key or backdrop.kind == "blur":
            self._behind = key, backdrop_planes(backdrop, frame, size)
        whole = _new(frame, size)
        for index, plane in enumerate(self._behind[1]):
            plane_of(whole, index)[...] = plane
        return whole


def _warp(
    plane: Planes, matrix: Affine, index: int, out: Planes, border: int = cv2.BORDER_REPLICATE
) -> None:
    """Draw a plane moved into another one, which may have padded rows."""
    a, b, c, d, e, f = matrix
    if index == 0:
        # Between middles of pixels, where the matrix is between their corners.
        c, f = c + (a + b - 1) / 2, f + (d + e - 1) / 2
    else:
        # Colour samples lie at the left of their pixels and in the middle of two rows (H.264, E.2.1).
        c, f = (c + a / 2 + b - 0.5) / 2, (f + d / 2 + e - 1) / 2
    turn = np.array([[a, b, c], [d, e, f]], np.float64)
    rows, columns = out.shape
    found = cv2.warpAffine(
        plane, turn, (columns, rows), dst=out, flags=cv2.INTER_LINEAR, borderMode=border
    )
    if found is not out:
        out[...] = found


def _from_pixels(matrix: Affine, recorded: Size, frame: av.VideoFrame) -> Affine:
    """The same from the pixels of a frame that shows the recorded picture at another size."""
    across, down = recorded[0] / frame.width, recorded[1] / frame.height
    a, b, c, d, e, f = matrix
    return a * across, b * down, c, d * across, e * down, f


def _new(frame: av.VideoFrame, size: tuple[int, int]) -> av.VideoFrame:
    return _like(av.VideoFrame(*size, frame.format.name), frame)


def _like(made: av.VideoFrame, frame: av.VideoFrame) -> av.VideoFrame:
    """A made frame with the time and the colours of the one it was made of."""
    if made is not frame:
        made.colorspace, made.color_range = frame.colorspace, frame.color_range
        made.pts = frame.pts
        if frame.time_base is not None:
            made.time_base = frame.time_base
    return made
