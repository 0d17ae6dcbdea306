"""Captions painted over made-up pictures, and looked at."""

from dataclasses import dataclass

import numpy as np
import pytest

from mortiser.core.captions.cue_timing import retime
from mortiser.core.captions.pace import PACES
from mortiser.core.editing.timeline import Clip, Timeline
from mortiser.core.style.finish.builtin import FINISHES
from mortiser.core.style.finish.changes import changed, look_text
from mortiser.core.style.finish.model import Finish
from mortiser.core.style.legibility import READABLE, Faint
from mortiser.core.transcript.words import Cue, Shown
from mortiser.fonts import font_book
from mortiser.media.thumbnails import PieceThumbnails
from mortiser.paint.legibility import Pictures, faint_captions

WHOLE = Timeline([Clip(1, 0, 10**8)])
PLAIN_WHITE = changed(
    FINISHES["Pine"],
    {
        "outlines": [],
        "shadow": None,
        "plate": None,
        "plank": None,
        "ahead": [255, 255, 255, 255],
        "live": [255, 255, 255, 255],
        "past": [255, 255, 255, 255],
    },
)
UNSEEN = PieceThumbnails(WHOLE, ())
"""A piece without a picture."""
WHITE, BLACK = (255, 255, 255), (0, 0, 0)


@dataclass(frozen=True)
class Film:
    """A picture of two halves, from a moment of the source on another one."""

    upper: tuple[int, int, int]
    lower: tuple[int, int, int]
    change_us: int = 10**9
    then: tuple[int, int, int] = BLACK

    def at(self, source_us: int) -> np.ndarray:
        if source_us >= self.change_us:
            return np.full((8, 4, 3), self.then, np.uint8)
        halves = [np.full((4, 4, 3), colour, np.uint8) for colour in (self.upper, self.lower)]
        return np.concatenate(halves)


def faint_on(film: Pictures, finish: Finish = PLAIN_WHITE, look: str = "") -> list[Faint]:
    words = tuple(
        Shown(text, 400_000 + n * 400_000, 750_000 + n * 400_000, id=n + 1, look=look)
        for n, text in enumerate(("mend", "the", "kettle"))
    )
    cues = retime([Cue(1, words, 0, 1, id=7)], WHOLE, PACES["quick"])
    return faint_captions(cues, finish, (1080, 1920), film, font_book())


def test_white_on_white_is_faint_and_outline_and_plate_help() -> None:
    (found,) = faint_on(Film(WHITE, WHITE))
    assert found.cue_id == 7
    assert found.contrast == pytest.approx(1, abs=0.02)
    assert [one.way for one in found.remedies] == ["outline", "plate"]
    for one in found.remedies:
        assert one.contrast >= READABLE
        assert faint_on(Film(WHITE, WHITE), look=look_text(one.changes)) == []


def test_a_calmer_place_is_found_where_there_is_one() -> None:
    (found,) = faint_on(Film(BLACK, WHITE))
    place = next(one for one in found.remedies if one.way == "place")
    assert place.changes["place.dy"] < 0
    assert faint_on(Film(BLACK, WHITE), look=look_text(place.changes)) == []


def test_the_picture_at_each_word_counts() -> None:
    # Piece time 1.2 s is source time 3.2 s: the last word alone is said over white.
    (found,) = faint_on(Film(BLACK, BLACK, 1_200_000, WHITE))
    assert (found.word, found.at_us) == ("kettle", 1_200_000)
    assert faint_on(Film(BLACK, BLACK, 1_900_000, WHITE)) == []


@pytest.mark.parametrize("name", FINISHES)
@pytest.mark.parametrize("ground", [(246, 243, 236), (24, 28, 34), (190, 150, 105)])
def test_the_built_in_finishes_can_be_read_on_bright_dark_and_between(
    name: str, ground: tuple[int, int, int]
) -> None:
    assert faint_on(Film(ground, ground), FINISHES[name]) == []


def test_the_backdrop_stands_in_for_a_missing_picture() -> None:
    grey = changed(PLAIN_WHITE, {"live": [60, 70, 72, 255], "past": [60, 70, 72, 255]})
    assert len(faint_on(UNSEEN, grey)) == 1
    assert faint_on(UNSEEN) == []


def test_emoji_alone_are_not_judged() -> None:
    cue = Cue(1, (Shown("🪡", 400_000, 900_000),), 400_000, 1_000_000, id=1)
    film = Film(WHITE, WHITE)
    assert faint_captions([cue], PLAIN_WHITE, (1080, 1920), film, font_book()) == []
