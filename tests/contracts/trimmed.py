"""What tests of cutting do on every session, and see of it."""

from dataclasses import replace

from mortiser.core.edits.apart import carry_out
from mortiser.core.edits.base import BaseEdit
from mortiser.core.edits.cutting.trimming import Passage
from mortiser.core.edits.session import EditSession
from mortiser.core.transcript.words import Cue, Shown


def make(session: EditSession, edit: BaseEdit) -> None:
    """An edit, and what follows from it; captions stand in order, and on their words."""
    carry_out(edit, session)
    for piece_id in (1, 2):
        shown = session.cues(piece_id)
        words = [word for cue in shown for word in cue.words]
        assert all(cue.words for cue in shown)
        assert [w.start_us for w in words] == sorted(w.start_us for w in words)
        assert all(cue.start_us < cue.end_us for cue in shown)
        assert session.unshown(piece_id) == []
        end = session.timeline(piece_id).duration_us
        assert all(cue.end_us <= max(end, cue.words[-1].end_us) for cue in shown if not cue.pinned)


def words_of(session: EditSession, piece_id: int = 1) -> list[Shown]:
    return [word for cue in session.cues(piece_id) for word in cue.words]


def text_of(session: EditSession, piece_id: int = 1) -> str:
    return " ".join(word.text for word in words_of(session, piece_id))


def passage(
    session: EditSession, first: str, last: str, piece_id: int = 1, nth: int = 0
) -> Passage:
    words = words_of(session, piece_id)
    a = [word for word in words if word.text == first][nth]
    b = next(word for word in words[words.index(a) :] if word.text == last)
    strand = session.timeline(piece_id).place_of(a).clip.strand_id
    return Passage(strand_id=strand, first_word=a.id, last_word=b.id)


def plain(cue: Cue) -> Cue:
    """A caption without the numbers of the clips its words are in, of which a cut makes new ones."""
    return cue.with_words(tuple(replace(word, clip_id=0) for word in cue.words))


def with_word(session: EditSession, text: str, piece_id: int = 1) -> tuple[Cue, Shown]:
    return next((c, w) for c in session.cues(piece_id) for w in c.words if w.text == text)
