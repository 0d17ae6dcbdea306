"""Where pictures lie in frames, for any framing."""

import math

import pytest
from hypothesis import given
from hypothesis import strategies as st

from mortiser.core.framing.placing import (
    Affine,
    Size,
    centre_of,
    covers,
    cut_of,
    is_plain,
    matrix_of,
    panned,
    seen_box,
    snapped,
)
from mortiser.core.framing.shape import Framing

PICTURES = st.sampled_from([(1920, 1080), (1080, 1920), (720, 576), (640, 640), (1280, 534)])
FRAMES = st.sampled_from([(1080, 1920), (1080, 1080), (1920, 1080), (1080, 1350)])
SHARES = st.floats(0, 1)
FRAMINGS = st.builds(
    Framing,
    fit=st.just("fill"),
    zoom=st.floats(1, 4),
    x=SHARES,
    y=SHARES,
    quarters=st.integers(0, 3),
    turn=st.floats(-30, 30),
    mirror=st.booleans(),
)


def mapped(matrix: Affine, x: float, y: float) -> tuple[float, float]:
    a, b, c, d, e, f = matrix
    return a * x + b * y + c, d * x + e * y + f


def back(matrix: Affine, x: float, y: float) -> tuple[float, float]:
    a, b, c, d, e, f = matrix
    whole = a * e - b * d
    x, y = x - c, y - f
    return (e * x - b * y) / whole, (a * y - d * x) / whole


def corners(size: Size) -> list[tuple[float, float]]:
    return [(x, y) for x in (0, size[0]) for y in (0, size[1])]


@given(FRAMINGS, PICTURES, FRAMES)
def test_what_fills_leaves_nothing_uncovered(framing: Framing, picture: Size, frame: Size) -> None:
    assert covers(framing, picture, frame)
    matrix = matrix_of(framing, picture, frame)
    for corner in corners(frame):
        x, y = back(matrix, *corner)
        assert -0.01 <= x <= picture[0] + 0.01
        assert -0.01 <= y <= picture[1] + 0.01


@given(FRAMINGS, PICTURES, FRAMES)
def test_a_whole_picture_is_all_in_the_frame(framing: Framing, picture: Size, frame: Size) -> None:
    whole = framing.model_copy(update={"fit": "whole", "zoom": 1.0})
    matrix = matrix_of(whole, picture, frame)
    for corner in corners(picture):
        x, y = mapped(matrix, *corner)
        assert -0.01 <= x <= frame[0] + 0.01
        assert -0.01 <= y <= frame[1] + 0.01


@given(FRAMINGS, PICTURES, FRAMES)
def test_shapes_are_kept(framing: Framing, picture: Size, frame: Size) -> None:
    a, b, _, d, e, _ = matrix_of(framing, picture, frame)
    assert math.hypot(a, d) == pytest.approx(math.hypot(b, e))
    assert a * b + d * e == pytest.approx(0, abs=1e-9)
    assert (a * e - b * d < 0) == framing.mirror


@given(SHARES, SHARES, st.floats(1, 4), PICTURES, FRAMES)
def test_what_is_cut_out_lies_on_even_pixels_of_the_picture(
    x: float, y: float, zoom: float, picture: Size, frame: Size
) -> None:
    framing = Framing(fit="fill", x=x, y=y, zoom=zoom)
    left, top, width, height = cut = cut_of(framing, picture, frame)
    assert not any(edge % 2 for edge in cut)
    assert left >= 0
    assert top >= 0
    assert left + width <= picture[0]
    assert top + height <= picture[1]
    box = seen_box(framing, picture, frame)
    assert abs(left + width / 2 - (box.left + box.right) / 2) <= 2
    assert abs(width - box.width) <= 1
    once = snapped(framing, picture, frame)
    assert cut_of(once, picture, frame) == cut


@given(FRAMINGS, PICTURES, FRAMES, st.floats(-0.2, 0.2), st.floats(-0.2, 0.2))
def test_a_picture_goes_where_it_is_dragged_as_far_as_it_reaches(
    framing: Framing, picture: Size, frame: Size, by_x: float, by_y: float
) -> None:
    centre = framing.model_copy(update={"x": 0.5, "y": 0.5, "zoom": 4.0})
    before = matrix_of(centre, picture, frame)
    moved = panned(centre, picture, frame, by_x, by_y)
    after = matrix_of(moved, picture, frame)
    assert after[2] - before[2] == pytest.approx(by_x * frame[0], abs=0.01)
    assert after[5] - before[5] == pytest.approx(by_y * frame[1], abs=0.01)
    far = panned(framing, picture, frame, by_x * 20, by_y * 20)
    assert covers(far, picture, frame)
    assert (far.x, far.y) == pytest.approx(centre_of(far, picture, frame))


def test_a_quarter_turn_is_clockwise() -> None:
    matrix = matrix_of(Framing(quarters=1), (1920, 1080), (1080, 1920))
    assert mapped(matrix, 0, 0) == pytest.approx((1080, 0))
    assert mapped(matrix, 1920, 0) == pytest.approx((1080, 1920))
    matrix = matrix_of(Framing(fit="fill", zoom=2, turn=10), (1000, 1000), (1000, 1000))
    x, y = mapped(matrix, 600, 500)
    assert y > 500, "what is right of the middle goes down"
    assert x > 500


def test_the_same_shape_is_shown_as_it_is() -> None:
    assert is_plain(Framing(), (1920, 1080), (1280, 720))
    assert is_plain(Framing(), (1920, 1088), (1920, 1080))
    assert not is_plain(Framing(mirror=True), (1920, 1080), (1280, 720))
    assert not is_plain(Framing(zoom=1.1), (1920, 1080), (1280, 720))
    assert not is_plain(Framing(), (1920, 1080), (1080, 1080))


@given(
    FRAMINGS,
    st.sampled_from(["fill", "whole"]),
    st.floats(0.2, 1),
    PICTURES,
    FRAMES,
    st.floats(-4, 4),
    st.floats(-4, 4),
)
def test_wherever_a_picture_is_dragged_it_can_be_kept(
    framing: Framing, fit: str, zoom: float, picture: Size, frame: Size, by_x: float, by_y: float
) -> None:
    lies = framing.model_copy(update={"fit": fit, "zoom": zoom})
    moved = panned(lies, picture, frame, by_x, by_y)
    assert Framing.model_validate(moved.model_dump()) == moved
    again = panned(moved, picture, frame, by_x, by_y)
    assert Framing.model_validate(again.model_dump()) == again
