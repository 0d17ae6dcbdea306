"""Edits that lay words over a stretch, and tapped times, on every session."""

from itertools import pairwise

import pytest
from pydantic import ValidationError

from mortiser.core.captions.pace import PACES
from mortiser.core.captions.tapping import reaction_delay
from mortiser.core.common.errors import BadInput
from mortiser.core.edits.captions.tapping import TapTimes
from mortiser.core.edits.captions.times import SetCueTimes
from mortiser.core.edits.session import EditSession
from mortiser.core.edits.text.laying import LaidCaption, LaidWord, LayCaptions, grouped
from mortiser.core.transcript.words import Shown
from tests.contracts.test_session import cues, texts


def laid(*rows: tuple[str, int, int]) -> list[LaidWord]:
    return [LaidWord(text=text, start_us=start, end_us=end) for text, start, end in rows]


def test_a_stretch_is_replaced_and_the_rest_stays(session: EditSession) -> None:
    before = cues(session)
    words = [w for cue in before for w in cue.words]
    start, end = words[2].start_us, words[5].end_us
    captions = [
        LaidCaption(words=laid(("fresh", start, start + 90_000), ("words", start + 90_000, end)))
    ]
    edit = LayCaptions(about="hear again", piece_id=1, from_us=start, to_us=end, captions=captions)
    assert edit.label(session) == "hear again"
    edit.apply(session)
    after = [w for cue in cues(session) for w in cue.words]
    assert [w.text for w in after] == [w.text for w in words[:2]] + ["fresh", "words"] + [
        w.text for w in words[6:]
    ]
    assert [w for w in after if w.id in {w.id for w in words}] == words[:2] + words[6:]
    assert session.words_between(1, 0, 10**9) == after
    assert all(a.end_us <= b.start_us for a, b in pairwise(cues(session)))


def test_times_that_come_with_captions_are_pinned(session: EditSession) -> None:
    caption = LaidCaption(
        words=laid(("hello", 1_100_000, 1_400_000)), start_us=1_000_000, end_us=2_000_000
    )
    LayCaptions(about="x", piece_id=1, from_us=0, to_us=10**9, captions=[caption]).apply(session)
    (cue,) = cues(session)
    assert (cue.start_us, cue.end_us, cue.start_pinned, cue.end_pinned) == (
        1_000_000,
        2_000_000,
        True,
        True,
    )
    assert cue.words[0].origin == "imported"


def test_words_are_grouped_as_the_piece_is() -> None:
    said = ["tea", "is", "free.", "We", "mend", "it."]
    words = [
        Shown(text, i * 300_000, i * 300_000 + 200_000, heard_as="tee")
        for i, text in enumerate(said)
    ]
    found = grouped(words, PACES["quick"])
    assert [[w.text for w in c.words] for c in found] == [said[:3], said[3:]]
    assert found[0].words[0].word() == words[0]


def test_taps_start_captions_less_the_delay(session: EditSession) -> None:
    before = cues(session)
    SetCueTimes(cue_id=before[1].id, start_us=before[1].start_us + 10_000).apply(session)
    taps = [3_000_000, 5_000_000, 6_500_000]
    edit = TapTimes(first_cue=before[1].id, unit="caption", taps_us=taps, delay_us=150_000)
    assert edit.label(session) == "tap 3 captions"
    edit.apply(session)
    after = cues(session)
    assert texts(session) == [cue.text for cue in before]
    assert [cue.words[0].start_us for cue in after[1:4]] == [tap - 150_000 for tap in taps]
    assert {w.origin for cue in after[1:4] for w in cue.words} == {"tapped"}
    assert all(a.words[-1].end_us <= b.words[0].start_us for a, b in pairwise(after))
    assert all(a.end_us <= b.start_us for a, b in pairwise(after))
    assert not after[1].start_pinned


def test_taps_start_words(session: EditSession) -> None:
    cue = cues(session)[1]
    taps = [cue.words[0].start_us + 400_000 * i for i in range(3)]
    TapTimes(first_cue=cue.id, unit="word", taps_us=taps, delay_us=0).apply(session)
    words = [w for c in cues(session)[1:] for w in c.words]
    assert [w.start_us for w in words[:3]] == taps
    assert words[3].start_us >= words[2].end_us


def test_taps_that_cannot_be_are_refused(session: EditSession) -> None:
    cue = cues(session)[2]
    with pytest.raises(BadInput, match="caption in front"):
        TapTimes(first_cue=cue.id, unit="caption", taps_us=[10], delay_us=0).apply(session)
    many = [20_000_000 + i * 100_000 for i in range(200)]
    with pytest.raises(BadInput, match="200 taps for"):
        TapTimes(first_cue=cue.id, unit="word", taps_us=many, delay_us=0).apply(session)
    with pytest.raises(ValidationError, match="at least 0"):
        TapTimes(first_cue=cue.id, unit="word", taps_us=[50, 20], delay_us=0)


def test_the_delay_is_the_usual_lateness() -> None:
    clicks = [i * 700_000 for i in range(10)]
    late = [400, 300, 90, 110, 100, 95, 105, 99, 600, 100]
    taps = [click + ms * 1_000 for click, ms in zip(clicks, late, strict=True)]
    assert 95_000 <= reaction_delay(clicks, taps) <= 105_000
    assert reaction_delay(clicks, [c - 20_000 for c in clicks[1:]]) == -20_000
    for too_few in ([], taps[:4]):
        with pytest.raises(BadInput, match="Too few"):
            reaction_delay(clicks, too_few)
    with pytest.raises(BadInput, match="Too few"):
        reaction_delay([], taps)
