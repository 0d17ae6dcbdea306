"""The vote: where hearings differ, who is behind whom, and how the winner is written."""

from itertools import pairwise

import pytest
from hypothesis import given
from hypothesis import strategies as st

from mortiser.core.transcript.voting import (
    SECOND,
    THIRD,
    Contest,
    Evidence,
    Spoken,
    VoteWeights,
    both_names,
    contests,
    heard_at,
    is_right,
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


@pytest.mark.parametrize("weights", [SECOND, THIRD])
@given(
    wording=st.floats(-50, 50), against=st.booleans(), behind=st.booleans(), more=st.floats(0, 20)
)
def test_more_for_what_would_come_in_makes_it_likelier(
    weights: VoteWeights, wording: float, against: bool, behind: bool, more: float
) -> None:
    low = is_right(Evidence(wording, against, behind), weights)
    assert 0 < low < 1
    assert is_right(Evidence(wording + more, against, behind), weights) >= low
    assert is_right(Evidence(wording, False, behind), weights) >= low
    assert is_right(Evidence(wording, against, True), weights) >= low
    assert is_right(Evidence(wording, against, behind, named=True), weights) > low


def test_a_slip_of_the_second_is_not_taken() -> None:
    # “ten, it is” heard as “tenet is”: nobody else has it, and nobody would write it.
    assert is_right(Evidence(-9.0, against=True), SECOND) < 0.5
    assert is_right(Evidence(0.0), SECOND) > 0.5


def test_the_third_needs_somebody_behind_it_or_a_better_wording() -> None:
    assert is_right(Evidence(0.0), THIRD) < 0.5
    assert is_right(Evidence(0.0, behind=True), THIRD) > 0.5
    assert is_right(Evidence(6.0), THIRD) > 0.5


@pytest.mark.parametrize(
    ("mine", "theirs", "before", "names"),
    [
        (["Marlo"], ["Marlowe"], "for", True),
        (["Marlo"], ["Marlowe"], "desk.", False),
        (["Marlo"], ["mallow"], "for", False),
        (["I"], ["I'm"], "for", False),
        (["the", "Lane."], ["the", "Lain."], "desk.", True),
    ],
)
def test_names_are_known_by_a_capital_that_no_sentence_gives(
    mine: list[str], theirs: list[str], before: str | None, names: bool
) -> None:
    assert both_names(mine, theirs, before) is names


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
