"""Cutaways on every session."""

import pytest

from mortiser.core.assembly.covering import covers
from mortiser.core.assembly.cutaway import Cutaway, PictureSeen, RecordingSeen
from mortiser.core.common.errors import BadInput, NotFound
from mortiser.core.edits.base import BaseEdit
from mortiser.core.edits.cutting.removing import RemoveRecording, losses
from mortiser.core.edits.cutting.trimming import StrikeWords
from mortiser.core.edits.look.cutaways import (
    AddCutaway,
    ChangeCutaway,
    CutawayChanges,
    DropCutaway,
    MoveCutaway,
)
from mortiser.core.edits.session import EditSession
from mortiser.core.framing.own_picture import OwnPicture
from mortiser.core.transcript.words import Shown
from tests.contracts.trimmed import make, passage, words_of

PICTURE = PictureSeen(picture=OwnPicture(digest="a" * 32, name="lantern.svg", width=9, height=9))


@pytest.fixture
def session(two_pieces: EditSession) -> EditSession:
    return two_pieces


def only(session: EditSession) -> Cutaway:
    (one,) = session.settings(1).cutaways
    return one


def lie(session: EditSession) -> list[tuple[int, int]]:
    found = covers(session.timeline(1), session.settings(1).cutaways)
    return [(one.start_us, one.end_us) for one in found]


def said(session: EditSession, text: str) -> Shown:
    return next(word for word in words_of(session) if word.text == text)


def of(session: EditSession, kind: type[BaseEdit], **about) -> None:
    make(session, kind(piece_id=1, cutaway_id=1, **about))


def test_what_can_be_seen_through_is_shown_whole_and_the_rest_fills(session: EditSession) -> None:
    for through, fit in ((True, "whole"), (False, "fill")):
        seen = PictureSeen(picture=PICTURE.picture.model_copy(update={"through": through}))
        word = said(session, "this")
        make(session, AddCutaway(piece_id=1, from_word=word.id, seen=seen))
        assert session.settings(1).cutaways[-1].framing.fit == fit


def test_it_lies_on_words_and_goes_with_them(session: EditSession) -> None:
    first, last = said(session, "this"), said(session, "stone")
    edit = AddCutaway(piece_id=1, from_word=last.id, to_word=first.id, seen=PICTURE)
    assert edit.label(session) == "cut away to lantern.svg"
    make(session, edit)
    assert lie(session) == [(first.start_us, last.end_us)]
    make(session, StrikeWords(piece_id=1, passages=[passage(session, "Today", "Today")]))
    assert lie(session) == [(said(session, "This").start_us, said(session, "stone").end_us)]
    make(session, StrikeWords(piece_id=1, passages=[passage(session, "This", "cold.")]))
    assert lie(session) == []
    assert only(session), "it comes back with its words"


def test_captions_are_covered_as_long_as_they_are_said(session: EditSession) -> None:
    cue = session.cues(1)[1]
    make(session, AddCutaway(piece_id=1, cue_ids=[cue.id], seen=PICTURE))
    assert lie(session) == [(cue.words[0].start_us, cue.words[-1].end_us)]
    with pytest.raises(BadInput, match="Choose the words"):
        AddCutaway(piece_id=1, seen=PICTURE).apply(session)


def test_its_ends_go_from_word_to_word(session: EditSession) -> None:
    make(session, AddCutaway(piece_id=1, from_word=said(session, "kettle").id, seen=PICTURE))
    of(session, MoveCutaway, to_word=said(session, "cold.").id)
    of(session, MoveCutaway, from_word=said(session, "this").id)
    assert lie(session) == [(said(session, "this").start_us, said(session, "cold.").end_us)]
    with pytest.raises(BadInput, match="ends behind"):
        of(session, MoveCutaway, from_word=words_of(session)[-1].id)


def test_a_part_of_a_recording_is_seen_as_fast_as_wanted(session: EditSession) -> None:
    kettle = said(session, "kettle").id
    make(session, AddCutaway(piece_id=1, from_word=kettle, seen=RecordingSeen(source_id=2)))
    changes = CutawayChanges(from_us=10**11, speed=0.5, fit="whole", zoom=2.0)
    of(session, ChangeCutaway, changes=changes)
    now = only(session)
    assert now.seen == RecordingSeen(source_id=2, from_us=session.source_length(2) - 1)
    assert (now.speed, now.framing.fit, now.framing.zoom) == (0.5, "whole", 2.0)
    of(session, ChangeCutaway, changes=CutawayChanges(seen=PICTURE))
    assert (only(session).seen, only(session).speed) == (PICTURE, 0.5)
    with pytest.raises(BadInput, match="no moments"):
        of(session, ChangeCutaway, changes=CutawayChanges(from_us=5))
    of(session, DropCutaway)
    assert session.settings(1).cutaways == ()
    with pytest.raises(NotFound):
        of(session, DropCutaway)


def test_it_goes_with_the_recording_it_shows(session: EditSession) -> None:
    seen = RecordingSeen(source_id=2)
    make(session, AddCutaway(piece_id=1, from_word=said(session, "kettle").id, seen=seen))
    found = {loss.piece_id: (loss.lost_us, loss.cutaways) for loss in losses(session, 2)}
    assert found[1] == (0, 1)
    assert found[2][1] == 0
    RemoveRecording(source_id=2).apply(session)
    assert session.settings(1).cutaways == ()
