"""What is behind captions is what the delivery shows there."""

import io
from pathlib import Path

import av
import cv2
import numpy as np
import pytest

from mortiser.core.editing.timeline import Clip, Timeline
from mortiser.core.framing.layer import Bubble, PlateLayer
from mortiser.core.framing.shape import Backdrop, Framing, LayerPlace, Shape
from mortiser.core.scene.layered import layer_readers
from mortiser.fonts import font_book
from mortiser.media.thumbnails import PieceThumbnails, Thumbnails, make_thumbnails
from mortiser.render import picture
from mortiser.render.glances import glances
from mortiser.render.plan import Recording, RenderPlan
from mortiser.render.still import still
from tests.pieces import piece_of
from tests.recordings import make_video

SECOND = 1_000_000
PICTURE = (320, 180)


@pytest.fixture(scope="module")
def seen_small(tmp_path_factory: pytest.TempPathFactory) -> tuple[Path, Path]:
    """A recording and its thumbnails."""
    folder = tmp_path_factory.mktemp("glances")
    file = make_video(folder / "a.mp4", seconds=2.0, size=PICTURE)
    make_thumbnails(file, folder / "small.mkv", 2 * SECOND, lambda _: None)
    return file, folder / "small.mkv"


@pytest.mark.parametrize(
    ("framing", "backdrop"),
    [
        (Framing(fit="fill", x=0.2), Backdrop()),
        (Framing(fit="fill", x=0.7, zoom=1.5, mirror=True), Backdrop()),
        (Framing(fit="fill", turn=8), Backdrop()),
        (Framing(fit="whole"), Backdrop(dark=0.6)),
        (Framing(fit="whole"), Backdrop(kind="gradient", first=(250, 250, 250, 255))),
        (Framing(), Backdrop(kind="colour", first=(10, 20, 30, 255))),
    ],
)
@pytest.mark.parametrize("size", [(240, 240), (240, 426), PICTURE])
def test_a_glance_is_what_the_frame_shows(
    seen_small: tuple[Path, Path], framing: Framing, backdrop: Backdrop, size: tuple[int, int]
) -> None:
    file, small = seen_small
    line = Timeline([Clip(1, 0, 2 * SECOND)])
    shape = Shape(id=1, width=size[0], height=size[1], framing=framing, backdrop=backdrop)
    piece = piece_of(line, shape, pictures={1: PICTURE}).in_shape()
    seen = glances(piece, PieceThumbnails(line, ((1, Thumbnails(small)),)), (), font_book()).at(
        SECOND
    )
    plan = RenderPlan(
        line, {1: Recording(file, 2 * SECOND)}, size, own_times=False, framings=piece.framings
    )
    frame = picture.at(plan, SECOND)
    wanted = frame.reformat(format="rgb24", src_colorspace=frame.colorspace, threads=1).to_ndarray()
    there = cv2.resize(np.ascontiguousarray(wanted), (48, 48), interpolation=cv2.INTER_AREA)
    here = cv2.resize(seen, (48, 48), interpolation=cv2.INTER_AREA)
    apart = np.abs(here.astype(int) - there.astype(int)).mean()
    assert apart < 9


def test_glances_are_equal_by_what_is_seen(tmp_path: Path) -> None:
    line = Timeline([Clip(1, 0, SECOND)])
    thumbnails = PieceThumbnails(line, ((1, Thumbnails(tmp_path / "a.mkv")),))

    def of(x: float) -> object:
        shape = Shape(id=1, width=240, height=240, framing=Framing(fit="fill", x=x))
        piece = piece_of(line, shape, pictures={1: PICTURE}).in_shape()
        return glances(piece, thumbnails, (), font_book())

    assert of(0.3) == of(0.3)
    assert hash(of(0.3)) == hash(of(0.3))
    assert of(0.3) != of(0.6)


def test_layers_are_seen_in_glances_as_they_are_delivered(seen_small: tuple[Path, Path]) -> None:
    file, small = seen_small
    line = Timeline([Clip(1, 0, 2 * SECOND)])
    size = (320, 180)
    plate = PlateLayer(id=1, colour=(240, 30, 30, 255), radius=0.2)
    half = Bubble(id=2, colour=(20, 60, 240, 128))
    places = {1: LayerPlace(x=0.3, y=0.3, width=0.4, height=0.3), 2: LayerPlace(x=0.7, y=0.7)}
    shape = Shape(id=1, width=size[0], height=size[1], places=places)
    piece = piece_of(line, shape, pictures={1: PICTURE}, layers=(plate, half)).in_shape()
    thumbnails = PieceThumbnails(line, ((1, Thumbnails(small)),))
    seen = glances(piece, thumbnails, (), font_book())
    readers = layer_readers(piece, (), size, font_book())
    plan = RenderPlan(
        line, {1: Recording(file, 2 * SECOND)}, size, layers=readers, own_times=False,
        framings=piece.framings,
    )  # fmt: skip
    wanted = next(iter(still_pixels(plan, SECOND)))
    here = cv2.resize(seen.at(SECOND), size, interpolation=cv2.INTER_AREA)
    assert np.abs(here[54, 96].astype(int) - wanted[54, 96]).max() < 25, "the plate"
    assert np.abs(here[126, 224].astype(int) - wanted[126, 224]).max() < 30, "the bubble"
    bare = glances(
        piece_of(line, shape, pictures={1: PICTURE}).in_shape(), thumbnails, (), font_book()
    )
    moved = shape.model_copy(update={"places": {**places, 1: LayerPlace()}})
    there_too = piece_of(line, moved, pictures={1: PICTURE}, layers=(plate, half)).in_shape()
    elsewhere = glances(there_too, thumbnails, (), font_book())
    assert seen == glances(piece, thumbnails, (), font_book())
    assert hash(seen) == hash(glances(piece, thumbnails, (), font_book()))
    assert seen not in (bare, elsewhere)


def still_pixels(plan: RenderPlan, at_us: int) -> list[np.ndarray]:
    with av.open(io.BytesIO(still(plan, at_us))) as reading:
        return [frame.to_ndarray(format="rgb24").astype(int) for frame in reading.decode(video=0)]
