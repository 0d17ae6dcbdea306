"""Single pictures and browser copies of a recording."""

from __future__ import annotations

from fractions import Fraction
from pathlib import Path

import av
import numpy as np
import numpy.typing as npt

from mortiser.core.common.errors import BadMedia
from mortiser.media.opening import open_media, unfinished
from mortiser.media.tones import in_bt709

POSTER = 1920, 480
"""The most a poster has across and down, in pixels."""
Planes = npt.NDArray[np.uint8]


def turned(frame: av.VideoFrame) -> av.VideoFrame:
    """The frame in yuv420p as it is meant to be seen, its rotation flag carried out; in BT.709 where its dynamic
    range is higher."""
    turns = round(frame.rotation / 90) % 4
    frame = in_bt709(frame)
    if frame.format.name not in ("yuv420p", "yuvj420p"):
        frame = frame.reformat(format="yuv420p")
    if not turns and not frame.width % 2 and not frame.height % 2:
        return frame
    planes = [plane_of(frame, i) for i in range(3)]
    height, width = frame.height, frame.width
    planes = [
        p[: height & ~1 if i == 0 else height // 2, : width & ~1 if i == 0 else width // 2]
        for i, p in enumerate(planes)
    ]
    planes = [np.rot90(p, turns) for p in planes]
    fresh = av.VideoFrame(planes[0].shape[1], planes[0].shape[0], frame.format.name)
    for index, plane in enumerate(planes):
        plane_of(fresh, index)[...] = plane
    fresh.pts, fresh.time_base = frame.pts, frame.time_base
    fresh.colorspace, fresh.color_range = frame.colorspace, frame.color_range
    return fresh


def plane_of(frame: av.VideoFrame, index: int) -> Planes:
    """A plane as an array of shape (height, width) that shares the frame's memory."""
    plane = frame.planes[index]
    rows: Planes = np.frombuffer(memoryview(plane), np.uint8).reshape(-1, plane.line_size)
    return rows[: plane.height, : plane.width]


def save_poster(path: Path, out: Path, at_s: float) -> None:
    """A JPEG of the picture around ``at_s`` seconds, rotation applied, within POSTER pixels.

    Raises BadMedia, and NoSpace on a full disk.
    """
    try:
        _save_poster(path, out, at_s)
    except av.error.FFmpegError as error:
        raise unfinished(error, "bring the recording in") from error


def _save_poster(path: Path, out: Path, at_s: float) -> None:
    with open_media(path) as container:
        stream = container.streams.video[0]
        container.seek(int(at_s * av.time_base))
        frame = next(iter(container.decode(stream)), None)
        if frame is None:
            container.seek(0)
            frame = next(iter(container.decode(stream)), None)
        if frame is None:
            raise BadMedia("The picture of this recording cannot be decoded.")
        upright = turned(frame)
    scale = min(POSTER[0] / upright.width, POSTER[1] / upright.height)
    width, height = (max(2, round(n * scale / 2) * 2) for n in (upright.width, upright.height))
    small = upright.reformat(width=width, height=height, format="yuvj420p")
    with av.open(str(out), "w", format="mjpeg") as image:
        drawn = image.add_stream("mjpeg", rate=1, options={"qmin": "3", "qmax": "3"})
        drawn.width, drawn.height, drawn.pix_fmt = width, height, "yuvj420p"
        small.pts, small.time_base = 0, Fraction(1, 1)
        image.mux(drawn.encode(small))
        image.mux(drawn.encode(None))
