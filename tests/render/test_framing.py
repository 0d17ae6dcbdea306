"""Pictures put into frames: measured in the frames that come out."""

from fractions import Fraction

import av
import numpy as np
import pytest

from mortiser.core.framing.clip_framing import ClipFraming
from mortiser.core.framing.placing import matrix_of, snapped
from mortiser.core.framing.shape import Backdrop, Framing, Move
from mortiser.render.framing import Framer

SECOND = 1_000_000
PICTURE = (320, 180)
DOT = (200, 60)
GREY = 90


def picture(size: tuple[int, int] = PICTURE) -> av.VideoFrame:
    """Grey, with a soft bright dot, and red at its left half."""
    share = size[0] / PICTURE[0]
    y, x = np.mgrid[: size[1], : size[0]] + 0.5
    near = np.exp(-((x - DOT[0] * share) ** 2 + (y - DOT[1] * share) ** 2) / (2 * (6 * share) ** 2))
    rgb = np.full((*x.shape, 3), GREY, np.float64)
    rgb[..., 0] += np.where(x < size[0] / 2, 60, 0)
    rgb += near[..., None] * (250 - GREY)
    whole = av.VideoFrame.from_ndarray(np.clip(rgb, 0, 255).astype(np.uint8), format="rgb24")
    return whole.reformat(format="yuv420p")


def dot_of(frame: av.VideoFrame) -> tuple[float, float]:
    """The middle of the dot."""
    luma = frame.to_ndarray(format="gray").astype(np.float64)
    bright = np.clip(luma - 170, 0, None)
    y, x = np.mgrid[: luma.shape[0], : luma.shape[1]] + 0.5
    return float((x * bright).sum() / bright.sum()), float((y * bright).sum() / bright.sum())


def wanted(framing: Framing, size: tuple[int, int]) -> tuple[float, float]:
    a, b, c, d, e, f = matrix_of(framing, PICTURE, size)
    return a * DOT[0] + b * DOT[1] + c, d * DOT[0] + e * DOT[1] + f


@pytest.mark.parametrize("size", [(180, 320), (180, 180), (320, 180), (144, 180)])
@pytest.mark.parametrize(
    "framing",
    [
        Framing(fit="fill", x=0.6),
        Framing(fit="fill", x=0.7, y=0.3, zoom=1.4),
        Framing(fit="fill", x=0.6, mirror=True),
        Framing(fit="fill", quarters=1),
        Framing(fit="fill", quarters=3, x=0.4),
        Framing(fit="fill", x=0.6, turn=7),
        Framing(fit="whole"),
        Framing(fit="whole", zoom=1.3, x=0.6),
        Framing(fit="whole", zoom=0.8),
        Framing(fit="whole", turn=-9),
    ],
)
def test_a_point_of_the_picture_lies_where_its_framing_says(
    framing: Framing, size: tuple[int, int]
) -> None:
    # Pictures that rest lie at whole pixels, as clips are framed.
    framing = snapped(framing, PICTURE, size)
    place = wanted(framing, size)
    if not (8 < place[0] < size[0] - 8 and 8 < place[1] < size[1] - 8):
        pytest.skip("the dot lies at the edge of this frame")
    made = Framer().framed(picture(), size, ClipFraming(framing), 0)
    assert (made.width, made.height) == size
    assert dot_of(made) == pytest.approx(place, abs=1.0)


def test_a_smaller_copy_is_framed_like_the_recording() -> None:
    size = (180, 320)
    for framing in (Framing(fit="fill", x=0.62), Framing(fit="fill", x=0.6, y=0.4, zoom=1.5)):
        clip = ClipFraming(snapped(framing, PICTURE, size))
        made = Framer().framed(picture(), size, clip, 0)
        copy = Framer(PICTURE).framed(picture((160, 90)), size, clip, 0)
        assert dot_of(copy) == pytest.approx(dot_of(made), abs=1.0)


def test_a_move_goes_by_parts_of_a_pixel() -> None:
    move = Move(source_id=1, start_us=0, end_us=4 * SECOND, zoom=1.3, way="in")
    clip = ClipFraming(Framing(fit="fill", x=0.62), moves=(move,))
    framer, size = Framer(), (180, 320)
    places = []
    for at in range(0, 4 * SECOND, 40_000):
        place = dot_of(framer.framed(picture(), size, clip, at))
        assert place == pytest.approx(wanted(clip.at(at), size), abs=0.5)
        places.append(place)
    steps = np.hypot(*np.diff(np.array(places), axis=0).T)
    assert np.abs(np.diff(steps)).max() < 0.25, "it goes evenly"


def test_mirrored_colours_go_with_their_light() -> None:
    made = Framer().framed(picture(), PICTURE, ClipFraming(Framing(mirror=True)), 0)
    rgb = made.to_ndarray(format="rgb24").astype(int)
    assert rgb[120, 20, 0] - rgb[120, 20, 2] < 12
    assert rgb[120, 300, 0] - rgb[120, 300, 2] > 40


@pytest.mark.parametrize(
    ("backdrop", "colours"),
    [
        (Backdrop(kind="colour", first=(200, 40, 40, 255)), ((200, 40, 40), (200, 40, 40))),
        (
            Backdrop(kind="gradient", first=(240, 240, 240, 255), last=(10, 10, 10, 255)),
            ((240, 240, 240), (10, 10, 10)),
        ),
    ],
)
def test_a_backdrop_of_colours(
    backdrop: Backdrop, colours: tuple[tuple[int, ...], tuple[int, ...]]
) -> None:
    made = Framer().framed(picture(), (180, 320), ClipFraming(Framing(), backdrop), 0)
    rgb = made.to_ndarray(format="rgb24").astype(int)
    assert rgb[1, 90] == pytest.approx(colours[0], abs=5)
    assert rgb[-2, 90] == pytest.approx(colours[1], abs=5)
    assert rgb[160, 150] == pytest.approx((GREY,) * 3, abs=5), "the picture is untouched"


def test_the_picture_itself_lies_behind_it_soft_and_dark() -> None:
    light = Framer().framed(picture(), (180, 320), ClipFraming(Framing(), Backdrop(dark=0.0)), 0)
    dark = Framer().framed(picture(), (180, 320), ClipFraming(Framing(), Backdrop(dark=0.5)), 0)
    rgb = [frame.to_ndarray(format="rgb24").astype(int) for frame in (light, dark)]
    assert rgb[0][300, 160] == pytest.approx((GREY,) * 3, abs=8)
    assert rgb[1][300, 160] == pytest.approx((GREY / 2,) * 3, abs=8)
    steps = np.abs(np.diff(rgb[0][:80, :, 1], axis=1))
    assert steps.max() <= 8, "nothing of it is sharp"


def test_pixels_that_are_not_square_are_seen_as_they_are_meant() -> None:
    made = Framer().framed(
        picture(), (180, 320), ClipFraming(Framing(fit="fill", x=0.6)), 0, Fraction(2)
    )
    square = picture((640, 360)).reformat(640, 180)
    plain = Framer().framed(square, (180, 320), ClipFraming(Framing(fit="fill", x=0.6)), 0)
    assert dot_of(made) == pytest.approx(dot_of(plain), abs=1.5)
