"""Points of the frame and of the picture under it, and what can be chosen there, without a server."""

import pytest
from hypothesis import given
from hypothesis import strategies as st

from mortiser.core.common.errors import BadInput
from mortiser.core.common.time import SECOND
from mortiser.core.editing.timeline import Clip, Timeline
from mortiser.core.framing.shape import Framing, Shape
from mortiser.core.framing.subject import LOOK_US, Face, Track
from mortiser.core.project.picture_moment import (
    faces_at,
    followed_path,
    need_picture_at,
    picture_at,
)
from mortiser.core.project.piece import ShapedPiece
from tests.pieces import piece_of

LINE = Timeline([Clip(1, 5 * SECOND, 10 * SECOND), Clip(2, 0, 2 * SECOND)])


def piece(**framing) -> ShapedPiece:
    shape = Shape(id=1, width=1080, height=1920, framing=Framing(**framing))
    return piece_of(LINE, shape, pictures={1: (1920.0, 1080.0)}).in_shape()


def test_a_moment_is_of_the_source_that_shows_then() -> None:
    moment = need_picture_at(piece(fit="fill"), SECOND)
    assert (moment.source_id, moment.source_us) == (1, 6 * SECOND)
    assert picture_at(piece(), 6 * SECOND) is None, "a sound has no picture"
    with pytest.raises(BadInput, match="no picture at that moment"):
        need_picture_at(piece(), 6 * SECOND)


def test_a_wide_picture_fills_a_tall_frame_with_its_middle() -> None:
    moment = need_picture_at(piece(fit="fill"), 0)
    middle, corner = moment.at(0.5, 0.5), moment.at(0, 0)
    assert (middle.x, middle.y) == pytest.approx((0.5, 0.5), abs=0.001)
    assert (corner.x, corner.y) == pytest.approx((0.5 - 0.158, 0), abs=0.001)
    assert moment.at(0.5, 3).y == 1.0, "no farther than the picture reaches"


SHARE = st.floats(0.2, 0.8)


@given(SHARE, SHARE, st.floats(0.5, 3), st.booleans())
def test_a_box_drawn_over_a_part_of_the_picture_holds_that_part(
    x: float, y: float, zoom: float, mirror: bool
) -> None:
    moment = need_picture_at(piece(fit="whole", zoom=zoom, mirror=mirror), 0)
    box = moment.lies(x, y, 0.1, 0.1)
    drawn = moment.drawn(box.left, box.top, box.width, box.height)
    assert drawn == pytest.approx((x, y, 0.1, 0.1), abs=1e-6)


def track(x: float, first: int, last: int) -> Track:
    looks = tuple(range(first, last + 1))
    return Track(
        looks=looks, faces=tuple(Face(x=x, y=0.4, width=0.1, height=0.2, score=0.9) for _ in looks)
    )


def test_faces_that_are_seen_then_can_be_chosen_and_the_followed_one_is_known() -> None:
    looks = 5 * SECOND // LOOK_US, 10 * SECOND // LOOK_US
    left, right, later = track(0.3, *looks), track(0.7, *looks), track(0.5, looks[1], looks[1] + 9)
    plain = piece(fit="fill", follow="calm")
    chosen = need_picture_at(plain, SECOND).chosen(0.7, 0.4)
    following = piece(fit="fill", follow="calm", chosen=(chosen,))
    found = list(faces_at(following, {1: (left, right, later)}, SECOND))
    assert [(round(one.point.x, 2), one.followed) for one in found] == [(0.3, False), (0.7, True)]
    assert list(faces_at(following, {}, 6 * SECOND)) == []
    assert list(followed_path(plain)) == [], "nobody is known"
