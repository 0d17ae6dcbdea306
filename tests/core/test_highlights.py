"""Passages worth a piece: whole sentences, questions with their answers, each with its reasons."""

from itertools import pairwise

from hypothesis import given, settings
from hypothesis import strategies as st

from mortiser.core.editing.highlights import LONGEST_US, SHORTEST_US, thoughts
from mortiser.core.editing.strand import Strand, without
from mortiser.core.editing.talk import Item, talk
from mortiser.core.editing.timeline import Clip, Timeline
from mortiser.core.transcript.words import Word

WORD_US = 400_000
PLAIN = "We mend things here every week and we like to do it well together."
KETTLE = (
    "Why does a kettle fuse blow? The element corrodes under limescale. Water creeps into the seam. "
    "Then the current finds the chassis. Descale with vinegar every month. Dry the socket afterwards. "
    "A blown fuse is only the messenger. Test the element with a multimeter before anything else. "
    "Nine ohms means healthy, silence means scrap."
)


def said(text: str, *, pause_us: int = 100_000) -> list[Word]:
    """Words of 400 ms; some quiet behind each sentence."""
    words: list[Word] = []
    at = 500_000
    for number, token in enumerate(text.split(), start=1):
        words.append(Word(token, at, at + WORD_US - 40_000, id=number))
        at += WORD_US + (pause_us if token.endswith((".", "?")) else 0)
    return words


def items_of(words: list[Word], cut: tuple[int, int] | None = None) -> list[Item]:
    end = words[-1].end_us + 500_000
    clips = [Clip(1, 0, end, 1, 1)]
    if cut:
        clips = without(clips, 1, *cut)
    return talk(Timeline(clips), [Strand(1, 1, 0, end)], {1: words})


LONG = said(" ".join([PLAIN] * 8 + [KETTLE] + [PLAIN] * 8))


def test_a_question_with_its_answer_is_found_among_small_talk() -> None:
    best = thoughts(items_of(LONG), "en")[0]
    assert best.text.startswith("Why does a kettle fuse blow?")
    assert best.text.endswith(".")
    assert "a question and its answer" in best.reasons
    assert any("nowhere else: " in reason and "fuse" in reason for reason in best.reasons)
    words = {word.id: word.text for word in LONG}
    assert words[best.first_word] == "Why"
    assert words[best.last_word] == best.text.split()[-1]
    first = next(word for word in LONG if word.id == best.first_word)
    assert best.at_us == first.start_us


def test_what_is_struck_is_in_none() -> None:
    start = next(word for word in LONG if word.text == "The").start_us
    end = next(word for word in LONG if word.text == "scrap.").end_us
    for one in thoughts(items_of(LONG, (start - 50_000, end + 50_000)), "en"):
        assert "limescale" not in one.text


def test_a_short_talk_has_none() -> None:
    assert thoughts(items_of(said(KETTLE)), "en") == []
    assert thoughts([], "en") == []


@settings(max_examples=40, deadline=None)
@given(st.lists(st.tuples(st.integers(4, 12), st.booleans()), min_size=20, max_size=30))
def test_they_are_whole_sentences_of_their_length_apart_from_each_other(
    sentences: list[tuple[int, bool]],
) -> None:
    text = " ".join(
        " ".join(f"word{length * at % 17}" for at in range(length)) + ("?" if asks else ".")
        for length, asks in sentences
    )
    words = said(text, pause_us=300_000)
    by_id = {word.id: word for word in words}
    found = sorted(thoughts(items_of(words), "en"), key=lambda one: one.at_us)
    for one in found:
        assert SHORTEST_US <= one.length_us <= LONGEST_US
        ends = by_id[one.last_word].text
        assert ends.endswith((".", "?")) or one.last_word == words[-1].id
        begins = by_id.get(one.first_word - 1)
        assert begins is None or begins.text.endswith((".", "?"))
    assert all(a.at_us + a.length_us <= b.at_us for a, b in pairwise(found))
