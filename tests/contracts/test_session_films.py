"""Openings and closings on every session."""

import pytest

from mortiser.core.common.errors import BadInput, NotFound
from mortiser.core.edits.cutting.films import PutFilm, TakeFilmAway
from mortiser.core.edits.session import EditSession
from tests.contracts.trimmed import make, text_of, words_of


@pytest.fixture
def session(two_pieces: EditSession) -> EditSession:
    return two_pieces


def test_a_recording_opens_the_piece_and_its_captions_come_later(session: EditSession) -> None:
    before, starts = text_of(session), [word.start_us for word in words_of(session)]
    length = session.timeline(1).duration_us
    edit = PutFilm(piece_id=1, source_id=2, role="opening", from_us=9_000_000, to_us=11_000_000)
    assert edit.label(session).startswith("open with ")
    make(session, edit)
    timeline = session.timeline(1)
    by = timeline.duration_us - length
    assert by == pytest.approx(2_000_000, abs=40_000)
    assert timeline.clips[0].source_id == 2
    assert text_of(session) == before, "nothing is said in that stretch"
    assert [word.start_us for word in words_of(session)] == [at + by for at in starts]
    make(session, TakeFilmAway(piece_id=1, strand_id=timeline.clips[0].strand_id))
    assert session.timeline(1).duration_us == length
    assert [word.start_us for word in words_of(session)] == starts


def test_one_that_speaks_is_captioned_too(session: EditSession) -> None:
    before = text_of(session)
    make(session, PutFilm(piece_id=1, source_id=2, role="closing"))
    assert session.timeline(1).clips[-1].source_id == 2
    assert text_of(session).startswith(before)
    assert len(text_of(session)) > len(before)


def test_what_cannot_be_is_told(session: EditSession) -> None:
    with pytest.raises(BadInput, match="nothing at that moment"):
        make(session, PutFilm(piece_id=1, source_id=2, role="opening", from_us=10**11))
    with pytest.raises(NotFound):
        make(session, TakeFilmAway(piece_id=1, strand_id=999))
    (strand,) = {clip.strand_id for clip in session.timeline(1).clips}
    with pytest.raises(BadInput, match="leave nothing"):
        make(session, TakeFilmAway(piece_id=1, strand_id=strand))
