"""Recordings whose times do not begin at zero."""

from fractions import Fraction
from pathlib import Path

import av
import pytest

from mortiser.media.probe import probe
from mortiser.media.rebase import begins_late, from_zero
from mortiser.render.burn import burn
from mortiser.render.plan import Recording, of_one
from tests.recordings import first_loud, frame_pts, make_video


def shifted(source: Path, out: Path, by_s: float, *, picture_alone: bool = False) -> Path:
    """A recording with all times, or those of the picture, moved."""
    with av.open(str(source)) as reading, av.open(str(out), "w") as writing:
        streams = {s: writing.add_stream_from_template(s) for s in reading.streams}
        for packet in reading.demux():
            if packet.pts is None:
                continue
            if packet.stream.type == "video" or not picture_alone:
                packet.pts += round(by_s / packet.time_base)
                if packet.dts is not None:
                    packet.dts += round(by_s / packet.time_base)
            packet.stream = streams[packet.stream]
            writing.mux(packet)
    return out


@pytest.mark.parametrize("ending", ["mp4", "mkv"])
def test_a_clock_that_starts_late_is_set_to_zero(tmp_path: Path, ending: str) -> None:
    source = make_video(tmp_path / "a.mov", click_at=1.0, rotation=90)
    late = shifted(source, tmp_path / f"late.{ending}", 100.0)
    assert begins_late(late)
    assert not begins_late(source)
    anew = tmp_path / "anew"
    from_zero(late, anew)
    was, now = probe(source), probe(anew)
    assert (now.width, now.height, now.rotation) == (was.width, was.height, was.rotation)
    assert abs(now.duration_us - was.duration_us) < 60_000
    assert len(now.frame_pts_us) == len(was.frame_pts_us)
    apart = [a - b for a, b in zip(now.frame_pts_us, was.frame_pts_us, strict=True)]
    assert max(apart) - min(apart) <= 1_000
    assert first_loud(anew) - apart[0] / 1e6 == pytest.approx(first_loud(source), abs=0.003)


def test_a_picture_that_begins_before_the_start_shows_from_the_start_on(tmp_path: Path) -> None:
    source = make_video(tmp_path / "a.mkv")
    early = shifted(source, tmp_path / "early.mkv", -0.1, picture_alone=True)
    out = tmp_path / "out.mp4"
    burn(of_one(Recording(early, 2_000_000), (160, 120)), out, lambda _: None)
    times = frame_pts(out)
    assert times[0] == 0
    assert times == sorted(times)
    assert len(times) >= 47


def test_subtitles_may_last_longer_than_picture_and_sound(tmp_path: Path) -> None:
    source = make_video(tmp_path / "a.mkv")
    out = tmp_path / "with.mkv"
    with av.open(str(source)) as reading, av.open(str(out), "w") as writing:
        streams = {s: writing.add_stream_from_template(s) for s in reading.streams}
        lines = writing.add_stream("ass")
        for packet in reading.demux():
            if packet.pts is not None:
                packet.stream = streams[packet.stream]
                writing.mux(packet)
        packet = av.Packet(b"Tea is free.")
        packet.stream, packet.time_base = lines, Fraction(1, 1000)
        packet.pts = packet.dts = 1_000
        packet.duration = 60_000
        writing.mux(packet)
    assert probe(out).duration_us == probe(source).duration_us
