"""Clips: every kept moment maps there and back, and what was cut away is nowhere."""

import pytest
from hypothesis import given
from hypothesis import strategies as st

from mortiser.core.editing.timeline import Clip, Timeline
from mortiser.core.transcript.words import Word

clips = st.lists(
    st.tuples(st.integers(1, 2), st.integers(0, 500), st.integers(1, 300)), min_size=1, max_size=6
).map(
    lambda parts: [
        Clip(source, start, start + length, id=number)
        for number, (source, start, length) in enumerate(parts, start=1)
    ]
)


@given(clips, st.data())
def test_every_moment_of_the_piece_is_among_the_showings_of_its_source(
    parts: list[Clip], data: st.DataObject
) -> None:
    timeline = Timeline(parts)
    moment = data.draw(st.integers(0, timeline.duration_us - 1))
    found = timeline.to_source(moment)
    assert found is not None
    clip, at = found
    assert clip in parts
    assert moment in timeline.showings(clip.source_id, at)


@given(clips, st.integers(1, 2), st.integers(0, 900))
def test_showings_are_those_of_a_plain_list_of_kept_moments(
    parts: list[Clip], source: int, at: int
) -> None:
    kept = [(clip.source_id, us) for clip in parts for us in range(clip.start_us, clip.end_us)]
    timeline = Timeline(parts)
    assert timeline.duration_us == len(kept)
    assert timeline.showings(source, at) == [i for i, one in enumerate(kept) if one == (source, at)]


@given(clips, st.integers(0, 2_000), st.integers(0, 2_000))
def test_a_slice_keeps_the_moments_between(parts: list[Clip], a: int, b: int) -> None:
    timeline = Timeline(parts)
    low, high = sorted((a, b))
    cut = [
        (one.clip.source_id, us)
        for one in timeline.slice(low, high)
        for us in range(one.clip.start_us, one.clip.end_us)
    ]
    kept = [(clip.source_id, us) for clip in parts for us in range(clip.start_us, clip.end_us)]
    assert cut == kept[low:high]


@given(clips, st.integers(0, 500), st.integers(0, 60), st.integers(1, 2))
def test_a_word_is_shown_where_its_middle_is_and_keeps_its_times(
    parts: list[Clip], start: int, length: int, source: int
) -> None:
    word = Word("kettle", start, start + length, id=9, source_id=source)
    timeline = Timeline(parts)
    found = timeline.shown([word])
    assert len(found) == len(timeline.showings(source, start + length // 2))
    for shown in found:
        placed = timeline.place_of(shown)
        assert placed.at_us <= shown.start_us <= shown.end_us <= placed.end_us
        # Saved as it was read it is the same word, also where the clip cuts into it.
        assert placed.said(shown, (shown, word)) == word


def test_outside_the_piece_there_is_nothing() -> None:
    timeline = Timeline([Clip(1, 100, 200), Clip(1, 0, 50)])
    assert timeline.to_source(150) is None
    assert timeline.to_source(-1) is None
    assert timeline.to_source(120) == (timeline.clips[1], 20)
    assert timeline.showings(1, 70) == []


def test_a_recording_that_goes_on_over_two_clips_is_not_cut_there() -> None:
    timeline = Timeline([Clip(1, 0, 100), Clip(1, 100, 200), Clip(2, 200, 300), Clip(1, 0, 50)])
    assert timeline.cuts == (200, 300)
    assert (timeline.last_cut(150, 200), timeline.first_cut(201, 300)) == (200, None)


def test_a_clip_without_a_length_is_refused() -> None:
    with pytest.raises(ValueError, match="length"):
        Clip(1, 5, 5)
