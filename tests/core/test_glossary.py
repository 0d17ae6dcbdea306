"""What the glossary changes, what it leaves alone, and what corrections teach it."""

from itertools import pairwise

import pytest
from hypothesis import given
from hypothesis import strategies as st

from mortiser.core.transcript.glossary import (
    Entry,
    Glossary,
    corrections,
    reworded,
    worth_an_entry,
)
from mortiser.core.transcript.sounding import difference
from mortiser.core.transcript.words import Word
from mortiser.speech.sounds import DictionarySounds
from tests.strategies import spoken_words

SOUNDS = DictionarySounds()
NAMES = ("Mortiser", "Marlo", "Lantern Lane", "Tamsin Hollis", "Kettlewick", "mending room")
BOOK = Glossary([Entry(name) for name in NAMES] + [Entry("Odalys", ("oh the lease",))], SOUNDS)


def said(text: str) -> list[Word]:
    return [
        Word(token, i * 300_000, i * 300_000 + 250_000, 0.9, id=i + 1)
        for i, token in enumerate(text.split())
    ]


def written(text: str) -> str:
    words = said(text)
    return " ".join(word.text for word in reworded(words, BOOK.changes(words)))


@pytest.mark.parametrize(
    ("heard", "right"),
    [
        ("we use mortise her every day", "we use Mortiser every day"),
        ("Marlow said hello to Lantern Line.", "Marlo said hello to Lantern Lane."),
        ("Tams in Hollis came to kettle wick", "Tamsin Hollis came to Kettlewick"),
        ("come to lantern lane, please", "come to Lantern Lane, please"),
        ("(Tamsyn Hollis's) kettle", "(Tamsin Hollis's) kettle"),
        ("ask oh the lease about it", "ask Odalys about it"),
        ("Mending rum is open", "Mending room is open"),
    ],
)
def test_misheard_names_are_written_right(heard: str, right: str) -> None:
    assert written(heard) == right


@pytest.mark.parametrize(
    "text",
    [
        "Lantern Lane and Marlo and Mortiser's kettle",
        "a mellow fellow in the lane has a lantern",
        "we want more tea. Sir, the chisel is blunt",
        "kettles and wicks and a barrow of sorts",
        "…",
    ],
)
def test_other_words_are_left_alone(text: str) -> None:
    assert written(text) == text


def test_a_change_keeps_times_and_says_what_was_heard() -> None:
    words = said("use mortise her now")
    after = reworded(words, BOOK.changes(words))
    assert [(w.text, w.heard_as) for w in after] == [
        ("use", None),
        ("Mortiser", "mortise her"),
        ("now", None),
    ]
    assert (after[1].id, after[1].start_us, after[1].end_us) == (2, 300_000, 850_000)
    two = reworded(said("on lantern line"), BOOK.changes(said("on lantern line")))
    assert [(w.id, w.heard_as) for w in two[1:]] == [(2, "lantern line"), (3, "")]
    more = reworded(
        said("ask kettlewicks"),
        Glossary([Entry("Kettle Wicks")], SOUNDS).changes(said("ask kettlewicks")),
    )
    assert [(w.id, w.start_us < w.end_us) for w in more] == [(1, True), (2, True), (0, True)]


@pytest.mark.parametrize(
    "change",
    [{"origin": "typed"}, {"confidence": 1.0}, {"heard_as": "marl oh"}],
)
def test_what_somebody_settled_is_not_touched(change: dict) -> None:
    word = Word("Marlow", 0, 300_000, **{"confidence": 0.5, **change})
    assert BOOK.changes([word]) == []


def test_what_was_put_back_is_not_changed_again() -> None:
    book = Glossary([Entry("Mortiser")], SOUNDS, refused=["mortise"])
    assert book.changes(said("a mortise.")) == []
    assert book.changes(said("a mortise her")) != []


def test_a_doubtful_word_gets_a_looser_suggestion() -> None:
    assert BOOK.changes(said("the kettle")) == []
    assert BOOK.like("kettle,") == "Kettlewick,"
    assert BOOK.like("screwdriver") is None


@given(spoken_words(least=0))
def test_changes_never_overlap_and_no_time_is_lost(words: list[Word]) -> None:
    changes = BOOK.changes(words)
    assert all(a.last < b.first for a, b in pairwise(changes))
    after = reworded(words, changes)
    assert BOOK.changes(after) == []
    assert [w.start_us for w in after] == sorted(w.start_us for w in after)
    if words:
        assert (after[0].start_us, after[-1].end_us) == (words[0].start_us, words[-1].end_us)


def test_corrections_are_the_heard_words_that_were_replaced() -> None:
    words = said("Ask Marlow, at the mortise her desk.")
    assert corrections(words, "Ask Marlo, at the Mortiser desk.") == [
        ("Marlow", "Marlo"),
        ("mortise her", "Mortiser"),
    ]
    assert corrections(words, "Ask Marlow, at the desk.") == []


@pytest.mark.parametrize(
    ("heard", "meant", "worth"),
    [
        ("Marlow", "Marlo", True),
        ("tams in", "Tamsin", True),
        ("good", "splendid", False),
        ("a", "the", False),
    ],
)
def test_only_what_sounds_alike_is_offered(heard: str, meant: str, worth: bool) -> None:
    assert worth_an_entry(heard, meant, SOUNDS) is worth


phones = st.lists(
    st.sampled_from(["AA", "IY", "B", "P", "T", "D", "K", "S", "Z", "M", "N", "R", "L"]), max_size=8
)


@given(phones, phones)
def test_difference_is_a_measure(one: list[str], other: list[str]) -> None:
    assert difference(one, one) == 0
    assert difference(one, other) == difference(other, one)
    assert 0 <= difference(one, other) <= 1
    if one != other:
        assert difference(one, other) > 0
