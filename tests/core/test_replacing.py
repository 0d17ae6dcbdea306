"""A text is replaced in all captions at once: as if it were done caption by caption."""

from itertools import pairwise

import pytest

from mortiser.core.editing.timeline import Clip, Timeline
from mortiser.core.edits.apart import carry_out
from mortiser.core.edits.text.words import ReplaceText
from mortiser.core.transcript.words import Cue
from tests.memory_session import MemoryEditSession
from tests.store.fixtures import spoken

SAID = "Mend the kettle and the chair."
TWICE = Timeline([Clip(1, 0, 5_000_000, 1, 1), Clip(1, 0, 5_000_000, 2, 2)])


def twice() -> MemoryEditSession:
    """A piece in which the same is said twice, a caption each time."""
    session = MemoryEditSession(spoken(SAID), {1: TWICE})
    (both,) = session.cues(1)
    half = len(both.words) // 2
    session.delete_cues([both])
    for words in (both.words[:half], both.words[half:]):
        session.save_cue(Cue(1, words, words[0].start_us, words[-1].end_us))
    return session


@pytest.mark.parametrize("text", ["tea kettle", "pot", ""])
def test_a_passage_that_plays_twice_has_its_words_once(text: str) -> None:
    session = twice()
    carry_out(ReplaceText(piece_id=1, find="kettle", text=text), session)
    wanted = " ".join(SAID.replace("kettle", text).split())
    assert [cue.text for cue in session.cues(1)] == [wanted] * 2
    said = sorted(session.transcript.values(), key=lambda word: word.start_us)
    assert " ".join(word.text for word in said) == wanted


def test_words_added_at_both_sides_of_a_gap_do_not_overlap() -> None:
    words = spoken("mend it. mend it.")
    session = MemoryEditSession(words)
    (whole,) = session.cues(1)
    session.delete_cues([whole])
    for part in (whole.words[:2], whole.words[2:]):
        session.save_cue(Cue(1, part, part[0].start_us, part[-1].end_us))
    carry_out(ReplaceText(piece_id=1, find="mend it.", text="now mend it. well"), session)
    shown = [word for cue in session.cues(1) for word in cue.words]
    assert [word.text for word in shown] == ["now", "mend", "it.", "well"] * 2
    for one, after in pairwise(shown):
        assert one.end_us <= after.start_us
