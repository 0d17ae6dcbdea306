"""What was said in recordings: sentences, where a text is said, takes of the same words."""

from hypothesis import given
from hypothesis import strategies as st

from mortiser.core.editing.strand import Strand
from mortiser.core.editing.takes import FEWEST, takes
from mortiser.core.editing.timeline import Clip, Timeline
from mortiser.core.editing.utterances import Playing, Utterance, playing, said
from mortiser.core.transcript.sentences import sentences
from mortiser.core.transcript.words import Word

STEP_US = 400_000


def spoken(text: str, source_id: int = 1, first: int = 1) -> list[Word]:
    """A word every 400 ms, one that is a dash is a second of quiet."""
    words, at = [], 0
    for number, token in enumerate(text.split(), start=first):
        if token == "—":
            at += 1_000_000
            continue
        words.append(Word(token, at, at + STEP_US - 50_000, id=number, source_id=source_id))
        at += STEP_US
    return words


def text_of(one: Utterance) -> str:
    return " ".join(word.text for word in one.words)


def test_sentences_end_with_their_sign_at_quiet_and_with_the_speaker() -> None:
    words = spoken("It hums. Then it stops — and that is it")
    assert sentences(words) == [(0, 1), (2, 4), (5, 8)]
    assert sentences([]) == []


@given(st.lists(st.sampled_from(["the", "fuse.", "—", "kettle", "is", "cold?"]), max_size=30))
def test_every_word_is_in_one_sentence(tokens: list[str]) -> None:
    words = spoken(" ".join(tokens))
    places = [at for first, last in sentences(words) for at in range(first, last + 1)]
    assert places == list(range(len(words)))


def test_a_text_is_looked_for_in_every_recording() -> None:
    words = {
        1: spoken("The fuse is blown. Ask at the counter."),
        2: spoken("A kettle. It is the Fuse again, the fuse!", 2, 50),
    }
    found = said(words, "the fuse")
    assert [(one.source_id, text_of(one)) for one in found] == [
        (1, "The fuse is blown."),
        (2, "It is the Fuse again, the fuse!"),
    ]
    assert [one.noticed for one in found] == [(0, 1), (2, 3, 5, 6)]
    assert said(words, "toaster") == []
    assert [text_of(one) for one in said({2: words[2]}, " ")] == [
        "A kettle.",
        "It is the Fuse again, the fuse!",
    ]
    (over,) = said(words, "blown. Ask")
    assert text_of(over) == "The fuse is blown. Ask at the counter."


def test_takes_are_found_over_recordings_and_within_one() -> None:
    words = {
        1: spoken("Good morning from Lantern Lane. We mend what is broken. Thanks."),
        2: spoken(
            "Good morning to you from Lantern Lane. So. We mend whatever is broken. "
            "We mend what is broken. Nothing else is said here twice.",
            2,
            50,
        ),
    }
    found = takes(words)
    assert [[(one.source_id, text_of(one)) for one in some] for some in found] == [
        [(1, "Good morning from Lantern Lane."), (2, "Good morning to you from Lantern Lane.")],
        [
            (1, "We mend what is broken."),
            (2, "We mend whatever is broken."),
            (2, "We mend what is broken."),
        ],
    ]
    first, second = found[0]
    assert first.noticed == ()
    assert [second.words[at].text for at in second.noticed] == ["to", "you"]


def test_short_sentences_and_common_beginnings_are_no_takes() -> None:
    assert takes({1: spoken("Yes, of course. Yes, of course. Oh no.")}) == []
    other = "I do not know what the kettle has. I do not know why radios hum on Sunday evenings."
    assert takes({1: spoken(other)}) == []


@given(st.lists(st.sampled_from(["we", "mend", "it.", "the", "fuse", "here."]), max_size=40))
def test_a_sentence_is_in_one_group_of_at_least_two_alike(tokens: list[str]) -> None:
    words = spoken(" ".join(tokens))
    found = takes({1: words, 2: spoken(" ".join(tokens), 2, 100)})
    ids = [one.words[0].id for some in found for one in some]
    assert len(ids) == len(set(ids))
    assert all(len(some) > 1 for some in found)
    long = [b - a + 1 for a, b in sentences(words) if b - a + 1 >= FEWEST]
    assert len(ids) == 2 * len(long), "each has at least the same one in the other recording"


def test_where_a_sentence_plays() -> None:
    words = spoken("We mend what is broken.")
    one = Utterance(1, tuple(words))
    strands = [Strand(1, 1, 0, 3_000_000), Strand(2, 1, 0, 3_000_000), Strand(3, 2, 0, 3_000_000)]
    cut = Timeline([Clip(2, 0, 500_000, 3, 3), Clip(1, STEP_US, 3_000_000, 2, 2)])
    assert playing(one, cut, strands) == Playing(2, 500_000)
    assert playing(one, Timeline([Clip(2, 0, 500_000, 3, 3)]), strands) is None
    assert playing(one, cut, [Strand(2, 1, STEP_US, 3_000_000)]) is None, "not all of it is there"


REWORDED = (
    "First take the plug out of the wall and wait.",
    "So first you take the plug out, then wait for a minute.",
)


def test_what_is_said_again_right_away_in_other_words_is_a_take() -> None:
    ((first, again),) = takes({1: spoken(" ".join(REWORDED))})
    assert (text_of(first), text_of(again)) == REWORDED


def test_the_same_far_from_it_is_none() -> None:
    between = "The cat sleeps on the shelf all day. Nobody knows why it came here."
    assert takes({1: spoken(f"{REWORDED[0]} {between} {REWORDED[1]}")}) == []
    assert takes({1: spoken(REWORDED[0]), 2: spoken(REWORDED[1], 2, 50)}) == []
