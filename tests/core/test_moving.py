"""Moves over a whole piece: none over another, rests between them, all of them over words that are said."""

from itertools import pairwise

from hypothesis import given
from hypothesis import strategies as st

from mortiser.core.framing.moving import LEAST_US, REST_US, proposed_moves
from mortiser.core.transcript.words import Shown


def talk(*sentences: str, word_us: int = 400_000) -> list[Shown]:
    texts = [text for sentence in sentences for text in sentence.split()]
    return [
        Shown(
            text.strip("*"), at * word_us, at * word_us + word_us - 50_000,
            accent=int(text.startswith("*")), id=at + 1,
        )
        for at, text in enumerate(texts)
    ]  # fmt: skip


LONG = "and then we mend whatever came in through the door that day."


def test_long_sentences_move_in_and_out_by_turns_with_rests() -> None:
    found = proposed_moves(talk(*[LONG] * 6))
    assert [one.way for one in found] == ["in", "out", "in"]
    assert all(" ".join(w.text for w in one.words) == LONG for one in found)


def test_a_marked_word_moves_quickly_and_its_sentence_stands() -> None:
    (one,) = proposed_moves(talk(LONG.replace("door", "*door")))
    assert (one.way, [word.text for word in one.words]) == ("quick", ["door"])


def test_short_sentences_stand() -> None:
    assert proposed_moves(talk("Yes.", "No.", "Well.")) == []
    assert proposed_moves([]) == []


@given(
    st.lists(
        st.tuples(st.integers(0, 3), st.sampled_from(["mend", "it.", "*now", "then,"])),
        max_size=120,
    )
)
def test_no_two_moves_meet(parts: list[tuple[int, str]]) -> None:
    words, at = [], 0
    for gap, text in parts:
        at += gap * 300_000
        words.append(Shown(text.strip("*"), at, at + 250_000, accent=int(text[0] == "*")))
        at += 260_000
    found = proposed_moves(words)
    for one, after in pairwise(found):
        assert after.words[0].start_us - one.words[-1].end_us >= REST_US
    for one in found:
        if one.way != "quick":
            assert one.words[-1].end_us - one.words[0].start_us >= LEAST_US
