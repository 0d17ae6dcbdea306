from dataclasses import replace

from hypothesis import given
from hypothesis import strategies as st

from mortiser.core.transcript.doubt import DOUBT_BELOW, Signs, confidences, doubtful
from mortiser.core.transcript.words import Word

ONCE = Signs(False, 2.0, 5)
AGREED = replace(ONCE, sure=0.99)
signs = st.builds(
    Signs,
    guessed=st.booleans(),
    surprise=st.floats(0, 40),
    letters=st.integers(1, 30),
    contested=st.booleans(),
    left=st.floats(0, 0.5),
    sure=st.none() | st.floats(0, 1),
    third_against=st.booleans(),
    rival=st.floats(-40, 40),
)


@given(st.lists(signs, min_size=1, max_size=12))
def test_confidence_is_a_chance(line: list[Signs]) -> None:
    assert all(0 < value < 1 for value in confidences(line))


@given(st.lists(signs, min_size=1, max_size=6), st.data())
def test_more_against_a_word_makes_it_less_sure(line: list[Signs], data: st.DataObject) -> None:
    at = data.draw(st.integers(0, len(line) - 1))
    sure = line[at].sure
    less = None if sure is None else data.draw(st.floats(0, sure))
    more = {"surprise": line[at].surprise + 1, "rival": line[at].rival + 1}
    worse = replace(line[at], third_against=True, guessed=True, sure=less, **more)
    changed = [*line[:at], worse, *line[at + 1 :]]
    assert confidences(changed)[at] <= confidences(line)[at]


def test_a_word_all_agree_on_is_no_doubt_and_one_that_does_not_hold_is() -> None:
    odd = replace(ONCE, third_against=True, surprise=9.0)
    steady, shaky, _ = confidences([ONCE, odd, ONCE])
    assert steady >= DOUBT_BELOW > shaky


def test_a_word_the_second_engine_had_otherwise_is_a_doubt() -> None:
    odd = replace(AGREED, contested=True, left=0.3, sure=0.0, rival=0.0)
    sure, contested, _ = confidences([AGREED, odd, AGREED])
    assert sure >= DOUBT_BELOW > contested


def test_a_word_is_a_doubt_where_one_that_sounds_alike_reads_much_better() -> None:
    odd = replace(AGREED, sure=0.7, rival=14.0)
    sure, rivalled, _ = confidences([AGREED, odd, AGREED])
    assert sure >= DOUBT_BELOW > rivalled


def test_what_does_not_follow_makes_a_word_doubtful() -> None:
    odd = replace(AGREED, sure=0.7, rival=0.0)
    after = replace(AGREED, surprise=14.0)
    assert confidences([odd, AGREED, AGREED])[0] >= DOUBT_BELOW
    assert confidences([odd, after, after])[0] < DOUBT_BELOW


def test_only_heard_words_are_doubtful() -> None:
    word = Word("meant", 0, 1, 0.3)
    assert doubtful(word)
    assert not doubtful(replace(word, origin="typed"))
    assert not doubtful(replace(word, confidence=1.0))
    assert not doubtful(replace(word, confidence=None))
