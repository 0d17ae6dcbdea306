"""Writing a video leaves the process as it was."""

import os
from fractions import Fraction
from pathlib import Path

import av
import numpy as np
import pytest

from mortiser.media.encode import Encoder
from mortiser.media.forms import form_of


@pytest.mark.parametrize("form", ["h264", "h265", "vp9", "av1", "prores"])
def test_no_encoder_takes_the_machine_for_itself(tmp_path: Path, form) -> None:
    rate = Fraction(30)
    encoder = Encoder(tmp_path / "out", (320, 240), rate, 1 / rate, form_of(form, "small"))
    niceness = os.getpriority(os.PRIO_PROCESS, 0)
    for number in range(3):
        frame = av.VideoFrame.from_ndarray(np.full((240, 320, 3), number, np.uint8))
        frame.pts, frame.time_base = number, 1 / rate
        encoder.add_picture(frame)
        policies = {os.sched_getscheduler(int(task)) for task in os.listdir("/proc/self/task")}
        assert policies == {os.SCHED_OTHER}
    encoder.finish()
    assert os.getpriority(os.PRIO_PROCESS, 0) == niceness
    with av.open(str(tmp_path / "out")) as made:
        assert sum(1 for _ in made.decode(video=0)) == 3
