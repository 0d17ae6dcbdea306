"""No edit leaves captions of one speaker showing at once that did not before; on every session."""

import tempfile
from collections.abc import Callable, Iterator
from contextlib import contextmanager
from itertools import pairwise
from pathlib import Path
from typing import Any

import pytest
from hypothesis import given, settings
from hypothesis import strategies as st

from mortiser.core.common.errors import MortiserError
from mortiser.core.edits.apart import carry_out
from mortiser.core.edits.captions.captions import SplitCue
from mortiser.core.edits.captions.shifting import ShiftCues
from mortiser.core.edits.captions.times import CloseGaps, MoveCues, SetCueTimes, UnpinCues
from mortiser.core.edits.cutting.trimming import CutStretches, RestoreStretches, StrandStretch
from mortiser.core.edits.session import EditSession
from mortiser.core.edits.text.laying import LaidCaption, LaidWord, LayCaptions
from mortiser.store.sql_session import SqlEditSession
from tests.memory_session import MemoryEditSession
from tests.store.fixtures import open_project, spoken

MS = 1_000
SENTENCES = [
    "We mend kettles",
    "and chairs on Lantern Lane.",
    "Bring yours",
    "on Saturday morning.",
]
LAST = 12_000_000


@contextmanager
def in_memory() -> Iterator[EditSession]:
    yield MemoryEditSession(spoken())


@contextmanager
def in_sql() -> Iterator[EditSession]:
    with tempfile.TemporaryDirectory() as folder:
        database, project, _ = open_project(Path(folder))
        with database.transaction() as db:
            yield SqlEditSession(db, project)
        database.close()


def from_a_file(gaps: list[int], over: int = 0) -> LayCaptions:
    """Captions with their times: sentences a while apart (or ``over`` the next), their words inside."""
    captions = []
    at = 500 * MS
    for text, gap in zip(SENTENCES, gaps, strict=True):
        words = text.split()
        laid = [
            LaidWord(
                text=word,
                start_us=at + 150 * MS + 300 * MS * n,
                end_us=at + 430 * MS + 300 * MS * n,
            )
            for n, word in enumerate(words)
        ]
        end = laid[-1].end_us + 400 * MS
        captions.append(LaidCaption(words=laid, start_us=at, end_us=end + over))
        at = end + gap
    return LayCaptions(
        about="import captions", piece_id=1, from_us=0, to_us=60_000_000, captions=captions
    )


def shown(session: EditSession) -> list[tuple[int, int]]:
    return [(cue.start_us, cue.end_us) for cue in session.cues(1)]


moments = st.integers(0, LAST)
Draw = Callable[[EditSession], Any]


@st.composite
def edits(draw: st.DrawFn) -> Draw:
    """A way to make an edit of what is there by then."""
    kind = draw(
        st.sampled_from(["cut", "back", "drag", "move", "shift", "split", "close", "unpin"])
    )
    at, length, which = (
        draw(moments),
        draw(st.integers(10 * MS, 3_000 * MS)),
        draw(st.integers(0, 9)),
    )
    by, ripple = draw(st.integers(-900, 900)), draw(st.booleans())
    together = draw(st.booleans())

    def made(session: EditSession) -> Any:
        cue = session.cues(1)[which % len(session.cues(1))]
        stretch = [StrandStretch(strand_id=session.strands(1)[0].id, from_us=at, to_us=at + length)]
        match kind:
            case "cut":
                return CutStretches(piece_id=1, stretches=stretch, found="quiet")
            case "back":
                return RestoreStretches(piece_id=1, stretches=stretch, found="quiet")
            case "drag":
                edge = {"start_us": at} if ripple else {"end_us": at}
                return SetCueTimes(cue_id=cue.id, together=together, **edge)
            case "move":
                return MoveCues(cue_ids=[cue.id], by_us=by * MS, ripple=ripple)
            case "shift":
                return ShiftCues(cue_ids=[cue.id], by=f"{by / 1000:+.3f}", onward=ripple)
            case "split":
                return SplitCue(cue_id=cue.id, before_word=1 + which % 2)
            case "close":
                return CloseGaps(cue_ids=[one.id for one in session.cues(1)])
            case _:
                return UnpinCues(cue_ids=[cue.id])

    return made


def overlaps_never_come(opened: Callable[[], Any], gaps: list[int], many: list[Draw]) -> None:
    with opened() as session:
        carry_out(from_a_file(gaps), session)
        assert session.crowding() == []
        for draw in many:
            before = shown(session)
            try:
                carry_out(draw(session), session)
            except MortiserError:
                return  # The store takes a refused edit back as a whole.
            assert session.crowding() == [], (before, shown(session))
            assert all(start < end for start, end in shown(session))


gaps = st.lists(st.integers(0, 1_500 * MS), min_size=4, max_size=4)


@given(gaps, st.lists(edits(), min_size=1, max_size=6))
@settings(max_examples=150, deadline=None)
def test_in_memory(gaps: list[int], many: list[Draw]) -> None:
    overlaps_never_come(in_memory, gaps, many)


@given(gaps, st.lists(edits(), min_size=1, max_size=6))
@settings(max_examples=40, deadline=None)
def test_in_sql(gaps: list[int], many: list[Draw]) -> None:
    overlaps_never_come(in_sql, gaps, many)


@pytest.mark.parametrize("opened", [in_memory, in_sql])
def test_quiet_between_captions_from_a_file_is_taken_out(opened: Callable[[], Any]) -> None:
    with opened() as session:
        carry_out(from_a_file([600 * MS] * 4), session)
        strand = session.strands(1)[0].id
        quiet = [
            StrandStretch(strand_id=strand, from_us=one[1] - 200 * MS, to_us=after[0] + 100 * MS)
            for one, after in pairwise(shown(session))
        ]
        carry_out(CutStretches(piece_id=1, stretches=quiet, found="quiet"), session)
        times = shown(session)
        assert all(one[1] <= after[0] + 1 for one, after in pairwise(times))
        assert len(times) == len(SENTENCES)


@pytest.mark.parametrize("opened", [in_memory, in_sql])
def test_captions_that_overlap_in_their_file_stay_so(opened: Callable[[], Any]) -> None:
    with opened() as session:
        laid = from_a_file([100 * MS] * 4, over=350 * MS)
        carry_out(laid, session)
        assert shown(session) == [(one.start_us, one.end_us) for one in laid.captions]
        pairs = session.crowding()
        assert len(pairs) == 3
        carry_out(UnpinCues(cue_ids=[session.cues(1)[-1].id]), session)
        assert set(session.crowding()) < set(pairs)


@pytest.mark.parametrize("opened", [in_memory, in_sql])
def test_what_is_dragged_stays_and_what_is_beside_it_gives_way(opened: Callable[[], Any]) -> None:
    with opened() as session:
        carry_out(from_a_file([100 * MS] * 4), session)
        first, second = session.cues(1)[:2]
        carry_out(MoveCues(cue_ids=[first.id], by_us=400 * MS), session)
        moved, beside = session.cues(1)[:2]
        assert (moved.start_us, moved.end_us) == (
            first.start_us + 400 * MS,
            first.end_us + 400 * MS,
        )
        assert (beside.start_us, beside.end_us) == (moved.end_us, second.end_us)


@pytest.mark.parametrize("opened", [in_memory, in_sql])
def test_two_speakers_may_speak_at_once(opened: Callable[[], Any]) -> None:
    with opened() as session:
        laid = from_a_file([100 * MS] * 4)
        other = [word.model_copy(update={"speaker": "Marlo"}) for word in laid.captions[1].words]
        captions = [
            one if number != 1 else one.model_copy(update={"words": other})
            for number, one in enumerate(laid.captions)
        ]
        carry_out(laid.model_copy(update={"captions": captions}), session)
        first = session.cues(1)[0]
        carry_out(MoveCues(cue_ids=[first.id], by_us=400 * MS), session)
        moved, beside = session.cues(1)[:2]
        assert moved.end_us > beside.start_us
        assert session.crowding() == []
