"""Words that sound like others, by the shipped dictionary and language model."""

import pytest
from hypothesis import given, settings
from hypothesis import strategies as st

from mortiser.core.sounding import classes, difference
from mortiser.speech.sound_alikes import FARTHEST, SoundAlikes
from mortiser.speech.sounds import DictionarySounds, dictionary
from mortiser.speech.wording import Wording

ALIKES = SoundAlikes(Wording())


@pytest.mark.parametrize(
    ("before", "heard", "after", "meant"),
    [
        ("sharp enough to", "pair", "the tenon", "pare"),
        ("thread the needle", "not", "the end", "knot"),
        ("what looks like", "rest", "is often", "rust"),
        ("what to do when the", "teeth", "is ready", "tea"),
        ("the cable is", "freight", "near the strain", "frayed"),
        ("near the", "string", "relief", "strain"),
        ("to the nearest", "mantle", "clock", "mantel"),
    ],
)
def test_what_was_meant_is_among_them(before: str, heard: str, after: str, meant: str) -> None:
    found = ALIKES.of(heard, before.split(), after.split(), 6)
    assert meant in found
    assert heard not in found
    assert len(found) <= 6


def test_the_neighbours_say_which_comes_first() -> None:
    clock = ALIKES.of("there", ["sit"], ["on", "that"], 40)
    other = ALIKES.of("there", ["they", "lost"], ["keys"], 40)
    assert other.index("their") <= clock.index("their")


@pytest.mark.parametrize("text", ["13:45", "4,000", "—", ""])
def test_there_are_none_for_what_is_not_one_spoken_word(text: str) -> None:
    assert ALIKES.of(text, [], [], 6) == []


WORDS = st.sampled_from(sorted(dictionary())[::997])


@settings(max_examples=20, deadline=None)
@given(WORDS, st.integers(1, 12))
def test_they_are_different_words_that_sound_near(word: str, most: int) -> None:
    sounds = DictionarySounds()
    found = ALIKES.of(word, [], [], most)
    assert len(found) == len(set(found)) <= most
    assert word not in found
    said = sounds.phones(word)
    assert all(difference(said, dictionary()[one].split()) <= FARTHEST for one in found)


@given(st.lists(st.sampled_from(["P", "B", "IY", "AO", "S", "Z", "?!"])))
def test_classes_are_a_letter_a_phone(phones: list[str]) -> None:
    assert len(classes(phones)) == len(phones)
    assert classes(["P"]) == classes(["B"]) != classes(["S"])
