"""Captions of files at a pace of their own."""

from dataclasses import replace

from hypothesis import given
from hypothesis import strategies as st

from mortiser.core.captions.cue_timing import untimed_cue
from mortiser.core.captions.file_captions import file_captions
from mortiser.core.captions.grouping import group
from mortiser.core.captions.pace import PACES
from mortiser.core.common.frames import Frames
from mortiser.core.editing.timeline import Clip, Timeline
from mortiser.core.transcript.words import Shown
from tests.strategies import spoken_words

WHOLE = Timeline([Clip(1, 0, 10**9)])


@given(
    spoken_words(most=40),
    st.integers(12, 60),
    st.integers(1, 3),
    st.booleans(),
    st.lists(st.sampled_from(["Ada", "Bo", None]), min_size=40, max_size=40),
)
def test_lines_and_characters_are_kept_exactly(
    words: list[Shown], chars: int, lines: int, named: bool, speakers: list[str | None]
) -> None:
    words = [replace(w, speaker=s) for w, s in zip(words, speakers, strict=False)]
    cues = [untimed_cue(1, words[a:b]) for a, b in group(words, PACES["quick"])]
    pace = PACES["sentence"].model_copy(update={"line_chars": chars, "lines": lines})
    found = file_captions(cues, pace, WHOLE, Frames(30.0), named=named)
    assert [w.text for cue, _ in found for w in cue.words] == [w.text for w in words]
    before = None
    for cue, broken in found:
        assert " ".join(broken) == cue.text
        head = f"{cue.words[0].speaker}: " if named and cue.words[0].speaker != before else ""
        before = cue.words[-1].speaker
        head = head if cue.words[0].speaker else ""
        if len(cue.words) > 1:
            assert len(broken) <= lines
            assert len(head + broken[0]) <= chars or " " not in broken[0]
            assert all(len(line) <= chars or " " not in line for line in broken)


def test_what_was_decided_for_the_picture_is_not_taken_over() -> None:
    words = [
        Shown(t, i * 300_000, i * 300_000 + 280_000, seam="break" if i == 1 else "free")
        for i, t in enumerate(["we", "mend", "all", "things", "here", "on", "Lantern", "Lane."])
    ]
    cues = [untimed_cue(1, words[:2]), untimed_cue(1, words[2:])]
    ((cue, lines),) = file_captions(cues, PACES["sentence"], WHOLE, Frames(30.0))
    assert lines == ("we mend all things here on Lantern Lane.",)
    assert cue.end_us > words[-1].end_us
    assert file_captions([], PACES["sentence"], WHOLE, Frames(30.0)) == []
