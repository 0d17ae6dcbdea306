"""The vote on a stretch of words: what comes in, what stays, and what is left of the doubt."""

from dataclasses import replace
from itertools import pairwise

from hypothesis import given
from hypothesis import strategies as st

from mortiser.core.transcript.voting import SECOND, THIRD
from mortiser.core.transcript.words import Word
from mortiser.speech.protocols import HeardChange
from mortiser.speech.standing import changes, standing, voted
from tests.contracts.test_speech import PlainReader, PlainReading

TEXTS = ["mend", "the", "kettle", "lid", "or", "um", "chair", "Marlo"]
texts = st.lists(st.sampled_from(TEXTS), max_size=10)


class Believer:
    """Finds one text likelier than all others."""

    def __init__(self, text: str) -> None:
        self.text = text
        self.asked: list[str] = []

    def likelihoods(self, texts):
        self.asked += texts
        return [0.0 if self.text in text else -20.0 for text in texts]

    def read(self, before, words):
        return PlainReading(words)


def said(*texts: str, **more: object) -> list[Word]:
    return [Word(t, i * 300_000, i * 300_000 + 200_000, 0.9, **more) for i, t in enumerate(texts)]


def read(words: list[Word], made: list[HeardChange]) -> list[str]:
    """The texts with the changes made."""
    result: list[str] = []
    at = 0
    for one in made:
        result += [word.text for word in [*words[at : one.first], *one.words]]
        at = one.end
    return result + [word.text for word in words[at:]]


@given(texts, texts, texts)
def test_changes_are_what_the_vote_came_to(mine, second, third) -> None:
    words = said(*mine)
    places = voted(standing(words), said(*second), said(*third), SECOND, PlainReader())
    places = voted(places, said(*third), words, THIRD, PlainReader())
    made = list(changes(places, words))
    assert read(words, made) == [place.word.text for place in places]
    assert all(a.end < b.first for a, b in pairwise(made))
    assert all(one.words or one.end > one.first for one in made)
    assert all(0 <= place.left <= 0.5 for place in places if place.left is not None)


@given(texts, texts, texts)
def test_words_settled_by_hand_stay(mine, second, third) -> None:
    words = said(*mine, origin="typed")
    places = voted(standing(words), said(*second), said(*third), SECOND, None)
    kept = [place.was for place in places if place.was is not None]
    assert kept == list(range(len(words)))


@given(texts)
def test_nothing_is_contested_where_all_agree(mine) -> None:
    words = said(*mine)
    places = voted(standing(words), said(*mine), said(*mine), SECOND, PlainReader())
    assert places == standing(words)


def heard(mine: str, theirs: str, other: str, reader: Believer | None = None) -> str:
    words = said(*mine.split())
    places = voted(standing(words), said(*theirs.split()), said(*other.split()), SECOND, reader)
    return " ".join(place.word.text for place in places)


def test_the_second_wins_unless_the_third_and_the_wording_are_against_it() -> None:
    assert heard("we meant things", "we mend things", "we mend things") == "we mend things"
    assert heard("nine times ten", "nine times tenet", "nine times ten") == "nine times tenet"
    believer = Believer("times ten")
    assert heard("nine times tin", "nine times ten", "nine times tin", believer) == "nine times ten"
    believer = Believer("times tin")
    assert heard("nine times tin", "nine times ten", "nine times tin", believer) == "nine times tin"


def test_fillers_stay_and_are_not_read() -> None:
    believer = Believer("nothing")
    assert heard("so um, this kettle", "so the scuttle", "so it", believer).startswith("so um,")
    assert believer.asked
    assert not any("um" in text.split() for text in believer.asked)
    assert heard("so um this", "so this", "so this") == "so um this"


def test_names_are_not_read() -> None:
    believer = Believer("Marlowe")
    assert heard("for Marlo at", "for Marlow at", "for Marlowe at", believer) == "for Marlow at"
    assert believer.asked == []


def test_a_name_of_the_glossary_is_not_voted_out_again() -> None:
    words = said("for", "marrow", "now")
    named = [
        replace(w, heard_as="marlowe") if w.text == "Marlo" else w
        for w in said("for", "Marlo", "now")
    ]
    places = voted(standing(words), named, said("for", "Marrow", "now"), SECOND, None)
    places = voted(places, said("for", "marrow", "now"), words, THIRD, Believer("marrow"))
    assert [place.word.text for place in places] == ["for", "Marlo", "now"]


def test_a_word_one_engine_alone_heard_is_offered_with_the_one_behind() -> None:
    words = said("strip", "of", "leather.")
    places = voted(standing(words), said("strip", "of", "kid", "leather."), words, THIRD, None)
    assert [place.word for place in places] == words
    assert places[2].offered == ("kid leather.",)
    assert 0 < (places[2].left or 0) < 0.5
    assert [place.left for place in places[:2]] == [None, None]
    places = voted(standing(words), said("strip", "of", "leather.", "now"), words, THIRD, None)
    assert [place.word for place in places] == words
