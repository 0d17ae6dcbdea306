"""Cut lists, read back by their own libraries."""

import opentimelineio as otio
import pytest
from hypothesis import given
from hypothesis import strategies as st

from mortiser.core.common.errors import BadInput
from mortiser.formats.cut_list import CutClip, CutRecording, write

FRAME_US = 1_000_000 / 30
KETTLE = CutRecording("The cold kettle.mp4", 40_000_000, 30.0, has_picture=True)
frames = st.lists(st.tuples(st.integers(0, 900), st.integers(1, 200)), min_size=1, max_size=20)


def clips_of(places: list[tuple[int, int]]) -> list[CutClip]:
    return [
        CutClip(KETTLE, round(start * FRAME_US), round((start + length) * FRAME_US))
        for start, length in places
    ]


@given(frames)
def test_both_formats_say_the_same_frames(places: list[tuple[int, int]]) -> None:
    for kind, adapter in (("otio", "otio_json"), ("edl", "cmx_3600")):
        text = write(kind, "The kettle", clips_of(places))
        options = {"rate": 30} if kind == "edl" else {}
        read = otio.adapters.read_from_string(text, adapter, **options)
        (track,) = read.video_tracks()
        found = [
            (clip.source_range.start_time.to_frames(), clip.source_range.duration.to_frames())
            for clip in track.find_clips()
        ]
        assert found == places, kind
        assert read.name == "The kettle"


def test_sound_alone_has_a_track_of_sound() -> None:
    counter = CutRecording("At the counter.m4a", 30_000_000, 0.0, has_picture=False)
    text = write("otio", "Counter", [CutClip(counter, 0, 2_000_000)])
    read = otio.adapters.read_from_string(text, "otio_json")
    assert not read.video_tracks()
    (track,) = read.audio_tracks()
    (clip,) = track.find_clips()
    assert clip.media_reference.target_url == "At the counter.m4a"
    assert clip.source_range.duration.to_seconds() == 2
    assert clip.media_reference.available_range.duration.to_seconds() == 30


def test_an_edit_decision_list_of_sound_alone_has_events_of_sound() -> None:
    counter = CutRecording("At the counter.m4a", 30_000_000, 0.0, has_picture=False)
    clips = [CutClip(counter, 0, 2_000_000), CutClip(counter, 3_000_000, 5_000_000)]
    text = write("edl", "Counter", clips)
    read = otio.adapters.read_from_string(text, "cmx_3600", rate=30)
    assert not read.video_tracks()
    (track,) = read.audio_tracks()
    starts = [clip.source_range.start_time.to_seconds() for clip in track.find_clips()]
    assert starts == [0, 3]


@pytest.mark.parametrize("rate", [23.976024, 24.0, 25.0, 29.97003, 50.0, 59.94006])
def test_measured_rates_are_those_of_timecode(rate: float) -> None:
    source = CutRecording("a.mp4", 60_000_000, rate, has_picture=True)
    read = otio.adapters.read_from_string(
        write("otio", "a", [CutClip(source, 1_000_000, 41_000_000)]), "otio_json"
    )
    (clip,) = read.video_tracks()[0].find_clips()
    assert clip.source_range.duration.to_frames() == pytest.approx(40 * rate, abs=1)
    assert clip.source_range.duration.to_seconds() == pytest.approx(40, abs=0.05)


def test_another_format_is_refused_with_those_there_are() -> None:
    with pytest.raises(BadInput, match="otio, edl"):
        write("aaf", "x", clips_of([(0, 5)]))
