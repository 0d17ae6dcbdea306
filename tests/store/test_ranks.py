"""Ranks with room between them."""

from hypothesis import given
from hypothesis import strategies as st

from mortiser.store.ranks import GAP, ranked

RANKS = st.lists(st.one_of(st.none(), st.integers(-5, 60)), max_size=12)


@given(RANKS)
def test_ranks_rise(known: list[int | None]) -> None:
    found = ranked(known)
    assert len(found) == len(known)
    assert found == sorted(set(found))


@given(st.lists(st.integers(0, 3), min_size=1, max_size=60))
def test_rows_put_between_others_touch_few_of_them(places: list[int]) -> None:
    ranks = ranked([None, None, None])
    touched = 0
    for place in places:
        wanted: list[int | None] = [*ranks]
        wanted.insert(min(place, len(wanted)), None)
        now = ranked(wanted)
        touched += sum(rank not in now for rank in ranks)
        ranks = now
    assert touched <= len(ranks) * (len(places) // 18)


def test_rows_that_stay_keep_theirs() -> None:
    assert ranked([0, GAP, None, 2 * GAP]) == [0, GAP, GAP + GAP // 2, 2 * GAP]
    assert ranked([2 * GAP, 0, GAP]) == [-GAP, 0, GAP]
    assert ranked([0, None, 1]) == [0, GAP, 2 * GAP]
    assert ranked([]) == []
