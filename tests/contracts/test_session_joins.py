"""Transitions between clips and looks of pictures, on every session."""

import json

import pytest

from mortiser.core.assembly.grade import PLAIN
from mortiser.core.assembly.joining import joined
from mortiser.core.common.errors import BadInput
from mortiser.core.edits.cutting.removing import RemoveRecording
from mortiser.core.edits.cutting.trimming import StrikeWords
from mortiser.core.edits.look.grades import GradeChanges, GradePicture
from mortiser.core.edits.look.jigs import ApplyJig
from mortiser.core.edits.look.joins import SetJoin, SetJoins
from mortiser.core.edits.session import EditSession
from mortiser.core.framing.clip_framing import ClipFraming
from mortiser.core.project.jig import JIGS, jig_of, read_jig, write_jig
from mortiser.core.project.piece import Piece
from tests.contracts.trimmed import make, passage


@pytest.fixture
def session(two_pieces: EditSession) -> EditSession:
    make(two_pieces, StrikeWords(piece_id=1, passages=[passage(two_pieces, "this", "this")]))
    return two_pieces


def seen(session: EditSession) -> list[str]:
    timeline = session.timeline(1)
    found = joined(timeline, session.settings(1).joins, [ClipFraming()] * len(timeline.clips))
    return [one.transition.kind for one in found]


def test_every_cut_goes_over_and_one_of_them_otherwise(session: EditSession) -> None:
    assert seen(session) == []
    edit = SetJoins(piece_id=1, where="everywhere", transition={"kind": "push"})
    assert edit.label(session) == "push at every cut"
    make(session, edit)
    count = len(seen(session))
    assert count
    assert set(seen(session)) == {"push"}
    cut = session.timeline(1).cuts[0]
    own = SetJoin(piece_id=1, at_us=cut + 30_000, transition={"kind": "iris"})
    assert own.label(session) == "iris at a cut"
    make(session, own)
    assert seen(session).count("iris") == 1
    make(session, SetJoin(piece_id=1, at_us=cut))
    assert len(seen(session)) == count - 1, "a plain cut"
    make(session, SetJoin(piece_id=1, at_us=cut, as_all=True))
    assert seen(session) == ["push"] * count
    make(session, SetJoin(piece_id=1, at_us=cut, transition={"kind": "iris"}))
    make(session, SetJoins(piece_id=1, where="everywhere", alike=True))
    assert seen(session) == ["push"] * count


def test_later_cuts_go_over_too(session: EditSession) -> None:
    make(session, SetJoins(piece_id=1, where="everywhere"))
    before = len(seen(session))
    make(session, StrikeWords(piece_id=1, passages=[passage(session, "cold.", "cold.")]))
    assert len(seen(session)) > before


def test_a_piece_without_cuts_says_so(session: EditSession) -> None:
    make(session, SetJoins(piece_id=2, where="everywhere"))
    if not session.timeline(2).cuts:
        with pytest.raises(BadInput, match="no cuts"):
            make(session, SetJoin(piece_id=2, at_us=0))


def test_the_picture_and_a_recording_have_looks(session: EditSession) -> None:
    edit = GradePicture(piece_id=1, changes={"warmth": 0.5})
    assert edit.label(session) == "warmth of the picture"
    make(session, edit)
    make(session, GradePicture(piece_id=1, changes={"contrast": 0.25}))
    whole = session.settings(1).grades.whole
    assert (whole.warmth, whole.contrast) == (0.5, 0.25)
    make(session, GradePicture(piece_id=1, changes=GradeChanges(tint=0.1), afresh=True))
    assert session.settings(1).grades.whole == PLAIN.model_copy(update={"tint": 0.1})
    make(session, GradePicture(piece_id=1, source_id=1, changes={"exposure": 1}))
    assert session.settings(1).grades.of(1).exposure == 1
    make(session, GradePicture(piece_id=1, source_id=1, afresh=True))
    assert session.settings(1).grades.sources == ()


def test_what_was_set_for_a_recording_goes_with_it(session: EditSession) -> None:
    make(session, GradePicture(piece_id=1, source_id=2, changes={"exposure": 1}))
    make(session, GradePicture(piece_id=1, changes={"exposure": 0.5}))
    make(session, SetJoin(piece_id=1, at_us=0, transition={"kind": "blur"}))
    RemoveRecording(source_id=2).apply(session)
    left = session.settings(1)
    assert left.grades.sources == ()
    assert left.grades.whole.exposure == 0.5
    assert len(left.joins.own) == 1, "it is at a cut of another recording"


def test_a_jig_carries_what_is_not_about_single_cuts(session: EditSession) -> None:
    make(session, SetJoins(piece_id=1, where="everywhere", transition={"kind": "whip"}))
    make(session, SetJoin(piece_id=1, at_us=0, transition={"kind": "blur"}))
    make(session, GradePicture(piece_id=1, changes={"warmth": 0.5}))
    make(session, GradePicture(piece_id=1, source_id=1, changes={"exposure": 1}))
    piece = Piece(1, 1, session.settings(1), session.timeline(1))
    jig = read_jig(write_jig(jig_of("Whipped", piece)).encode())
    make(session, ApplyJig(piece_id=2, jig=jig))
    other = session.settings(2)
    assert (other.joins.where, other.joins.transition.kind, other.joins.own) == (
        "everywhere", "whip", (),
    )  # fmt: skip
    assert other.grades.whole.warmth == 0.5
    assert other.grades.sources == ()


def test_a_jig_of_before_there_were_any_has_none() -> None:
    file = json.loads(write_jig(JIGS[0]))
    jig = {key: value for key, value in file["jig"].items() if key not in ("joins", "look")}
    old = json.dumps(file | {"version": 2, "jig": jig | {"version": 2}}).encode()
    assert read_jig(old) == JIGS[0]
