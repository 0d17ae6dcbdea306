"""Recordings with few frames a second, or that begin before their zero, are delivered whole and in step."""

from pathlib import Path

import pytest

from mortiser.core.project.output import VideoFile
from mortiser.media.probe import probe
from mortiser.outputs import OUTPUTS
from tests.outputs.test_making import order
from tests.recordings import first_loud, frame_pts, make_video


def delivered(folder: Path, recording: Path) -> Path:
    facts = probe(recording)
    wanted = order(recording, VideoFile(), length_us=facts.duration_us, rate=facts.frame_rate)
    (part,) = wanted.parts()
    out = folder / part.name
    OUTPUTS["video"].make(wanted, part, out, Path, lambda done: None)
    OUTPUTS["video"].verify(wanted, part, out, Path)
    return out


@pytest.mark.parametrize("ending", ["mp4", "mov", "mkv", "webm"])
@pytest.mark.parametrize("rate", [0.5, 1.0])
def test_a_slow_picture_is_delivered_to_its_end(tmp_path: Path, ending: str, rate: float) -> None:
    seconds = 6.0
    codecs = ("libvpx", "libopus") if ending == "webm" else ("libx264", "aac")
    recording = make_video(
        tmp_path / f"slow.{ending}",
        seconds=seconds,
        frame_times=[step / rate for step in range(int(seconds * rate))],
        codec=codecs[0],
        audio_codec=codecs[1],
        click_at=4.5,
    )
    facts = probe(recording)
    assert facts.duration_us == pytest.approx(seconds * 1e6, abs=60_000)
    assert facts.frame_rate == pytest.approx(rate)
    out = delivered(tmp_path, recording)
    shown = frame_pts(out)  # With others between them while captions move.
    for at in frame_pts(recording):
        assert min(abs(at - one) for one in shown) < 0.002
    assert first_loud(out) == pytest.approx(4.5, abs=0.03)
    assert probe(out).duration_us == pytest.approx(facts.duration_us, abs=60_000)


@pytest.mark.parametrize("ending", ["mp4", "mov", "mkv"])
def test_what_begins_before_its_zero_stays_in_step(tmp_path: Path, ending: str) -> None:
    """A second of picture and sound lies before zero, as cutters without re-encoding leave it."""
    recording = make_video(
        tmp_path / f"early.{ending}",
        seconds=4.0,
        frame_times=[step / 25 for step in range(-25, 75)],
        sound_delay=-1.0,
        click_at=3.0,
    )
    out = delivered(tmp_path, recording)
    known, made = probe(recording), probe(out)
    assert made.duration_us == pytest.approx(known.duration_us, abs=60_000)
    assert made.duration_us >= 2_900_000
    # The click is as far from the last frame as it was.
    assert frame_pts(out)[-1] - first_loud(out) == pytest.approx(0.96, abs=0.05)
