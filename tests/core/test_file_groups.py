"""Files that are dropped together."""

from hypothesis import given
from hypothesis import strategies as st

from mortiser.core.project.file_groups import ENDINGS, grouped

Told = tuple[str, str | None, tuple[str, ...], str | None]


def told(*names: str) -> tuple[list[Told], list[str]]:
    found = grouped(names)
    name = lambda at: None if at is None else names[at]  # noqa: E731
    recordings = [
        (names[one.file], name(one.words), tuple(names[i] for i in one.sounds), name(one.cover))
        for one in found.recordings
    ]
    return recordings, [names[i] for i in found.lonely]


def test_words_belong_to_the_recording_of_their_name_or_the_only_one() -> None:
    recordings, lonely = told("a.mp4", "b.mp4", "b.en.srt")
    assert recordings == [("a.mp4", None, (), None), ("b.mp4", "b.en.srt", (), None)]
    assert lonely == []
    assert told("a.mp4", "words.txt")[0] == [("a.mp4", "words.txt", (), None)]
    assert told("a.mp4", "b.mp4", "c.srt")[1] == ["c.srt"]


def test_a_cover_belongs_to_the_sound_of_its_name_or_it_is_the_only_one() -> None:
    assert told("song.mp3", "front.png", "song.txt") == (
        [("song.mp3", "song.txt", (), "front.png")],
        [],
    )
    recordings, lonely = told("a.mp3", "b.mp3", "b.jpg", "c.png")
    assert [one[3] for one in recordings] == [None, "b.jpg"]
    assert lonely == ["c.png"]
    assert told("talk.mp4", "still.png")[1] == ["still.png"]


def test_sounds_come_with_a_single_video_and_are_recordings_otherwise() -> None:
    assert told("talk.mp4", "mic.WAV")[0] == [("talk.mp4", None, ("mic.WAV",), None)]
    assert len(told("a.mp4", "b.mov", "mic.wav")[0]) == 3
    assert len(told("one.m4a", "two.wav")[0]) == 2


ALL = [*sorted(ending for endings in ENDINGS.values() for ending in endings), "mp4", "mov", ""]


@given(
    st.lists(st.builds("{}.{}".format, st.sampled_from("abc"), st.sampled_from(ALL)), max_size=8)
)
def test_every_file_is_somewhere_and_words_are_used_once(names: list[str]) -> None:
    found = grouped(names)
    used = [one.file for one in found.recordings]
    words = [one.words for one in found.recordings if one.words is not None]
    sounds = {i for one in found.recordings for i in one.sounds}
    covers = {one.cover for one in found.recordings if one.cover is not None}
    assert len(set(used)) == len(used)
    assert len(set(words)) == len(words)
    assert sorted({*used, *words, *sounds, *covers, *found.lonely}) == list(range(len(names)))
