"""What is in a box is followed through a made recording whose motion is known."""

from collections.abc import Callable
from fractions import Fraction
from pathlib import Path

import av
import numpy as np
import pytest

from mortiser.core.common.errors import BadInput
from mortiser.core.framing.subject import LOOK_US
from mortiser.media.following import follow_box

WIDE = (640, 360)
FPS, SECONDS = 25, 6
SECOND = 1_000_000
MOTIONS: dict[str, Callable[[float], tuple[float, float]]] = {
    "walk": lambda t: (100 + 70 * t, 180),
    "sway": lambda t: (320 + 60 * np.sin(2 * np.pi * t / 3), 150 + 30 * np.cos(2 * np.pi * t / 4)),
    "jump": lambda t: (140, 120) if t < 3 else (500, 240),
}


@pytest.fixture(scope="module", params=MOTIONS)
def made(
    request: pytest.FixtureRequest, tmp_path_factory: pytest.TempPathFactory
) -> tuple[Path, Callable[[float], tuple[float, float]]]:
    """A patterned patch that moves over a room with a pattern of its own."""
    file = tmp_path_factory.mktemp("followed") / "made.mp4"
    random = np.random.default_rng(4)
    room = random.integers(90, 130, (WIDE[1] // 12, WIDE[0] // 12, 1), np.uint8)
    room = np.kron(room, np.ones((12, 12, 3), np.uint8))
    patch = np.kron(random.integers(0, 255, (6, 6, 3), np.uint8), np.ones((10, 10, 1), np.uint8))
    with av.open(str(file), "w") as writing:
        stream = writing.add_stream("libx264", rate=FPS, options={"preset": "ultrafast"})
        stream.width, stream.height, stream.pix_fmt = *WIDE, "yuv420p"
        for number in range(FPS * SECONDS):
            x, y = (round(v) for v in MOTIONS[request.param](number / FPS))
            seen = room.copy()
            seen[y - 30 : y + 30, x - 30 : x + 30] = patch
            frame = av.VideoFrame.from_ndarray(seen, format="rgb24")
            frame.pts, frame.time_base = number, Fraction(1, FPS)
            writing.mux(stream.encode(frame))
        writing.mux(stream.encode(None))
    return file, MOTIONS[request.param]


@pytest.mark.parametrize("at_us", [0, 2_100_000])
def test_it_is_where_it_moves_before_and_behind(
    made: tuple[Path, Callable[[float], tuple[float, float]]], at_us: int
) -> None:
    file, motion = made
    x, y = motion(at_us / SECOND)
    box = x / WIDE[0], y / WIDE[1], 66 / WIDE[0], 66 / WIDE[1]
    track = follow_box(file, at_us, box, (0, SECONDS * SECOND), lambda _: None)
    assert track.drawn
    assert track.looks[0] == 0
    assert track.looks[-1] >= SECONDS * SECOND // LOOK_US - 1
    away = [
        np.hypot(face.x - motion(look * LOOK_US / SECOND)[0] / WIDE[0],
                 face.y - motion(look * LOOK_US / SECOND)[1] / WIDE[1])
        for look, face in zip(track.looks, track.faces, strict=True)
    ]  # fmt: skip
    assert max(away) < 0.02


def test_only_the_stretch_that_was_asked_for_is_looked_at(
    made: tuple[Path, Callable[[float], tuple[float, float]]],
) -> None:
    file, motion = made
    x, y = motion(2.4)
    box = x / WIDE[0], y / WIDE[1], 0.1, 0.18
    track = follow_box(file, 2_400_000, box, (2_000_000, 4_000_000), lambda _: None)
    assert (track.looks[0], track.looks[-1]) == (10, 20)
    with pytest.raises(BadInput, match="larger"):
        follow_box(file, 2_400_000, (0.5, 0.5, 0.01, 0.01), (0, SECOND), lambda _: None)
