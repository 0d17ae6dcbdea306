import numpy as np
import pytest
from hypothesis import given
from hypothesis import strategies as st

from mortiser.core.style.finish.builtin import FINISHES
from mortiser.core.style.finish.changes import changed
from mortiser.core.style.legibility import (
    DARK,
    LIGHT,
    READABLE,
    contrast,
    luminance,
    moments,
    remedies,
)
from mortiser.core.transcript.words import Cue, Shown
from tests.strategies import cues_of, spoken_words

channels = st.integers(0, 255)
colours = st.tuples(channels, channels, channels)


def flat(*wanted: tuple[int, int, int]) -> np.ndarray:
    return np.array(wanted, np.uint8)


@pytest.mark.parametrize(
    ("letters", "around", "ratio"),
    [
        ((255, 255, 255), (0, 0, 0), 21.0),
        ((119, 119, 119), (255, 255, 255), 4.48),
        ((255, 0, 0), (255, 255, 255), 4.0),
        ((0, 0, 255), (0, 0, 0), 2.44),
    ],
)
def test_contrast_is_that_of_the_guidelines(
    letters: tuple[int, int, int], around: tuple[int, int, int], ratio: float
) -> None:
    assert contrast(flat(letters), flat(around)) == pytest.approx(ratio, abs=0.01)
    assert contrast(flat(around), flat(letters)) == pytest.approx(ratio, abs=0.01)


@given(colours, st.lists(colours, min_size=1, max_size=12))
def test_contrast_lies_between_that_with_the_nearest_and_with_the_farthest(
    letters: tuple[int, int, int], around: list[tuple[int, int, int]]
) -> None:
    each = [contrast(flat(letters), flat(one)) for one in around]
    found = contrast(flat(letters), flat(*around))
    assert 1 <= min(each) <= found + 1e-4
    assert found <= max(each) + 1e-4 <= 21.001


def test_less_than_a_quarter_of_the_edge_may_be_worse() -> None:
    white, black = (255, 255, 255), (0, 0, 0)
    assert contrast(flat(white), flat(*[white] * 20, *[black] * 80)) == pytest.approx(21)
    assert contrast(flat(white), flat(*[white] * 30, *[black] * 70)) == pytest.approx(1)


@given(colours)
def test_what_is_put_behind_letters_is_what_they_stand_out_from(
    letters: tuple[int, int, int],
) -> None:
    tried = list(remedies(FINISHES["Pine"], float(luminance(flat(letters))[0])))
    (outline,) = [changes["outlines"] for way, changes in tried if way == "outline"]
    colour = tuple(outline[0]["colour"][:3])
    found = contrast(flat(letters), flat(colour))
    assert found >= contrast(flat(letters), flat(LIGHT if colour == DARK else DARK)) - 1e-4
    assert found >= READABLE


@pytest.mark.parametrize("name", FINISHES)
def test_remedies_can_be_worn_by_every_finish_and_keep_its_name_and_accents(name: str) -> None:
    finish = FINISHES[name]
    ways = []
    for way, changes in remedies(finish, 0.8):
        after = changed(finish, changes)
        assert (after.name, after.accents, after.motion) == (
            finish.name,
            finish.accents,
            finish.motion,
        )
        ways.append(way)
    assert {"outline", "plate", "place"} == set(ways)


def test_other_places_come_nearest_first() -> None:
    finish = changed(FINISHES["Pine"], {"place.down": "bottom", "place.dy": -0.2})
    heights = [c["place.dy"] for way, c in remedies(finish, 0.8) if way == "place"]
    away = [abs(height - 0.3) for height in heights]
    assert away == sorted(away)
    assert min(away) > 0.04


@given(spoken_words(most=20), st.data())
def test_words_are_looked_at_while_they_are_live(words: list[Shown], data: st.DataObject) -> None:
    for cue in data.draw(cues_of(words)):
        shown = Cue(1, cue.words, cue.words[0].start_us, cue.words[-1].end_us + 1)
        looked = moments(shown)
        assert len(looked) == len(cue.words)
        for live, times in looked:
            assert shown.start_us <= live
            assert all(live <= at < shown.end_us for at in times)
