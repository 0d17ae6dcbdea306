from dataclasses import replace

from hypothesis import given
from hypothesis import strategies as st

from mortiser.core.style.suggesting import suggest
from mortiser.core.transcript.words import Cue, Shown
from tests.strategies import cues_of, spoken_words


def cues(*texts: str) -> list[Cue]:
    made, number = [], 0
    for at, text in enumerate(texts):
        words = []
        for token in text.split():
            number += 1
            words.append(Shown(token, number * 1000, number * 1000 + 900, id=number))
        made.append(Cue(1, tuple(words), at * 1000, at * 1000 + 999, id=at + 1))
    return made


def test_figures_names_strong_words_and_turns_are_found_with_their_reasons() -> None:
    found = suggest(
        cues(
            "It costs 5 pounds.",
            "This is Lantern Lane.",
            "You must never do it.",
            "It is not the fuse, but element.",
            "We have a thermostat in there.",
        ),
        1.0,
    )
    reasons = {one.text: one.reason for one in found}
    assert reasons["5"] == "a figure"
    assert reasons["Lantern"] == "a name"
    assert reasons["never"] == "a strong word" or reasons["must"] == "a strong word"
    assert reasons["element."] == "after “but”"
    assert reasons["thermostat"] == "a rare word"


def test_plain_words_are_never_suggested() -> None:
    assert suggest(cues("and then you do it with them", "So that is what it was"), 1.0) == []


@given(spoken_words(most=30), st.data(), st.floats(0, 0.5))
def test_no_more_than_asked_and_no_marked_ones(
    words: list[Shown], data: st.DataObject, density: float
) -> None:
    words = [replace(word, id=n + 1, accent=n % 3 == 0) for n, word in enumerate(words)]
    made = [replace(cue, id=n + 1) for n, cue in enumerate(data.draw(cues_of(words)))]
    found = suggest(made, density)
    assert len(found) <= round(density * len(words))
    marked = {word.id for word in words if word.accent}
    assert len(found) + len(marked) <= max(len(marked), round(density * len(words)))
    assert not marked & {one.word_id for one in found}
    assert [one.word_id for one in found] == sorted(one.word_id for one in found)
    for cue in made:
        mine = sum(one.cue_id == cue.id for one in found)
        assert mine <= (1 if len(cue.words) <= 4 else 2)


def test_a_lower_density_keeps_the_strongest() -> None:
    made = cues("It costs 5 pounds.", "We have a thermostat.", "He fixed the radio.")
    assert [one.text for one in suggest(made, 0.08)] == ["5"]
