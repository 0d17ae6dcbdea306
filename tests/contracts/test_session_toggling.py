"""One press strikes, the next brings back, on every session."""

import pytest
from pydantic import ValidationError

from mortiser.core.edits.cutting.toggling import ToggleQuiet, ToggleWords
from mortiser.core.edits.cutting.trimming import StrikeWords
from mortiser.core.edits.session import EditSession
from tests.contracts.trimmed import make, passage, text_of, words_of
from tests.store.fixtures import TEXT

MS = 1_000


@pytest.fixture
def session(two_pieces: EditSession) -> EditSession:
    return two_pieces


def test_words_are_struck_and_come_back(session: EditSession) -> None:
    toggle = ToggleWords(piece_id=1, passages=[passage(session, "stone", "cold.")])
    assert toggle.label(session) == "strike “stone cold.”"
    make(session, toggle)
    assert text_of(session) == TEXT.replace("stone cold.", "").replace("  ", " ")
    assert toggle.label(session) == "bring “stone cold.” back"
    make(session, toggle)
    assert text_of(session) == TEXT


def test_where_some_are_struck_all_are_struck_first(session: EditSession) -> None:
    both = [passage(session, "Today", "Today"), passage(session, "stone", "cold.")]
    make(session, StrikeWords(piece_id=1, passages=both[:1]))
    make(session, ToggleWords(piece_id=1, passages=both))
    assert not {"Today", "stone", "cold."} & {word.text for word in words_of(session)}
    make(session, ToggleWords(piece_id=1, passages=both))
    assert text_of(session) == TEXT


def test_quiet_is_taken_out_up_to_what_stays_and_comes_back(session: EditSession) -> None:
    strand = session.strands(1)[0]
    start, end = words_of(session)[0].end_us, words_of(session)[0].end_us + 500 * MS
    before = session.timeline(1).duration_us
    toggle = ToggleQuiet(
        piece_id=1, strand_id=strand.id, from_us=start, to_us=end,
        cut_from_us=start + 120 * MS, cut_to_us=end - 60 * MS,
    )  # fmt: skip
    assert toggle.label(session) == "take out a quiet stretch"
    make(session, toggle)
    frame = session.frames(1).length_us
    assert before - session.timeline(1).duration_us == pytest.approx(320 * MS, abs=frame)
    assert toggle.label(session) == "bring back a quiet stretch"
    make(session, toggle)
    assert session.timeline(1).duration_us == before


def test_what_goes_lies_in_the_quiet() -> None:
    with pytest.raises(ValidationError, match="lies in it"):
        ToggleQuiet(piece_id=1, strand_id=1, from_us=5, to_us=9, cut_from_us=4, cut_to_us=9)
