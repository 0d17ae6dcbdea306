"""Whatever is found, a remedy leaves less to be found, or nothing is changed."""

from dataclasses import replace

import pytest
from hypothesis import given, settings
from hypothesis import strategies as st

from mortiser.core.captions.checks import check
from mortiser.core.captions.pace import PACES, Pace
from mortiser.core.common.errors import BadInput
from mortiser.core.edits.apart import carry_out
from mortiser.core.edits.captions.fixing import (
    Finding,
    FixChecks,
    Offers,
    lines_by_hand,
    with_even_lines,
)
from mortiser.core.edits.captions.pacing import SetPace
from mortiser.core.edits.captions.trial import CaptionFacts
from mortiser.core.edits.retiming import retime_all
from mortiser.core.transcript.words import Cue, Shown
from tests.memory_session import MemoryEditSession
from tests.store.fixtures import spoken

TEXT = "three thousand miles. And a kettle that nobody mended came in stone cold on Saturday."
OFFERS = Offers()
"""One for all tests: what was tried before is remembered."""
PACE = PACES["quick"].model_copy(update={"line_chars": 20, "lines": 2, "words": 6})


def found(
    session: MemoryEditSession, pace: Pace, *, with_remedy: bool = False
) -> list[tuple[str, int | None]]:
    """By lines that end only where they are made to, as on a wide picture."""
    cues = session.cues(1)
    lines = [lines_by_hand(cue) for cue in cues]
    every = check(cues, pace, session.timeline(1).duration_us, session.frames(1), lines=lines)
    if with_remedy:
        every = OFFERS.of(every, cues, CaptionFacts.of(session, 1), pace)
    return [(one.kind, one.cue_id) for one in every if one.fix or not with_remedy]


def test_lines_are_broken_where_they_are_even() -> None:
    words = tuple(
        replace(Shown(w.text, w.start_us, w.end_us), id=n) for n, w in enumerate(spoken(TEXT), 1)
    )
    cue = Cue(1, words[:3], 0, 2_000_000)
    even = with_even_lines(cue, PACE)
    assert even is not None
    assert lines_by_hand(even) == ["three thousand", "miles."]
    long = Cue(1, words, 0, 6_000_000)
    assert with_even_lines(long, PACE) is None


def test_a_letter_too_many_breaks_a_line_and_parts_nothing() -> None:
    session = MemoryEditSession(spoken("three thousand miles."))
    session.save_settings(1, replace(session.settings(1), pace=PACE))
    (cue,) = session.cues(1)
    carry_out(FixChecks(piece_id=1, findings=[Finding(kind="wide_line", cue_id=cue.id)]), session)
    (after,) = session.cues(1)
    assert lines_by_hand(after) == ["three thousand", "miles."]
    assert "wide_line" not in [kind for kind, _ in found(session, PACE)]


shapes = st.tuples(st.integers(6, 42), st.integers(1, 3), st.integers(1, 9))


@given(shapes, st.lists(st.integers(-300, 300), min_size=8, max_size=8), st.integers(2, 6))
@settings(max_examples=120, deadline=None)
def test_what_is_put_right_leaves_less(
    shape: tuple[int, int, int], moved: list[int], size: int
) -> None:
    pace = PACES["quick"].model_copy(
        update={"line_chars": shape[0], "lines": shape[1], "words": shape[2]}
    )
    session = MemoryEditSession(spoken(TEXT))
    session.save_settings(1, replace(session.settings(1), pace=pace))
    (whole,) = session.cues(1)
    session.delete_cues([whole])
    for number, at in enumerate(range(0, len(whole.words), size)):
        words = whole.words[at : at + size]
        by = moved[number % len(moved)] * 1_000
        start = max(0, words[0].start_us + min(0, by))
        end = max(start + 50_000, words[-1].end_us + max(-500_000, by))
        session.save_cue(Cue(1, words, start, end, by % 2 == 0, by % 3 == 0))
    retime_all(session, 1)  # As every edit leaves captions.
    for kind, cue_id in found(session, pace, with_remedy=True):
        if (kind, cue_id) not in found(session, pace, with_remedy=True):
            continue
        before = found(session, pace)
        carry_out(FixChecks(piece_id=1, findings=[Finding(kind=kind, cue_id=cue_id)]), session)
        assert len(found(session, pace)) < len(before), (kind, before, found(session, pace))


def test_a_word_too_wide_for_a_line_is_found_without_a_remedy() -> None:
    session = MemoryEditSession(spoken("unputdownable indistinguishable"))
    narrow = PACE.model_copy(update={"line_chars": 10, "words": 1})
    SetPace(piece_id=1, pace=narrow).apply(session)
    kinds = {kind for kind, _ in found(session, narrow)}
    assert "wide_line" in kinds
    assert "wide_line" not in {kind for kind, _ in found(session, narrow, with_remedy=True)}
    (cue, *_) = session.cues(1)
    with pytest.raises(BadInput, match="no safe remedy"):
        FixChecks(piece_id=1, findings=[Finding(kind="wide_line", cue_id=cue.id)]).apply(session)
