"""Thumbnails: small pictures of a recording, twice a second, for looking at what is behind captions."""

from __future__ import annotations

from collections.abc import Callable
from dataclasses import dataclass
from fractions import Fraction
from functools import lru_cache
from pathlib import Path

import av
import numpy as np
from av.container import OutputContainer

from mortiser.core.common.errors import BadMedia
from mortiser.core.editing.timeline import Timeline
from mortiser.core.framing.frame import BACKDROP
from mortiser.core.style.legibility import Rgb
from mortiser.media.opening import moving_picture, open_media, unfinished
from mortiser.media.picture import turned

EVERY_US = 500_000
SHORT_SIDE = 320
MILLISECONDS = Fraction(1, 1000)


def make_thumbnails(
    path: Path, out: Path, duration_us: int, progress: Callable[[float], None]
) -> None:
    """Write the thumbnails of a recording with a picture as Motion JPEG in Matroska.

    Frame n is the picture at n times EVERY_US of the source, rotation applied. ``progress`` gets
    0..1 and may raise to stop. Raises BadMedia, and NoSpace on a full disk.
    """
    try:
        with open_media(path) as reading, av.open(str(out), "w", format="matroska") as writing:
            picture = moving_picture(reading)
            if picture is None:
                raise BadMedia("This recording has no picture to look at.")
            picture.thread_type = "AUTO"
            album = _Album(writing)
            for frame in reading.decode(picture):
                at_us = round((frame.time or 0.0) * 1_000_000)
                album.turn_to(at_us)
                album.held = frame
                progress(min(1.0, at_us / duration_us))
            album.finish()
    except av.error.FFmpegError as error:
        raise unfinished(error, "look") from error


class _Album:
    """Writes the frame that shows at each moment that is kept."""

    def __init__(self, writing: OutputContainer) -> None:
        self._writing = writing
        self._drawn: av.VideoStream | None = None
        self._count = 0
        self.held: av.VideoFrame | None = None

    def turn_to(self, at_us: int) -> None:
        """The held frame shows until this moment."""
        if self.held is None or self._count * EVERY_US >= at_us:
            return
        small = _small(turned(self.held))
        if self._drawn is None:
            options = {"qmin": "3", "qmax": "4"}
            self._drawn = self._writing.add_stream("mjpeg", rate=2, options=options)
            self._drawn.width, self._drawn.height = small.width, small.height
            self._drawn.pix_fmt = "yuvj420p"
            self._drawn.codec_context.time_base = MILLISECONDS
        while self._count * EVERY_US < at_us:
            small.pts, small.time_base = self._count * EVERY_US // 1000, MILLISECONDS
            self._writing.mux(self._drawn.encode(small))
            self._count += 1

    def finish(self) -> None:
        """No frame comes any more. Raises BadMedia where none came at all."""
        self.turn_to(self._count * EVERY_US + 1)
        if self._drawn is None:
            raise BadMedia("The picture of this recording cannot be decoded.")
        self._writing.mux(self._drawn.encode(None))


def _small(frame: av.VideoFrame) -> av.VideoFrame:
    share = min(1.0, SHORT_SIDE / min(frame.width, frame.height))
    width, height = (max(2, round(side * share / 2) * 2) for side in (frame.width, frame.height))
    plain = frame.reformat(width, height, "rgb24", src_colorspace=frame.colorspace, threads=1)
    return plain.reformat(format="yuvj420p")


@dataclass(frozen=True)
class Thumbnails:
    """The thumbnails of one recording; equal by their file."""

    path: Path

    def at(self, source_us: int) -> Rgb:
        """The picture nearest to a moment of the source; not to be written to."""
        return _picture(self.path, max(0, round(source_us / EVERY_US)))


@dataclass(frozen=True)
class PieceThumbnails:
    """The thumbnails of a piece: those of its sources that have a picture, by their ids."""

    timeline: Timeline
    sources: tuple[tuple[int, Thumbnails], ...]

    def at(self, piece_us: int) -> Rgb:
        """The picture nearest to a moment of the piece; the backdrop where there is none."""
        placed = self.timeline.playing(piece_us)
        for source_id, thumbnails in self.sources:
            if source_id == placed.clip.source_id:
                return thumbnails.at(placed.to_source(piece_us))
        return np.array([[BACKDROP[:3]]], np.uint8)


@lru_cache(maxsize=32)
def _picture(path: Path, number: int) -> Rgb:
    wanted = number * EVERY_US
    found: av.VideoFrame | None = None
    with open_media(path) as container:
        container.seek(wanted)
        for frame in container.decode(container.streams.video[0]):
            found = frame
            if frame.time is None or frame.time * 1_000_000 >= wanted - EVERY_US / 2:
                break
    if found is None:
        raise BadMedia("What was looked at of this recording is gone. Open the project again.")
    return found.to_ndarray(format="rgb24").astype(np.uint8, copy=False)
