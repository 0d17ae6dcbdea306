"""Shapes and framings, on every session: two pieces, two sources, clips out of order."""

import pytest

from mortiser.core.common.errors import BadInput, NotFound
from mortiser.core.edits.base import BaseEdit
from mortiser.core.edits.cutting.pieces import NewPiece
from mortiser.core.edits.cutting.trimming import CutStretches
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
from mortiser.core.edits.session import EditSession
from mortiser.core.framing.clip_framing import framing_of
from mortiser.core.framing.shape import Backdrop, Framing, Shape

LEFT = FramingChanges(x=0.2)


@pytest.fixture
def session(two_pieces: EditSession) -> EditSession:
    AddShape(piece_id=2, width=1080, height=1080).apply(two_pieces)
    return two_pieces


def square(session: EditSession) -> Shape:
    return session.settings(2).shapes[1]


def framings(session: EditSession) -> list[float]:
    """Where each clip of the second piece lies."""
    return [framing_of(square(session), clip).x for clip in session.timeline(2).clips]


def said(session: EditSession, clip: int) -> list[int]:
    """The captions that a clip says."""
    wanted = session.timeline(2).clips[clip]
    return [
        cue.id
        for cue in session.cues(2)
        if {session.timeline(2).place_of(word).clip for word in cue.words} == {wanted}
    ]


def frame(session: EditSession, clip: int, changes: FramingChanges = LEFT) -> None:
    FrameClips(piece_id=2, shape_id=2, cue_ids=said(session, clip), changes=changes).apply(session)


def test_a_piece_is_shown_in_several_shapes(session: EditSession) -> None:
    assert [one.size for one in session.settings(2).shapes][1] == (1080, 1080)
    assert square(session).framing == Framing(fit="fill", follow="calm")
    assert len(session.settings(1).shapes) == 1, "each piece has its own"
    AddShape(piece_id=1, width=1920, height=1080).apply(session)
    assert session.settings(1).shapes[1].framing.fit == "whole", "a tall picture in a wide frame"
    with pytest.raises(BadInput, match="already"):
        AddShape(piece_id=2, width=1081, height=1080).apply(session)
    ResizeShape(piece_id=2, shape_id=2, width=721, height=720).apply(session)
    assert square(session).size == (720, 720)
    DropShape(piece_id=2, shape_id=1).apply(session)
    with pytest.raises(BadInput, match="at least"):
        DropShape(piece_id=2, shape_id=2).apply(session)
    with pytest.raises(NotFound):
        DropShape(piece_id=2, shape_id=7).apply(session)


def test_there_are_not_too_many_shapes(session: EditSession) -> None:
    for width in range(300, 312, 2):
        AddShape(piece_id=2, width=width, height=400).apply(session)
    with pytest.raises(BadInput, match="at most"):
        AddShape(piece_id=2, width=500, height=400).apply(session)


def test_one_clip_is_framed_on_its_own_and_goes_back(session: EditSession) -> None:
    frame(session, 1)
    # The last clip is the same passage once more.
    assert framings(session) == [0.5, 0.2, 0.5, 0.2]
    whole = FrameClips(piece_id=2, shape_id=2, changes=FramingChanges(x=0.7))
    whole.apply(session)
    assert framings(session)[:2] == [0.7, 0.2], "what is its own stays"
    FrameBack(piece_id=2, shape_id=2, cue_ids=said(session, 1)).apply(session)
    assert set(framings(session)) == {0.7}
    frame(session, 0)
    FrameBack(piece_id=2, shape_id=2).apply(session)
    assert set(framings(session)) == {0.7}


def test_a_clip_that_is_cut_keeps_its_framing_in_both_parts(session: EditSession) -> None:
    frame(session, 0)
    clip = session.timeline(2).clips[0]
    middle = (clip.start_us + clip.end_us) // 2
    cut = {"strand_id": clip.strand_id, "from_us": middle, "to_us": middle + 200_000}
    edit = CutStretches.model_validate(
        {"kind": "cut_stretches", "piece_id": 2, "stretches": [cut], "found": "quiet"}
    )
    edit.apply(session)
    assert framings(session)[:2] == [0.2, 0.2]
    later = said(session, 1)
    FrameBack(piece_id=2, shape_id=2, cue_ids=later).apply(session)
    assert framings(session)[:2] == [0.2, 0.5], "the other part keeps it"


def test_a_framing_is_copied_to_other_clips(session: EditSession) -> None:
    frame(session, 0, FramingChanges(x=0.3, zoom=1.5))
    CopyFraming(
        piece_id=2, shape_id=2, from_cue_id=said(session, 0)[0], cue_ids=said(session, 2)
    ).apply(session)
    found = [framing_of(square(session), clip) for clip in session.timeline(2).clips]
    assert found[2] == found[0]
    assert found[1].zoom == 1


def test_a_picture_is_dragged(session: EditSession) -> None:
    PanClips(piece_id=2, shape_id=2, by_x=0.25, by_y=0.2).apply(session)
    assert (square(session).framing.px, square(session).framing.py) == pytest.approx((0.75, 0.62))
    assert square(session).framing.x == 0.5, "there is nothing beyond the sides"
    assert square(session).framing.y < 0.5
    PanClips(piece_id=2, shape_id=2, cue_ids=said(session, 0), by_x=0, by_y=-0.4).apply(session)
    first, second = (framing_of(square(session), clip).y for clip in session.timeline(2).clips[:2])
    assert first > 0.5 > second


def test_moves_lie_over_words_and_take_the_place_of_others(session: EditSession) -> None:
    ids = said(session, 0)
    AddMove(piece_id=2, shape_id=2, cue_ids=ids, way="in").apply(session)
    (move,) = square(session).moves
    clip = session.timeline(2).clips[0]
    assert clip.start_us <= move.start_us < move.end_us <= clip.end_us
    word = session.cue(ids[0]).words[0]
    AddMove(piece_id=2, shape_id=2, cue_ids=ids, word_ids=[word.id], way="quick", zoom=1.4).apply(
        session
    )
    (quick,) = square(session).moves
    assert quick.end_us - quick.start_us == word.end_us - word.start_us
    drop = DropMove(piece_id=2, shape_id=2, source_id=quick.source_id, start_us=quick.start_us)
    drop.apply(session)
    assert square(session).moves == ()
    with pytest.raises(NotFound):
        drop.apply(session)


def test_captions_stand_elsewhere_in_one_shape(session: EditSession) -> None:
    def dress(**changes: object) -> None:
        DressShape.model_validate(
            {
                "piece_id": 2,
                "shape_id": 2,
                "changes": {k.replace("__", "."): v for k, v in changes.items()},
            }
        ).apply(session)

    dress(place__dy=0.1, size=0.05)
    assert square(session).look == {"place.dy": 0.1, "size": 0.05}
    dress(size=None)
    assert square(session).look == {"place.dy": 0.1}
    with pytest.raises(BadInput):
        dress(place__dy=40)
    dress()
    assert square(session).look == {}


@pytest.mark.parametrize(
    "edit",
    [
        SetBackdrop(piece_id=2, shape_id=2, backdrop=Backdrop(kind="colour")),
        AlternateFramings(piece_id=2, shape_id=2, zoom=1.2),
    ],
)
def test_a_new_piece_has_the_shapes_of_the_one_it_is_made_of(
    session: EditSession, edit: BaseEdit
) -> None:
    frame(session, 0)
    edit.apply(session)
    NewPiece(piece_id=2).apply(session)
    assert session.settings(3).shapes == session.settings(2).shapes
    assert square(session).alternate == 1.2 or square(session).backdrop.kind == "colour"
    assert edit.label(session)
