"""What is behind captions is what the delivery shows there."""

from pathlib import Path

import cv2
import numpy as np
import pytest

from mortiser.core.finish.builtin import FINISHES
from mortiser.core.pace import PACES
from mortiser.core.piece import Piece
from mortiser.core.shape import Backdrop, Framing, Shape
from mortiser.core.timeline import Clip, Timeline
from mortiser.media.thumbnails import PieceThumbnails, Thumbnails, make_thumbnails
from mortiser.render import picture
from mortiser.render.glances import glances
from mortiser.render.programme import Programme, Recording
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
    piece = Piece(1, 1, "", (shape,), FINISHES["Pine"], PACES["quick"], line, pictures={1: PICTURE})
    seen = glances(piece, PieceThumbnails(line, ((1, Thumbnails(small)),))).at(SECOND)
    programme = Programme(
        line, {1: Recording(file, 2 * SECOND)}, size, own_times=False, framings=piece.framings
    )
    frame = picture.at(programme, SECOND)
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
        piece = Piece(
            1, 1, "", (shape,), FINISHES["Pine"], PACES["quick"], line, pictures={1: PICTURE}
        )
        return glances(piece, thumbnails)

    assert of(0.3) == of(0.3)
    assert hash(of(0.3)) == hash(of(0.3))
    assert of(0.3) != of(0.6)
