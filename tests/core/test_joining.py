"""Where clips go over into each other, and what was set for which cut."""

import itertools

import pytest
from hypothesis import given
from hypothesis import strategies as st

from mortiser.core.assembly.joining import CutJoin, Joins, joined
from mortiser.core.assembly.transition import TRANSITION_NAMES, Transition
from mortiser.core.editing.timeline import Clip, Timeline
from mortiser.core.framing.clip_framing import ClipFraming

SECOND = 1_000_000
LONG = Transition(length_us=SECOND)


def line(*stretches: tuple[int, float, float]) -> Timeline:
    return Timeline([Clip(s, round(a * SECOND), round(b * SECOND)) for s, a, b in stretches])


def found(timeline: Timeline, joins: Joins):
    return joined(timeline, joins, [ClipFraming()] * len(timeline.clips))


def test_it_lies_about_the_cut_and_shows_what_is_beyond_it() -> None:
    cut = line((1, 0, 4), (1, 6, 10))
    (join,) = found(cut, Joins(where="everywhere", transition=LONG))
    assert (join.start_us, join.end_us) == (3_500_000, 4_500_000)
    at = 4_250_000
    assert (at + join.before.by_us, at + join.after.by_us) == (4_250_000, 6_250_000)
    assert join.share(3_500_000) == 0
    assert join.share(4_500_000) == 1
    assert {join.before.lane, join.after.lane} == {0, 1}
    assert cut.duration_us == 8 * SECOND, "nothing gets longer or shorter"


def test_where_a_recording_goes_on_there_is_no_cut() -> None:
    assert found(line((1, 0, 4), (1, 4, 8)), Joins(where="everywhere")) == ()


def test_only_where_the_recording_changes() -> None:
    cut = line((1, 0, 4), (1, 6, 10), (2, 0, 5))
    assert [j.after.source_id for j in found(cut, Joins(where="recordings"))] == [2]
    assert found(cut, Joins()) == ()


def test_no_more_than_half_a_clip() -> None:
    first, second = found(
        line((1, 0, 4), (1, 6, 6.2), (1, 8, 12)), Joins(where="everywhere", transition=LONG)
    )
    assert (first.end_us, second.start_us) == (4_100_000, 4_100_000)
    assert found(line((1, 0, 4), (1, 6, 6.02), (1, 8, 9)), Joins(where="everywhere")) == ()


@pytest.mark.parametrize("moved_s", [0, -0.4, 0.9])
def test_what_was_set_for_a_cut_stays_with_it(moved_s: float) -> None:
    own = CutJoin(source_id=1, at_us=6 * SECOND, transition=LONG)
    joins = Joins(own=(own,))
    (join,) = found(line((1, 0, 4), (1, 6 + moved_s, 10), (1, 12, 14)), joins)
    assert join.transition == LONG
    assert found(line((1, 0, 4), (1, 7.5, 10)), joins) == (), "another cut"
    plain = Joins(where="everywhere", own=(CutJoin(source_id=1, at_us=6 * SECOND),))
    assert found(line((1, 0, 4), (1, 6, 10)), plain) == ()


def test_it_is_about_copies_in_copies_and_goes_with_its_recording() -> None:
    joins = Joins(own=(CutJoin(source_id=1, at_us=0), CutJoin(source_id=2, at_us=5)))
    assert [one.source_id for one in joins.of_copies({1: 7}).own] == [7, 2]
    assert [one.source_id for one in joins.without_source(1).own] == [2]


stretches = st.lists(
    st.tuples(st.integers(1, 2), st.integers(0, 9_000), st.integers(20, 3_000)),
    min_size=2,
    max_size=8,
)


@given(stretches, st.integers(100, 3_000), st.integers(0, 10_000), st.integers(1, 9_000))
def test_none_lies_over_another_and_parts_show_what_the_whole_shows(
    given_: list[tuple[int, int, int]], length: int, start: int, lasts: int
) -> None:
    cut = line(*((s, a / 1000, (a + n) / 1000) for s, a, n in given_))
    joins = Joins(where="everywhere", transition=Transition(length_us=length * 1000))
    whole = found(cut, joins)
    for one, other in itertools.pairwise(whole):
        assert one.end_us <= other.start_us
    from_us, to_us = start * 1000, (start + lasts) * 1000
    for join in whole:
        part = join.within(from_us, to_us)
        at = max(join.start_us, from_us)
        if part is None:
            assert at >= min(join.end_us, to_us)
            continue
        assert part.share(at - from_us) == pytest.approx(join.share(at))
        assert at - from_us + part.after.by_us == at + join.after.by_us


def test_every_kind_has_a_name() -> None:
    kinds = [one.kind for one in TRANSITION_NAMES]
    for kind in kinds:
        if kind != "picture":
            assert Transition(kind=kind).share(0.5) == 0.5
    with pytest.raises(ValueError, match="Choose the picture"):
        Transition(kind="picture")
