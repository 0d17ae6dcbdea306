"""What was heard against what was said."""

from hypothesis import given
from hypothesis import strategies as st

from mortiser.core.transcript.comparing import Difference, compare

words = st.lists(st.sampled_from(["good", "morning", "from", "lane", "kettle"]), max_size=12)


def test_words_wrong_missed_and_added_are_told_apart() -> None:
    found = compare(
        ["the", "kettle", "came", "in", "cold"], ["a", "kettle", "came", "stone", "cold", "today"]
    )
    assert found.differences == (
        Difference("wrong", 0, 0),
        Difference("wrong", 3, 3),
        Difference("added", 5, 5),
    )
    assert found.same == ((1, 1), (2, 2), (4, 4))
    assert found.word_error == 3 / 5
    missed = compare(["um", "kettle"], ["kettle"])
    assert missed.differences == (Difference("missed", 0, 0),)
    assert (missed.count("missed"), missed.count("wrong")) == (1, 0)


@given(words, words)
def test_every_word_is_the_same_or_different(said: list[str], heard: list[str]) -> None:
    found = compare(said, heard)
    assert len(found.same) + found.count("wrong") + found.count("missed") == len(said)
    assert len(found.same) + found.count("wrong") + found.count("added") == len(heard)
    assert all(said[a] == heard[b] for a, b in found.same)
    wrong = [one for one in found.differences if one.kind == "wrong"]
    assert all(said[one.said] != heard[one.heard] for one in wrong)


@given(words)
def test_the_same_text_has_no_difference(said: list[str]) -> None:
    assert compare(said, said).differences == ()
    assert compare(said, []).word_error == (1.0 if said else 0.0)
