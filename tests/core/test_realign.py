from dataclasses import replace
from itertools import pairwise

from hypothesis import given
from hypothesis import strategies as st

from mortiser.core.transcript.realign import realigned
from mortiser.core.transcript.words import Word
from tests.strategies import spoken_words

places = st.none() | st.tuples(st.integers(0, 3_000_000), st.integers(1, 600_000)).map(
    lambda p: (p[0], p[0] + p[1])
)


@given(spoken_words(), st.data())
def test_words_on_their_sound_stay_and_nothing_overlaps(
    words: list[Word], data: st.DataObject
) -> None:
    typed = data.draw(st.lists(st.booleans(), min_size=len(words), max_size=len(words)))
    words = [replace(w, aligned=not t) for w, t in zip(words, typed, strict=True)]
    found = data.draw(st.lists(places, min_size=len(words), max_size=len(words)))
    room = (max(0, words[0].start_us - 200_000), words[-1].end_us + 200_000)
    result = realigned(words, found, room)
    assert [(w.id, w.text) for w in result] == [(w.id, w.text) for w in words]
    assert all(a.end_us <= b.start_us for a, b in pairwise(result))
    assert all(new == old for new, old in zip(result, words, strict=True) if old.aligned)
    assert all(room[0] <= w.start_us <= w.end_us <= room[1] for w in result)


def test_a_typed_word_goes_where_it_was_found() -> None:
    words = [Word("so", 0, 100), Word("the", 100, 100, aligned=False), Word("chair", 900, 1200)]
    result = realigned(words, [(0, 100), (300, 450), (900, 1200)], (0, 2000))
    assert (result[1].start_us, result[1].end_us, result[1].aligned) == (300, 450, True)


def test_a_place_that_is_taken_is_not_squeezed_into() -> None:
    words = [Word("so", 0, 400), Word("the", 400, 450, aligned=False), Word("chair", 450, 900)]
    result = realigned(words, [None, (0, 420), None], (0, 2000))
    assert result == words
