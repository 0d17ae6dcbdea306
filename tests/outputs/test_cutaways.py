"""A delivered piece shows what its cutaways show, in the whole and in a stretch, and reads back as ordered."""

from pathlib import Path

import pytest

from mortiser.core.assembly.cutaway import Cutaway, RecordingSeen
from mortiser.core.common.frames import Frames
from mortiser.core.delivery.order import Order, OrderedSource, PieceStretch
from mortiser.core.editing.timeline import Clip, Timeline
from mortiser.core.framing.shape import FramedStretch, Shape
from mortiser.core.project.output import VideoFile
from mortiser.outputs import OUTPUTS
from tests.pieces import piece_of
from tests.recordings import make_video
from tests.render.test_plan import SECOND, brightness

SIZE = (320, 180)
LINE = Timeline([Clip(1, 0, 2 * SECOND)])


@pytest.fixture(scope="module")
def files(tmp_path_factory: pytest.TempPathFactory) -> tuple[Path, Path]:
    folder = tmp_path_factory.mktemp("r")
    return (
        make_video(folder / "talk.mp4", seconds=2.0, size=SIZE),
        make_video(folder / "other.mp4", seconds=4.0, size=SIZE),
    )


def order(files: tuple[Path, Path], *stretches: PieceStretch) -> Order:
    during = FramedStretch(source_id=1, start_us=4 * SECOND // 5, end_us=8 * SECOND // 5)
    seen = RecordingSeen(source_id=2, from_us=3 * SECOND)
    piece = piece_of(
        LINE, Shape(id=1, width=SIZE[0], height=SIZE[1]), frames=Frames(25.0),
        pictures={1: SIZE, 2: SIZE}, outputs=(VideoFile(),),
        cutaways=(Cutaway(id=1, during=during, seen=seen),),
    )  # fmt: skip
    sources = [
        OrderedSource(id=number, path=str(file), duration_us=length * SECOND)
        for number, file, length in ((1, files[0], 2), (2, files[1], 4), (3, files[1], 4))
    ]
    return Order.of(piece, (), sources, "{project}", (), stretches, {"project": "Kettle"})


def blues(order: Order, folder: Path) -> list[float]:
    (part,) = order.parts()
    out = folder / part.name
    OUTPUTS["video"].make(order, part, out, Path, lambda _: None)
    OUTPUTS["video"].verify(order, part, out, Path)
    return [blue for _, blue in brightness(out)]


OWN = [255 * n / 50 for n in range(50)]
SEEN = [255 * (75 + n) / 100 for n in range(20)]


def test_a_video_shows_it_while_its_words_are_said(
    files: tuple[Path, Path], tmp_path: Path
) -> None:
    made = order(files)
    assert [one.id for one in made.sources] == [1, 2], "what is neither heard nor seen stays out"
    assert blues(made, tmp_path) == pytest.approx([*OWN[:20], *SEEN, *OWN[40:]], abs=5)


def test_a_stretch_shows_what_the_whole_shows_there(
    files: tuple[Path, Path], tmp_path: Path
) -> None:
    stretch = PieceStretch(start_us=6 * SECOND // 5, end_us=2 * SECOND)
    assert blues(order(files, stretch), tmp_path) == pytest.approx([*SEEN[10:], *OWN[40:]], abs=5)


def test_an_order_is_kept_as_text_with_them(files: tuple[Path, Path]) -> None:
    made = order(files)
    assert Order.model_validate_json(made.model_dump_json()).piece.covers == made.piece.covers
