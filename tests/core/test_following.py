"""Whom a frame follows: the largest, a chosen one, whoever speaks; and what is said by hand."""

import pytest

from mortiser.core.editing.timeline import Clip, Timeline
from mortiser.core.framing.clip_framing import clip_framings
from mortiser.core.framing.following import Turn, followed, nearest
from mortiser.core.framing.shape import Chosen, Framing, Seat, Shape
from mortiser.core.framing.subject import LOOK_US, Face, Track

LOOKS = 50
CLIP = Clip(1, 0, LOOKS * LOOK_US)
WIDE = (1920, 1080)


def sitting(x: float, size: float = 0.2, *, drawn: bool = False) -> Track:
    face = Face(x=x, y=0.4, width=size / 2, height=size, score=0.9)
    return Track(looks=tuple(range(LOOKS + 1)), faces=(face,) * (LOOKS + 1), drawn=drawn)


LEFT, RIGHT, BOX = sitting(0.25, 0.3), sitting(0.75), sitting(0.5, 0.5, drawn=True)
TRACKS = (LEFT, RIGHT, BOX)


def point(x: float, at_us: int = 0) -> Chosen:
    return Chosen(source_id=1, at_us=at_us, x=x, y=0.4)


def test_the_largest_face_is_meant_unless_another_was_chosen() -> None:
    assert followed(Framing(), TRACKS, CLIP) is LEFT
    assert followed(Framing().choosing(point(0.7)), TRACKS, CLIP) is RIGHT
    assert followed(Framing().choosing(point(0.52)), TRACKS, CLIP) is BOX
    again = Framing().choosing(point(0.7)).choosing(point(0.2))
    assert (followed(again, TRACKS, CLIP), len(again.chosen)) == (LEFT, 1)
    other_source = Framing().choosing(Chosen(source_id=2, at_us=0, x=0.75, y=0.4))
    assert followed(other_source, TRACKS, CLIP) is LEFT
    assert followed(Framing(), (BOX,), CLIP) is None, "a box is followed where it was chosen"
    assert nearest((), point(0.5)) is None


def test_who_is_not_in_a_clip_is_not_followed_there() -> None:
    gone = RIGHT.model_copy(update={"looks": (0, 1), "faces": RIGHT.faces[:2]})
    later = Clip(1, 6_000_000, 9_000_000)
    assert followed(Framing().choosing(point(0.75)), (LEFT, gone), later) is LEFT


def test_the_frame_goes_to_whoever_speaks_and_stays_until_another_one_does() -> None:
    framing = Framing(fit="fill", follow="calm")
    for x, speaker in ((0.25, "Ada"), (0.75, "Ben")):
        framing = framing.seating(Seat(source_id=1, at_us=0, x=x, y=0.4, speaker=speaker))
    turns = (
        Turn(1_000_000, 3_000_000, "Ada"),
        Turn(4_000_000, 6_000_000, "Ben"),
        Turn(6_000_000, 6_500_000, "nobody known"),
        Turn(8_000_000, 9_000_000, "Ada"),
    )
    shape = Shape(id=1, width=1080, height=1920, framing=framing)
    (found,) = clip_framings(shape, Timeline([CLIP]), {1: WIDE}, {1: TRACKS}, {1: turns})
    for second, x in ((0.5, 0.25), (2.5, 0.25), (3.5, 0.25), (5, 0.75), (7.5, 0.75), (9, 0.25)):
        assert found.at(int(second * 1e6)).x == pytest.approx(x, abs=0.02), second
    unseated = shape.model_copy(
        update={"framing": Framing(fit="fill", follow="calm", who="speaker")}
    )
    (plain,) = clip_framings(unseated, Timeline([CLIP]), {1: WIDE}, {1: TRACKS}, {1: turns})
    assert plain.at(5_000_000).x == pytest.approx(0.25, abs=0.02)


def test_what_is_said_by_hand_counts_at_its_moment_and_fades() -> None:
    framing = Framing(fit="fill", follow="close")
    shape = Shape(id=1, width=1080, height=1920, framing=framing, holds=(point(0.45, 5_000_000),))
    (found,) = clip_framings(shape, Timeline([CLIP]), {1: WIDE}, {1: (LEFT,)})
    assert found.at(5_000_000).x == pytest.approx(0.45, abs=0.04)
    assert found.at(4_000_000).x == pytest.approx(0.35, abs=0.03)
    assert found.at(1_000_000).x == pytest.approx(0.25, abs=0.01)
    assert found.at(9_000_000).x == pytest.approx(0.25, abs=0.01)


def test_two_things_said_by_hand_go_over_into_each_other() -> None:
    framing = Framing(fit="fill", follow="close")
    holds = point(0.45, 4_000_000), point(0.45, 6_000_000)
    shape = Shape(id=1, width=1080, height=1920, framing=framing, holds=holds)
    (found,) = clip_framings(shape, Timeline([CLIP]), {1: WIDE}, {1: (LEFT,)})
    assert found.at(5_000_000).x == pytest.approx(0.45, abs=0.02)
