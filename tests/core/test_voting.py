"""The vote: where hearings differ, who is behind whom, and how the winner is written."""

from itertools import pairwise

import pytest
from hypothesis import given
from hypothesis import strategies as st

from mortiser.core.voting import (
    Contest,
    Evidence,
    Spoken,
    contests,
    heard_at,
    second_is_right,
    styled,
)

words = st.lists(st.sampled_from(["mend", "the", "kettle", "lid", "or", "chair"]), max_size=12)


def plain(texts: list[str]) -> Spoken:
    return Spoken(tuple(texts), tuple(range(len(texts))), len(texts))


def test_only_places_that_differ_are_contests() -> None:
    mine = ["we", "mend", "the", "old", "kettle"]
    found = contests(plain(mine), plain(["we", "meant", "the", "kettle"]))
    assert found == [Contest(1, 2, 1, 2), Contest(3, 4, 3, 3)]
    assert contests(plain(["we"]), plain(["we", "mend"])) == [Contest(1, 1, 1, 2)]
    assert contests(plain(["we"]), plain(["we"])) == []


def test_a_written_word_goes_as_a_whole() -> None:
    # “13” is said “thir teen” here; one half of it is heard otherwise.
    mine = Spoken(("thir", "teen", "amp"), (0, 0, 1), 2)
    theirs = Spoken(("thir", "ty", "amp"), (0, 0, 1), 2)
    assert contests(mine, theirs) == [Contest(0, 1, 0, 1)]


@given(words, words)
def test_taking_every_contest_gives_the_other_hearing(mine: list[str], theirs: list[str]) -> None:
    found = contests(plain(mine), plain(theirs))
    assert all(a.end <= b.first and a.stop <= b.start for a, b in pairwise(found))
    result: list[str] = []
    at = 0
    for one in found:
        result += [*mine[at : one.first], *theirs[one.start : one.stop]]
        at = one.end
    assert result + mine[at:] == theirs


@given(words, words, words)
def test_what_a_witness_had_at_a_place_is_what_stands_between_what_agrees(
    before: list[str], middle: list[str], after: list[str]
) -> None:
    witness = [*before, "zinc", *after]
    mine = [*before, "cork", *after]
    assert heard_at(mine, witness, len(before), len(before) + 1) == ["zinc"]
    assert heard_at(mine, [*before, *after], len(before), len(before) + 1) in ([], ["cork"])
    assert heard_at(middle, middle, 0, len(middle)) == middle


@given(st.floats(-50, 50), st.floats(-50, 50), st.booleans(), st.floats(0, 20))
def test_more_for_the_second_makes_it_likelier(
    preference: float, wording: float, against: bool, more: float
) -> None:
    low = second_is_right(Evidence(preference, wording, against))
    assert 0 < low < 1
    assert second_is_right(Evidence(preference + more, wording, against)) >= low
    assert second_is_right(Evidence(preference, wording + more, against)) >= low
    assert second_is_right(Evidence(preference, wording, False)) >= low
    assert second_is_right(Evidence(preference, wording, against, named=True)) > low


def test_a_slip_of_the_second_is_not_taken() -> None:
    # “ten, it is” heard as “tenet is”: its own model likes that little, and nobody says it.
    assert second_is_right(Evidence(-3.2, -4.1, True)) < 0.5
    assert second_is_right(Evidence(0.5, 0.0, False)) > 0.5


@pytest.mark.parametrize(
    ("texts", "before", "instead_of", "written"),
    [
        (["Loosen"], "seam.", ["Listen"], ["Loosen"]),
        (["loosen"], "seam.", ["Listen"], ["Loosen"]),
        (["Ten"], "a", ["tin,"], ["ten,"]),
        (["I"], "the", ["eye"], ["I"]),
        (["Marlo."], "for", ["Marlow"], ["Marlo"]),
        (["skips", "a"], "machine", ["Skip's."], ["skips", "a."]),
        (["tenon"], None, [], ["Tenon"]),
        ([], "a", ["You"], []),
    ],
)
def test_the_winner_is_written_as_what_it_replaces(
    texts: list[str], before: str | None, instead_of: list[str], written: list[str]
) -> None:
    assert styled(texts, before, instead_of) == written
