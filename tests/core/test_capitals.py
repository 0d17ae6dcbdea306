"""Which word a cut gives a capital."""

import pytest

from mortiser.core.transcript.capitals import takes_capital
from mortiser.core.transcript.words import Word, capitalised


def said(text: str) -> list[Word]:
    return [
        Word(word, at * 1_000, at * 1_000 + 900, id=at + 1) for at, word in enumerate(text.split())
    ]


@pytest.mark.parametrize(
    ("text", "before", "at", "takes"),
    [
        ("Well done. Um, first we look.", 1, 3, True),
        ("Um, first we look.", None, 1, True),
        ("um, first we look.", None, 1, False),
        ("Well done. Um, first we look.", 2, 3, False),
        ("Well done, um, first we look.", 1, 3, False),
        ("Um, iPad users look.", None, 1, False),
        ("Um, First we look.", None, 1, False),
        ("Well done. first we look.", 1, 2, False),
        ("Um, 1st we look.", None, 1, False),
        ("Um, 12 of us look.", None, 1, False),
        ("Well, he “says” (so) now. Oh, look.", 4, 6, True),
    ],
)
def test_a_small_word_that_begins_its_sentence_now(
    text: str, before: int | None, at: int, takes: bool
) -> None:
    words = said(text)
    front = None if before is None else words[before]
    assert takes_capital(words[at], front, words[:at]) is takes


def test_the_first_letter_is_a_capital() -> None:
    assert [capitalised(text) for text in ("first", "“first", "1st", "été")] == [
        "First", "“First", "1st", "Été",
    ]  # fmt: skip
