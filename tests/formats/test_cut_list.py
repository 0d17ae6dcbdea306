"""Cut lists, read back by their own libraries."""

import re

import opentimelineio as otio
import pytest
from hypothesis import given
from hypothesis import strategies as st

from mortiser.core.common.errors import BadInput
from mortiser.formats.cut_list import CutClip, CutOver, CutRecording, CutTransition, write

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


def test_transitions_and_what_is_seen_over_the_clips_are_carried() -> None:
    clips = clips_of([(0, 60), (120, 60), (300, 60)])
    half = round(6 * FRAME_US)
    how = [CutTransition("dissolve", half), CutTransition("push", half)]
    over = [
        CutOver(KETTLE, round(30 * FRAME_US), round(90 * FRAME_US), round(200 * FRAME_US), 0.5),
        CutOver(KETTLE, round(120 * FRAME_US), round(150 * FRAME_US)),
    ]
    read = otio.adapters.read_from_string(write("otio", "k", clips, how, over), "otio_json")
    talk, above = read.video_tracks()
    kinds = [
        (one.name, one.transition_type, one.in_offset.to_frames(), one.out_offset.to_frames())
        for one in talk
        if isinstance(one, otio.schema.Transition)
    ]
    assert kinds == [("dissolve", "SMPTE_Dissolve", 6, 6), ("push", "Custom_Transition", 6, 6)]
    assert talk.duration().to_frames() == 180, "nothing gets longer"
    first, second = above.find_clips()
    places = [above.range_of_child(one) for one in (first, second)]
    assert [one.start_time.to_frames() for one in places] == [30, 120]
    assert [one.duration.to_frames() for one in places] == [60, 30]
    assert first.source_range.start_time.to_frames() == 200
    assert [one.time_scalar for one in first.effects] == [0.5]
    (sound,) = read.audio_tracks()
    assert not [one for one in sound if isinstance(one, otio.schema.Transition)]


def test_an_edit_decision_list_has_dissolves_and_says_the_rest() -> None:
    clips = clips_of([(0, 60), (120, 60), (300, 60)])
    half = round(6 * FRAME_US)
    how = [CutTransition("dissolve", half), CutTransition("push", half)]
    text = write("edl", "k", clips, how, [CutOver(KETTLE, 0, 500_000)])
    assert re.search(r"\sD 012\s", text)
    assert "GOES OVER INTO THE NEXT: push" in text
    assert "SEEN OVER IT FROM 0.00 S TO 0.50 S: The cold kettle.mp4" in text
    read = otio.adapters.read_from_string(text, "cmx_3600", rate=30)
    (track,) = read.video_tracks()
    assert track.duration().to_frames() == 180
