"""Where things stand at a moment, and the inks and pictures they are painted with."""

import av
import numpy as np
import pytest
import skia
from av.video.reformatter import ColorRange, Colorspace, VideoReformatter
from hypothesis import given
from hypothesis import strategies as st

from mortiser.core.scene.model import PathItem, Scene, SceneCue, StampItem
from mortiser.core.style.motion.layers import MotionLayer
from mortiser.core.style.motion.track import fixed
from mortiser.paint.inks import SEEN, PlaneInks, fill
from mortiser.paint.painter import paint
from mortiser.paint.pictures import surface_on
from mortiser.paint.state import state_at, upright
from mortiser.render.blend import BT601, BT709

BOX = "M0 0L40 0L40 30L0 30Z"
place = st.floats(0, 500)


def scene_of(x: float, y: float, *layers: MotionLayer) -> Scene:
    item = PathItem(BOX, x, y, (-2, -2, 42, 32), fixed(255, 255, 255, 255), layers=layers)
    stamp = StampItem("🧵", x, y, 20, layers)
    return Scene(600, 600, (SceneCue(1, 0, 10**6, 0, 50, (), (), (), (item,), (stamp,)),))


@given(place, place, st.floats(-50, 50), st.floats(-50, 50))
def test_what_only_shifts_stands_on_the_nearest_quarter(
    x: float, y: float, dx: float, dy: float
) -> None:
    (cue,) = state_at(scene_of(x, y, MotionLayer((0, 0), move=fixed(dx, dy))), 500_000)
    for part in (*cue.paths, *cue.stamps):
        assert upright(part.matrix)
        for found, wanted in zip(part.matrix[4:], (x + dx, y + dy), strict=True):
            assert (found * 4).is_integer()
            assert abs(found - wanted) <= 0.125 + 1e-9


@given(place, place, st.floats(0.5, 2).filter(lambda scale: scale != 1))
def test_what_grows_stands_just_where_it_is(x: float, y: float, scale: float) -> None:
    (cue,) = state_at(scene_of(x, y, MotionLayer((0, 0), scale=fixed(scale))), 500_000)
    assert cue.paths[0].matrix[4:] == pytest.approx((scale * x, scale * y))


@given(
    st.tuples(*[st.integers(0, 255)] * 3),
    st.sampled_from([(BT709, Colorspace.ITU709), (BT601, Colorspace.ITU601)]),
    st.booleans(),
)
def test_plane_inks_are_what_a_converter_makes(
    colour: tuple[int, int, int], matrix: tuple[tuple[float, float], Colorspace], full: bool
) -> None:
    picture = av.VideoFrame.from_ndarray(np.full((32, 32, 3), colour, np.uint8), format="rgb24")
    planes = VideoReformatter().reformat(
        picture,
        format="yuv444p",
        dst_colorspace=matrix[1],
        src_color_range=ColorRange.JPEG,
        dst_color_range=ColorRange.JPEG if full else ColorRange.MPEG,
    )
    wanted = planes.to_ndarray()[:, 8, 8].astype(int)
    inks = PlaneInks(*matrix[0], full)
    found = inks.colour((*colour, 255))
    assert found[3] == 255
    assert np.abs(np.array(found[:3]) - wanted).max() <= 1
    red, green, blue = colour
    (pixel,) = inks.picture(np.array([[[blue, green, red, 255]]], np.uint8))[0]
    assert (*pixel[2::-1], pixel[3]) == found


@pytest.mark.parametrize("line", [(0, 0, 0, 30), (0, 0, 40, 0), (40, 30, 0, 0), (5, 25, 30, 4)])
def test_a_gradient_runs_along_its_line(line: tuple[float, float, float, float]) -> None:
    first, last = (250, 10, 90, 255), (20, 200, 120, 128)
    pixels = np.zeros((30, 40, 4), np.uint8)
    surface_on(pixels).getCanvas().drawRect(
        skia.Rect.MakeWH(40, 30), fill(SEEN, line, first + last)
    )
    x0, y0, x1, y1 = line
    y, x = np.mgrid[0.5:30, 0.5:40]
    share = ((x - x0) * (x1 - x0) + (y - y0) * (y1 - y0)) / ((x1 - x0) ** 2 + (y1 - y0) ** 2)
    share = share.clip(0, 1)[..., None]
    wanted = np.array(first) + (np.array(last) - first) * share
    wanted[..., :3] *= wanted[..., 3:] / 255
    assert np.abs(pixels[..., [2, 1, 0, 3]] - wanted).max() <= 2


@pytest.mark.parametrize("dx", [0.0, 0.25, 0.5])
def test_a_word_is_painted_alike_at_rest_and_under_way(dx: float) -> None:
    """Pictures of letters, and the letters drawn anew, which a turn of nothing to see asks for."""
    still = state_at(scene_of(10 + dx, 12, MotionLayer((0, 0))), 0)
    turned = state_at(scene_of(10 + dx, 12, MotionLayer((0, 0), turn=fixed(1e-9))), 0)
    area = (0, 0, 80, 80)
    assert not upright(turned[0].paths[0].matrix)
    difference = paint(still, area).astype(int) - paint(turned, area)
    assert np.abs(difference).max() <= 1
