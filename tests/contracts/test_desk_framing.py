"""Shapes and framings, on every desk: two pieces, two sources, clips out of order."""

import pytest

from mortiser.core.common.errors import BadInput, NotFound
from mortiser.core.edits.base import BaseEdit
from mortiser.core.edits.cutting.pieces import NewPiece
from mortiser.core.edits.cutting.trimming import CutStretches
from mortiser.core.edits.desk import Desk
from mortiser.core.edits.look.framing import (
    AddMove,
    AlternateFramings,
    CopyFraming,
    DropMove,
    FrameBack,
    FrameClips,
    FramingChanges,
    PanClips,
)
from mortiser.core.edits.look.shapes import (
    AddShape,
    DressShape,
    DropShape,
    ResizeShape,
    SetBackdrop,
)
from mortiser.core.framing.clip_framing import framing_of
from mortiser.core.framing.shape import Backdrop, Framing, Shape

LEFT = FramingChanges(x=0.2)


@pytest.fixture
def desk(two_pieces: Desk) -> Desk:
    AddShape(piece_id=2, width=1080, height=1080).apply(two_pieces)
    return two_pieces


def square(desk: Desk) -> Shape:
    return desk.shapes(2)[1]


def framings(desk: Desk) -> list[float]:
    """Where each clip of the second piece lies."""
    return [framing_of(square(desk), clip).x for clip in desk.timeline(2).clips]


def said(desk: Desk, clip: int) -> list[int]:
    """The captions that a clip says."""
    wanted = desk.timeline(2).clips[clip]
    return [
        cue.id
        for cue in desk.cues(2)
        if {desk.timeline(2).place_of(word).clip for word in cue.words} == {wanted}
    ]


def frame(desk: Desk, clip: int, changes: FramingChanges = LEFT) -> None:
    FrameClips(piece_id=2, shape_id=2, cue_ids=said(desk, clip), changes=changes).apply(desk)


def test_a_piece_is_shown_in_several_shapes(desk: Desk) -> None:
    assert [one.size for one in desk.shapes(2)][1] == (1080, 1080)
    assert square(desk).framing == Framing(fit="fill", follow="calm")
    assert len(desk.shapes(1)) == 1, "each piece has its own"
    AddShape(piece_id=1, width=1920, height=1080).apply(desk)
    assert desk.shapes(1)[1].framing.fit == "whole", "a tall picture in a wide frame"
    with pytest.raises(BadInput, match="already"):
        AddShape(piece_id=2, width=1081, height=1080).apply(desk)
    ResizeShape(piece_id=2, shape_id=2, width=721, height=720).apply(desk)
    assert square(desk).size == (720, 720)
    DropShape(piece_id=2, shape_id=1).apply(desk)
    with pytest.raises(BadInput, match="at least"):
        DropShape(piece_id=2, shape_id=2).apply(desk)
    with pytest.raises(NotFound):
        DropShape(piece_id=2, shape_id=7).apply(desk)


def test_there_are_not_too_many_shapes(desk: Desk) -> None:
    for width in range(300, 312, 2):
        AddShape(piece_id=2, width=width, height=400).apply(desk)
    with pytest.raises(BadInput, match="at most"):
        AddShape(piece_id=2, width=500, height=400).apply(desk)


def test_one_clip_is_framed_on_its_own_and_goes_back(desk: Desk) -> None:
    frame(desk, 1)
    # The last clip is the same passage once more.
    assert framings(desk) == [0.5, 0.2, 0.5, 0.2]
    whole = FrameClips(piece_id=2, shape_id=2, changes=FramingChanges(x=0.7))
    whole.apply(desk)
    assert framings(desk)[:2] == [0.7, 0.2], "what is its own stays"
    FrameBack(piece_id=2, shape_id=2, cue_ids=said(desk, 1)).apply(desk)
    assert set(framings(desk)) == {0.7}
    frame(desk, 0)
    FrameBack(piece_id=2, shape_id=2).apply(desk)
    assert set(framings(desk)) == {0.7}


def test_a_clip_that_is_cut_keeps_its_framing_in_both_parts(desk: Desk) -> None:
    frame(desk, 0)
    clip = desk.timeline(2).clips[0]
    middle = (clip.start_us + clip.end_us) // 2
    cut = {"strand_id": clip.strand_id, "from_us": middle, "to_us": middle + 200_000}
    edit = CutStretches.model_validate(
        {"kind": "cut_stretches", "piece_id": 2, "stretches": [cut], "found": "quiet"}
    )
    edit.apply(desk)
    assert framings(desk)[:2] == [0.2, 0.2]
    later = said(desk, 1)
    FrameBack(piece_id=2, shape_id=2, cue_ids=later).apply(desk)
    assert framings(desk)[:2] == [0.2, 0.5], "the other part keeps it"


def test_a_framing_is_copied_to_other_clips(desk: Desk) -> None:
    frame(desk, 0, FramingChanges(x=0.3, zoom=1.5))
    CopyFraming(piece_id=2, shape_id=2, from_cue_id=said(desk, 0)[0], cue_ids=said(desk, 2)).apply(
        desk
    )
    found = [framing_of(square(desk), clip) for clip in desk.timeline(2).clips]
    assert found[2] == found[0]
    assert found[1].zoom == 1


def test_a_picture_is_dragged(desk: Desk) -> None:
    PanClips(piece_id=2, shape_id=2, by_x=0.25, by_y=0.2).apply(desk)
    assert (square(desk).framing.px, square(desk).framing.py) == pytest.approx((0.75, 0.62))
    assert square(desk).framing.x == 0.5, "there is nothing beyond the sides"
    assert square(desk).framing.y < 0.5
    PanClips(piece_id=2, shape_id=2, cue_ids=said(desk, 0), by_x=0, by_y=-0.4).apply(desk)
    first, second = (framing_of(square(desk), clip).y for clip in desk.timeline(2).clips[:2])
    assert first > 0.5 > second


def test_moves_lie_over_words_and_take_the_place_of_others(desk: Desk) -> None:
    ids = said(desk, 0)
    AddMove(piece_id=2, shape_id=2, cue_ids=ids, way="in").apply(desk)
    (move,) = square(desk).moves
    clip = desk.timeline(2).clips[0]
    assert clip.start_us <= move.start_us < move.end_us <= clip.end_us
    word = desk.cue(ids[0]).words[0]
    AddMove(piece_id=2, shape_id=2, cue_ids=ids, word_ids=[word.id], way="quick", zoom=1.4).apply(
        desk
    )
    (quick,) = square(desk).moves
    assert quick.end_us - quick.start_us == word.end_us - word.start_us
    drop = DropMove(piece_id=2, shape_id=2, source_id=quick.source_id, start_us=quick.start_us)
    drop.apply(desk)
    assert square(desk).moves == ()
    with pytest.raises(NotFound):
        drop.apply(desk)


def test_captions_stand_elsewhere_in_one_shape(desk: Desk) -> None:
    def dress(**changes: object) -> None:
        DressShape.model_validate(
            {
                "piece_id": 2,
                "shape_id": 2,
                "changes": {k.replace("__", "."): v for k, v in changes.items()},
            }
        ).apply(desk)

    dress(place__dy=0.1, size=0.05)
    assert square(desk).look == {"place.dy": 0.1, "size": 0.05}
    dress(size=None)
    assert square(desk).look == {"place.dy": 0.1}
    with pytest.raises(BadInput):
        dress(place__dy=40)
    dress()
    assert square(desk).look == {}


@pytest.mark.parametrize(
    "edit",
    [
        SetBackdrop(piece_id=2, shape_id=2, backdrop=Backdrop(kind="colour")),
        AlternateFramings(piece_id=2, shape_id=2, zoom=1.2),
    ],
)
def test_a_new_piece_has_the_shapes_of_the_one_it_is_made_of(desk: Desk, edit: BaseEdit) -> None:
    frame(desk, 0)
    edit.apply(desk)
    NewPiece(piece_id=2).apply(desk)
    assert desk.shapes(3) == desk.shapes(2)
    assert square(desk).alternate == 1.2 or square(desk).backdrop.kind == "colour"
    assert edit.label(desk)
