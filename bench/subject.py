"""Faces followed on made clips whose motion is known, and how fast they are found."""

from __future__ import annotations

import tempfile
import time
from collections.abc import Callable
from fractions import Fraction
from pathlib import Path

import av
import numpy as np
import numpy.typing as npt

from bench.report import at_least
from mortiser.core.editing.timeline import Clip, Timeline
from mortiser.core.framing.clip_framing import clip_framings
from mortiser.core.framing.placing import matrix_of
from mortiser.core.framing.shape import Framing, Shape
from mortiser.core.framing.subject import joined
from mortiser.media.faces import look_for_faces
from mortiser.media.probe import probe

CLIP = Path("src/mortiser/demo/media/kettle.mp4")
WIDE, TALL = (1920, 1080), (1080, 1920)
PRESENTER = (608, 1080)
HEAD = (0.494, 0.451)
"""The middle of the presenter's face in its own picture, as the finder sees it at rest."""
FPS, SECONDS = 25, 16
SECOND = 1_000_000
Motion = Callable[[float], float]
MOTIONS: dict[str, Motion] = {
    "sway": lambda t: 656 + 25 * np.sin(2 * np.pi * t / 2.6),
    "walk": lambda t: 60 + (1200 * t / SECONDS),
    "jumps": lambda t: (250, 900, 500, 1150)[min(3, int(t / 4))],
    "turning away": lambda t: 656 + 120 * np.sin(2 * np.pi * t / 9),
}
NEAR = 0.06


def run() -> None:
    """Print how long the face stays at its point, how hard the frame is moved, and the speed."""
    with tempfile.TemporaryDirectory() as folder:
        pictures = _presenter()
        for name, motion in MOTIONS.items():
            file = Path(folder) / "made.mp4"
            _make(file, pictures, motion, away=name == "turning away")
            started = time.perf_counter()
            looks = look_for_faces(file, SECONDS * SECOND, lambda _: None)
            took = time.perf_counter() - started
            near, hard = _followed(looks, motion)
            at_least(f"{name}: near its point", near * 100, "%", 95, "the known motion", 1)
            print(f"      {name}: the frame's largest acceleration {hard:.2f} widths/s²")
        at_least("looked over", SECONDS / took, "×", 3, "real time, 1920 × 1080", 1)
        length = probe(CLIP).duration_us
        started = time.perf_counter()
        look_for_faces(CLIP, length, lambda _: None)
        speed = length / SECOND / (time.perf_counter() - started)
        at_least("the demo clip looked over", speed, "×", 3, "real time, 1080 × 1920", 1)


def _followed(looks: list, motion: Motion) -> tuple[float, float]:
    line = Timeline([Clip(1, 0, SECONDS * SECOND)])
    framing = Framing(fit="fill", follow="calm", py=0.45)
    shape = Shape(id=1, width=TALL[0], height=TALL[1], framing=framing)
    (found,) = clip_framings(shape, line, {1: WIDE}, {1: joined(looks)})
    moments = np.arange(0, SECONDS, 1 / FPS)
    places, left = [], []
    for t in moments:
        a, b, c, *_ = matrix_of(found.at(round(t * SECOND)), WIDE, TALL)
        x, y = motion(t) + HEAD[0] * PRESENTER[0], HEAD[1] * PRESENTER[1]
        places.append((a * x + b * y + c) / TALL[0])
        left.append(-c / TALL[0])
    away = np.abs(np.array(places) - framing.px)
    hard = np.abs(np.diff(np.array(left), 2)).max() * FPS**2
    return float((away <= NEAR).mean()), float(hard)


def _presenter() -> list[npt.NDArray[np.uint8]]:
    """The demo presenter's picture, every frame of some seconds."""
    found = []
    with av.open(str(CLIP)) as reading:
        for frame in reading.decode(video=0):
            small = frame.reformat(*PRESENTER, format="rgb24")
            found.append(np.ascontiguousarray(small.to_ndarray(), np.uint8))
            if len(found) >= 150:
                break
    return found


def _make(out: Path, pictures: list[npt.NDArray[np.uint8]], motion: Motion, *, away: bool) -> None:
    """The presenter going across a wide room; turned away for a second at the sixth."""
    with av.open(str(out), "w") as writing:
        picture = writing.add_stream("libx264", rate=FPS, options={"preset": "ultrafast"})
        picture.width, picture.height, picture.pix_fmt = *WIDE, "yuv420p"
        for number in range(FPS * SECONDS):
            t = number / FPS
            room = np.full((WIDE[1], WIDE[0], 3), (196, 176, 150), np.uint8)
            left = round(motion(t))
            seen = pictures[number % len(pictures)]
            room[:, left : left + PRESENTER[0]] = seen[:, : WIDE[0] - left]
            if away and 6 <= t < 7:
                x, y = (int(left + HEAD[0] * PRESENTER[0]), int(HEAD[1] * PRESENTER[1]))
                room[y - 130 : y + 110, x - 95 : x + 95] = (58, 42, 32)
            frame = av.VideoFrame.from_ndarray(room, format="rgb24")
            frame.pts, frame.time_base = number, Fraction(1, FPS)
            writing.mux(picture.encode(frame))
        writing.mux(picture.encode(None))


if __name__ == "__main__":
    run()
