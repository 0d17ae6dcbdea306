"""Words that sound like others, by the shipped dictionary and language model."""

from dataclasses import replace

import pytest
from hypothesis import given, settings
from hypothesis import strategies as st
from rapidfuzz.distance import Levenshtein

from mortiser.core.transcript.sounding import classes, difference
from mortiser.core.transcript.words import Word
from mortiser.speech.sound_alikes import FARTHEST, SoundAlikes, sound_alikes
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


PHONES = st.lists(st.sampled_from(["P", "B", "IY", "AO", "S", "Z", "?!"]))


@given(PHONES, PHONES)
def test_classes_are_never_farther_apart_than_phones(one: list[str], other: list[str]) -> None:
    coarse = Levenshtein.normalized_distance(classes(one), classes(other))
    assert coarse <= difference(one, other) + 1e-9


@given(PHONES)
def test_classes_are_a_letter_a_phone(phones: list[str]) -> None:
    assert len(classes(phones)) == len(phones)
    assert classes(["P"]) == classes(["B"]) != classes(["S"])


def run_of(text: str, **of_the_middle: object) -> list[Word]:
    """Words of three letters or more, a third of a second each; what is said of the second one."""
    words = [
        Word(one, at * 300_000, at * 300_000 + 250_000, 0.9) for at, one in enumerate(text.split())
    ]
    words[1] = replace(words[1], **of_the_middle)
    return words


def test_what_was_heard_comes_first_and_is_written_as_the_word_is() -> None:
    words = run_of("the Freight, near the strain", alternatives=("Trade",))
    found = ALIKES.others(words, 1)
    assert found[0] == "Trade,"
    assert "Frayed," in found
    assert len(found) == 6


@pytest.mark.parametrize(
    ("heard", "begun", "meant"),
    [("ball", "bu", "bulb"), ("will", "mant", "mantel"), ("include", "gl", "glued")],
)
def test_what_is_begun_narrows_them_also_to_what_sounds_otherwise(
    heard: str, begun: str, meant: str
) -> None:
    found = ALIKES.others(run_of(f"the {heard} there"), 1, begun)
    assert meant in found
    assert all(one.startswith(begun) for one in found)


def test_names_of_the_glossary_that_sound_alike_go_before_other_words() -> None:
    words = run_of("ask tamps at the desk")
    names = ["Odalys", "Tamsin", "Tams"]
    assert ALIKES.others(words, 1, names=names)[0] == "Tams"
    assert ALIKES.others(words, 1, "TAMS", names)[:2] == ("Tams", "Tamsin")
    assert "Odalys" not in ALIKES.others(words, 1, names=names)


def test_its_neighbours_count_as_they_were_heard() -> None:
    words = run_of("a ten of fuses")
    words[2] = replace(words[2], text="Offley", heard_as="of")
    assert ALIKES.others(words, 1) == tuple(ALIKES.of("ten", ["a"], ["of", "fuses"], 6))


@pytest.mark.parametrize(
    ("heard", "meant"), [("dolls", "doll's"), ("Doll's.", "Dolls."), ("Fuses", "Fuse's")]
)
def test_what_is_said_alike_of_several_and_of_an_owner(heard: str, meant: str) -> None:
    assert meant in ALIKES.others(run_of(f"the {heard} house"), 1)


@pytest.mark.parametrize("heard", ["glass", "this", "was", "always", "has"])
def test_not_all_that_ends_in_an_s_is_an_owners(heard: str) -> None:
    assert f"{heard[:-1]}'s" not in ALIKES.others(run_of(f"the {heard} house"), 1)


def test_the_one_who_speaks_has_a_capital() -> None:
    assert "I'm" in ALIKES.others(run_of("today um there"), 1)


@settings(max_examples=20, deadline=None)
@given(WORDS, st.text("abcdefghijklmnopqrstuvwxyz", min_size=1, max_size=3))
def test_all_begin_as_written(word: str, begun: str) -> None:
    found = ALIKES.of(word, [], [], 6, begun)
    assert all(one.startswith(begun) and one in dictionary() for one in found)


def test_one_is_made_for_all() -> None:
    assert sound_alikes() is sound_alikes()
