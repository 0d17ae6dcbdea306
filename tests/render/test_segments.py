"""Segments of the preview: what they hold, and that an edit leaves most of them as they are."""

from pathlib import Path

import av
import numpy as np
import pytest
from hypothesis import given
from hypothesis import strategies as st

from mortiser.core.common.errors import BadMedia
from mortiser.core.editing.timeline import Clip, Timeline
from mortiser.render.segments import PART_US, parts_of, preview_size, write_segment
from mortiser.render.source_readers import SourceReader, SourceReaders, usual_rate
from tests.recordings import make_video
from tests.render.test_plan import recording, sound_of

SECOND = 1_000_000
clips = st.lists(
    st.tuples(st.integers(1, 2), st.integers(0, 20 * SECOND), st.integers(1, 9 * SECOND)),
    min_size=1,
    max_size=5,
).map(lambda found: Timeline([Clip(s, a, a + n, id=i) for i, (s, a, n) in enumerate(found, 1)]))


@given(clips)
def test_parts_fill_the_piece_without_a_gap(timeline: Timeline) -> None:
    parts = list(parts_of(timeline))
    at = 0
    for part in parts:
        assert part.at_us == at
        assert 0 < part.end_us - part.start_us <= PART_US
        at += part.end_us - part.start_us
    assert at == timeline.duration_us


def test_a_cut_leaves_all_other_parts_as_they_are() -> None:
    whole = Timeline([Clip(1, 0, 60 * SECOND)])
    cut = Timeline([Clip(1, 0, 20_300_000), Clip(1, 23_100_000, 60 * SECOND)])
    before = {(part.start_us, part.end_us) for part in parts_of(whole)}
    after = {(part.start_us, part.end_us) for part in parts_of(cut)}
    assert len(after - before) == 2


@pytest.mark.parametrize("start", [0.0, 1.3])
def test_a_segment_has_the_frames_and_the_sound_of_its_stretch(
    tmp_path: Path, start: float
) -> None:
    source = recording(make_video(tmp_path / "a.mp4", seconds=4.0, click_at=1.5))
    out = tmp_path / "part.mp4"
    stretch = (round(start * SECOND), 2 * SECOND)
    write_segment(source, stretch, (160, 120), out, usual_rate(source))
    with av.open(str(out)) as reading:
        picture = reading.streams.video[0].codec_context
        assert (picture.name, picture.has_b_frames) == ("h264", False)
        seen = [
            (float(f.pts * f.time_base), f.to_ndarray(format="rgb24")[..., 2].mean())
            for f in reading.decode(video=0)
        ]
    assert [at for at, _ in seen] == pytest.approx(np.arange(len(seen)) / 25, abs=0.001)
    assert len(seen) == round((2 - start) * 25)
    # Of two frames that are both no further off than a frame lasts, either may show.
    wanted = [255 * (start + at) / 4 for at, _ in seen]
    assert [blue for _, blue in seen] == pytest.approx(wanted, abs=5)
    with av.open(str(out)) as reading:
        assert reading.streams.audio[0].codec_context.name == "flac"
        heard = np.concatenate(
            [f.to_ndarray().reshape(-1, 2)[:, 0] for f in reading.decode(audio=0)]
        )
    assert len(heard) == round((2 - start) * 48_000)
    loud = np.nonzero(np.abs(heard) > 10_000)[0]
    assert loud[0] / 48_000 == pytest.approx(1.5 - start, abs=0.005)


def test_the_preview_is_small() -> None:
    assert preview_size((1080, 1920)) == (540, 960)
    assert preview_size((320, 240)) == (320, 240)


def test_what_plays_on_is_the_same_however_it_is_read(tmp_path: Path) -> None:
    source = recording(make_video(tmp_path / "a.mp4", seconds=4.0))
    other = recording(make_video(tmp_path / "b.mp4", seconds=4.0))
    readers = SourceReaders(1)
    orders = [(source, 0), (source, 1), (other, 0), (source, 3), (source, 1), (source, 2)]
    for number, (one, start) in enumerate(orders):
        stretch = start * SECOND, (start + 1) * SECOND
        files = [tmp_path / f"{number}-{name}.mp4" for name in ("kept", "fresh")]
        write_segment(one, stretch, (160, 120), files[0], usual_rate(one), readers)
        write_segment(one, stretch, (160, 120), files[1], usual_rate(one))
        assert files[0].read_bytes() == files[1].read_bytes()
    readers.close()


def test_a_reel_that_failed_is_not_kept(tmp_path: Path, monkeypatch: pytest.MonkeyPatch) -> None:
    source = recording(make_video(tmp_path / "a.mp4", seconds=4.0))
    readers = SourceReaders(2)

    def broken(reader: SourceReader, source_us: int) -> None:
        raise BadMedia("The picture ends early.")

    with monkeypatch.context() as patched:
        patched.setattr(SourceReader, "at", broken)
        with pytest.raises(BadMedia):
            write_segment(
                source,
                (0, SECOND),
                (160, 120),
                tmp_path / "a-part.mp4",
                usual_rate(source),
                readers,
            )
    assert not readers._idle
    write_segment(
        source, (0, SECOND), (160, 120), tmp_path / "a-part.mp4", usual_rate(source), readers
    )
    assert len(readers._idle) == 1
    readers.close()


def test_a_voice_in_one_channel_is_as_loud_as_it_was_recorded(tmp_path: Path) -> None:
    """The preview has two channels, whatever the recording has."""
    source = recording(make_video(tmp_path / "a.mp4", seconds=2.0))
    out = tmp_path / "part.mp4"
    write_segment(source, (500_000, SECOND), (160, 120), out, usual_rate(source))
    with av.open(str(out)) as reading:
        parts = [frame.to_ndarray() for frame in reading.decode(audio=0)]
    shown = np.concatenate(parts, axis=1).reshape(-1, 2).astype(float) / 32_768
    was = sound_of(tmp_path / "a.mp4")[0]
    rate = len(was) / 2
    loud = float(np.sqrt(np.mean(was[round(0.5 * rate) : round(rate)] ** 2)))
    for side in (0, 1):
        assert float(np.sqrt(np.mean(shown[:, side] ** 2))) == pytest.approx(loud, rel=0.03)
