from dataclasses import replace

from hypothesis import given
from hypothesis import strategies as st

from mortiser.core.checks import DOUBT_BELOW, doubtful
from mortiser.core.doubt import Signs, confidences
from mortiser.core.words import Word

SURE = Signs(0, False, False)
signs = st.builds(Signs, st.integers(0, 2), st.booleans(), st.booleans())


@given(st.lists(signs, min_size=1, max_size=12))
def test_confidence_is_a_chance(line: list[Signs]) -> None:
    assert all(0 < value < 1 for value in confidences(line))


@given(st.lists(signs, min_size=1, max_size=6), st.data())
def test_more_against_a_word_makes_it_less_sure(line: list[Signs], data: st.DataObject) -> None:
    at = data.draw(st.integers(0, len(line) - 1))
    worse = replace(line[at], hearings_against=min(2, line[at].hearings_against + 1), guessed=True)
    changed = [*line[:at], worse, *line[at + 1 :]]
    assert confidences(changed)[at] <= confidences(line)[at]


def test_a_word_all_agree_on_is_no_doubt_and_one_that_does_not_hold_is() -> None:
    steady, shaky, _ = confidences([SURE, Signs(1, True, False), SURE])
    assert steady >= DOUBT_BELOW > shaky


def test_only_heard_words_are_doubtful() -> None:
    word = Word("meant", 0, 1, 0.3)
    assert doubtful(word)
    assert not doubtful(replace(word, origin="typed"))
    assert not doubtful(replace(word, confidence=1.0))
    assert not doubtful(replace(word, confidence=None))
