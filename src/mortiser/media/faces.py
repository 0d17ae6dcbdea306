"""Faces in a recording, a look at a time.

The finder is CenterFace (Y. Xu, W. Yan, G. Yang, J. Luo, T. Li, J. He, "CenterFace: Joint Face Detection and
Alignment Using Face as Point", 2020): a heat map of middles at a quarter of the picture's size, with the
logarithm of each face's size.
"""

from __future__ import annotations

from collections.abc import Callable, Iterator
from pathlib import Path

import av
import cv2
import numpy as np
import numpy.typing as npt

from mortiser.core.common.errors import BadMedia
from mortiser.core.framing.subject import LOOK_US, Face
from mortiser.media.opening import moving_picture, open_media, unfinished
from mortiser.media.picture import turned

MODEL = Path(__file__).parent / "centerface.onnx"
SIDE = 320
"""The longer side of what is looked at, in pixels."""
STEP = 32
"""Sides of what the model takes are multiples of this."""
LEAST = 0.12
"""Scores below this are none; drawn faces get 0.15 to 0.6."""
MOST = 8
"""Faces of a look that are kept, the surest."""


class FaceFinder:
    """Finds faces in single pictures."""

    def __init__(self) -> None:
        self._net = cv2.dnn.readNetFromONNX(str(MODEL))

    def find(self, rgb: npt.NDArray[np.uint8]) -> list[Face]:
        """The faces of a picture of shape (h, w, 3), the surest first."""
        height, width = rgb.shape[:2]
        share = SIDE / max(width, height)
        across, down = (max(STEP, round(side * share / STEP) * STEP) for side in (width, height))
        blob = cv2.dnn.blobFromImage(rgb, 1.0, (across, down), swapRB=False, crop=False)
        self._net.setInput(blob)
        heat, size = self._net.forward(["537", "538"])
        rows, columns = np.nonzero(heat[0, 0] > LEAST)
        scores = heat[0, 0, rows, columns]
        tall, wide = (np.exp(size[0, i, rows, columns]) * 4 for i in (0, 1))
        boxes = np.stack([(columns + 0.5) * 4, (rows + 0.5) * 4, wide, tall, scores], axis=1)
        return [
            Face(
                x=float(x / across),
                y=float(y / down),
                width=float(w / across),
                height=float(h / down),
                score=float(score),
            )
            for x, y, w, h, score in _merged(boxes)
        ]


def _merged(boxes: npt.NDArray[np.float64]) -> list[npt.NDArray[np.float64]]:
    """Boxes of the same face made one: the mean of them by their scores, which is finer than the map."""
    left = boxes[np.argsort(-boxes[:, 4])]
    found: list[npt.NDArray[np.float64]] = []
    while len(left) and len(found) < MOST:
        best = left[0]
        near = (np.abs(left[:, 0] - best[0]) < best[2] / 2) & (
            np.abs(left[:, 1] - best[1]) < best[3] / 2
        )
        same = left[near]
        mean = np.average(same, axis=0, weights=same[:, 4] ** 2)
        mean[4] = best[4]
        found.append(mean)
        left = left[~near]
    return found


def look_for_faces(
    path: Path, duration_us: int, progress: Callable[[float], None]
) -> list[list[Face]]:
    """The faces of a recording; list n is of the picture at n times LOOK_US, rotation applied.

    ``progress`` gets 0..1 and may raise to stop. Raises BadMedia.
    """
    finder = FaceFinder()
    looks: list[list[Face]] = []
    for picture, count in small_pictures(path):
        looks += [finder.find(picture)] * count
        progress(min(1.0, len(looks) * LOOK_US / duration_us))
    return looks


def small_pictures(
    path: Path, first: int = 0, last: int | None = None
) -> Iterator[tuple[npt.NDArray[np.uint8], int]]:
    """The pictures of a recording's looks from ``first`` on (to ``last``), as they are looked at, rotation
    applied, each with how many looks on end it is of. Raises BadMedia."""
    number = first
    try:
        with open_media(path) as reading:
            picture = moving_picture(reading)
            if picture is None:
                raise BadMedia("This recording has no picture to look at.")
            picture.thread_type = "AUTO"
            if first:
                reading.seek(first * LOOK_US)
            for frame in reading.decode(picture):
                look = round((frame.time or 0.0) * 1_000_000) // LOOK_US
                if look < number:
                    continue
                if last is not None:
                    if number > last:
                        return
                    look = min(look, last)
                yield _small(frame), look + 1 - number
                number = look + 1
    except av.error.FFmpegError as error:
        raise unfinished(error, "look") from error


def _small(frame: av.VideoFrame) -> npt.NDArray[np.uint8]:
    """A frame as it is looked at: upright RGB, its longer side SIDE pixels at most."""
    upright = turned(frame)
    share = min(1.0, SIDE / max(upright.width, upright.height))
    width, height = (max(2, round(side * share)) for side in (upright.width, upright.height))
    small = upright.reformat(width, height, "rgb24", src_colorspace=frame.colorspace, threads=1)
    return np.ascontiguousarray(small.to_ndarray(), np.uint8)
