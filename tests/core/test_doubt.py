from dataclasses import replace

from hypothesis import given
from hypothesis import strategies as st

from mortiser.core.doubt import DOUBT_BELOW, Signs, confidences, doubtful
from mortiser.core.words import Word

SURE = Signs(False, False, False)
AGREED = replace(SURE, sure=0.99)
signs = st.builds(
    Signs,
    st.booleans(),
    st.booleans(),
    st.booleans(),
    st.booleans(),
    st.none() | st.floats(0, 1),
)


@given(st.lists(signs, min_size=1, max_size=12))
def test_confidence_is_a_chance(line: list[Signs]) -> None:
    assert all(0 < value < 1 for value in confidences(line))


@given(st.lists(signs, min_size=1, max_size=6), st.data())
def test_more_against_a_word_makes_it_less_sure(line: list[Signs], data: st.DataObject) -> None:
    at = data.draw(st.integers(0, len(line) - 1))
    sure = line[at].sure
    less = None if sure is None else data.draw(st.floats(0, sure))
    worse = replace(line[at], hearing_against=True, guessed=True, sure=less)
    changed = [*line[:at], worse, *line[at + 1 :]]
    assert confidences(changed)[at] <= confidences(line)[at]


def test_a_word_all_agree_on_is_no_doubt_and_one_that_does_not_hold_is() -> None:
    steady, shaky, _ = confidences([SURE, Signs(True, True, False), SURE])
    assert steady >= DOUBT_BELOW > shaky


def test_a_word_the_second_engine_had_otherwise_is_a_doubt() -> None:
    sure, contested, _ = confidences([AGREED, Signs(False, False, False, True, 0.0), AGREED])
    assert sure >= DOUBT_BELOW > contested


def test_only_heard_words_are_doubtful() -> None:
    word = Word("meant", 0, 1, 0.3)
    assert doubtful(word)
    assert not doubtful(replace(word, origin="typed"))
    assert not doubtful(replace(word, confidence=1.0))
    assert not doubtful(replace(word, confidence=None))
