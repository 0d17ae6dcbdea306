"""A moment gone to shows the frame that shows there when all are decoded in turn."""

import random
from fractions import Fraction
from pathlib import Path

import av
import numpy as np
import pytest

from mortiser.render.plan import Recording
from mortiser.render.source_readers import SLACK_US, SourceReader

SECOND = 1_000_000
STEPS = {
    "even": [40] * 200,
    "far apart": [*([40] * 20), *([900] * 9), *([40] * 20)],
}
"""How long each frame shows, in milliseconds."""


@pytest.fixture(params=STEPS)
def recording(request: pytest.FixtureRequest, tmp_path: Path) -> tuple[Recording, list]:
    """A recording of one key frame with frames that no others are made from; and its frame times."""
    file = tmp_path / "a.mp4"
    steps = STEPS[request.param]
    with av.open(str(file), "w") as writing:
        options = {
            "preset": "veryfast",
            "x264-params": "keyint=10000:scenecut=0:bframes=3:b-adapt=0:b-pyramid=none",
        }
        stream = writing.add_stream("libx264", rate=25, options=options)
        stream.width, stream.height, stream.pix_fmt = 64, 64, "yuv420p"
        stream.time_base = stream.codec_context.time_base = Fraction(1, 1000)
        at = 0
        for number, step in enumerate(steps):
            pixels = np.full((64, 64, 3), number * 255 // len(steps), np.uint8)
            frame = av.VideoFrame.from_ndarray(pixels, format="rgb24")
            frame.pts, frame.time_base = at, Fraction(1, 1000)
            writing.mux(stream.encode(frame))
            at += step
        writing.mux(stream.encode(None))
    with av.open(str(file)) as reading:
        times = [round(frame.time * SECOND) for frame in reading.decode(video=0)]
    return Recording(file, at * 1_000), times


def test_a_moment_gone_to_is_the_one_that_shows(recording: tuple[Recording, list]) -> None:
    made, times = recording
    reader = SourceReader(made)
    try:
        chance = random.Random(7)
        moments = [chance.randrange(made.duration_us) for _ in range(40)]
        for at_us in (*moments, times[-1], 0, times[-1] - 1_000):
            frame = reader.at(at_us)
            assert frame is not None
            wanted = max(time for time in times if time <= at_us + SLACK_US)
            assert round(frame.time * SECOND) == wanted, at_us
        # Forwards from a moment gone to, nothing is left out.
        start = times[len(times) // 2]
        seen = {round(reader.at(at).time * SECOND) for at in range(start, times[-1] + 1, 10_000)}
        assert seen == {time for time in times if time >= start}
    finally:
        reader.close()
