"""Words that sound alike and would read better."""

import pytest

from mortiser.core.transcript.doubt import LEAST_RIVAL
from mortiser.speech.rivals import Rivals
from mortiser.speech.sound_alikes import sound_alikes
from tests.contracts.test_speech import PlainReading, small_model


@pytest.fixture(scope="module")
def rivals() -> Rivals:
    return Rivals(sound_alikes())


def of_both(rivals: Rivals, right: str, wrong: str, index: int) -> tuple[float, float]:
    """How strong the rivals of a word are in either of two texts."""
    reader = small_model()
    texts = right.split(" "), wrong.split(" ")
    one, other = (rivals.best(reader.read([], text), text, index) for text in texts)
    return one, other


@pytest.mark.parametrize(
    ("right", "wrong", "index"),
    [
        ("Pour the tea into a clean cup.", "Pour the tee into a clean cup.", 2),
        ("Open the plug and look for the fuse.", "Open the plug and look four the fuse.", 5),
        ("Rust had eaten through the old hinge.", "Rest had eaten through the old hinge.", 0),
    ],
)
def test_a_misheard_word_has_a_stronger_rival(
    rivals: Rivals, right: str, wrong: str, index: int
) -> None:
    one, other = of_both(rivals, right, wrong, index)
    assert other > one + 3


def test_the_words_behind_count(rivals: Rivals) -> None:
    """With a reader that finds all words alike."""
    texts = ["a", "grate", "deal", "of", "work"]
    follows = rivals.best(PlainReading(texts), texts, 1)
    alone = rivals.best(PlainReading(texts[:2]), texts[:2], 1)
    assert follows > alone


def test_what_nothing_sounds_like_has_no_rival(rivals: Rivals) -> None:
    texts = ["It", "costs", "3,450", "today"]
    assert rivals.best(PlainReading(texts), texts, 2) == LEAST_RIVAL
