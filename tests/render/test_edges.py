"""Frames whose width is no multiple of eight have their last columns too."""

from pathlib import Path

import av
import numpy as np
import pytest

from mortiser.core.editing.timeline import Clip, Timeline
from mortiser.media.forms import form_of
from mortiser.render.loops import write_gif
from mortiser.render.plan import Recording, RenderPlan
from mortiser.render.still import still
from tests.recordings import make_video

SIZE = (180, 320)
LENGTH = 1_000_000


@pytest.fixture(scope="module")
def plan(tmp_path_factory: pytest.TempPathFactory) -> RenderPlan:
    file = make_video(tmp_path_factory.mktemp("r") / "a.mp4", seconds=1.0, size=SIZE)
    line = Timeline([Clip(1, 0, LENGTH)])
    return RenderPlan(line, {1: Recording(file, LENGTH)}, SIZE, own_times=False)


def litter() -> None:
    """Leave memory as other work would."""
    for value in (0, 90, 255):
        np.full((64, 400_000), value, np.uint8)


def last_columns(file: Path) -> np.ndarray:
    with av.open(str(file)) as reading:
        picture = next(reading.decode(video=0)).to_ndarray(format="rgb24").astype(int)
    # The picture grows brighter from the left to the right: its last columns are like those before them.
    return np.abs(picture[:, -4:] - picture[:, -8:-4])


def test_a_still_is_whole_to_its_right_edge(plan: RenderPlan, tmp_path: Path) -> None:
    for number in range(4):
        litter()
        made = tmp_path / f"{number}.png"
        made.write_bytes(still(plan, 500_000))
        assert np.percentile(last_columns(made), 99) < 24


def test_a_gif_is_whole_to_its_right_edge(plan: RenderPlan, tmp_path: Path) -> None:
    for number in range(3):
        litter()
        made = tmp_path / f"{number}.gif"
        write_gif(plan, made, lambda done: None, form_of("gif", "good"))
        assert np.median(last_columns(made)) < 40
