"""A layer lasts from any word to any word; words that make no stretch are refused."""

import pytest

from mortiser.core.common.errors import BadInput
from mortiser.core.editing.timeline import Clip, Timeline
from mortiser.core.edits.apart import carry_out
from mortiser.core.edits.look.layers import AddLayer, LastLayer
from mortiser.core.framing.shape import FramedStretch
from tests.memory_session import MemoryEditSession
from tests.store.fixtures import spoken

PLAIN = {"piece_id": 1, "layer_id": 1}


@pytest.fixture
def session() -> MemoryEditSession:
    made = MemoryEditSession(spoken("Open the plug and look for a thin grey wire."))
    carry_out(AddLayer(piece_id=1, layer="plate"), made)
    return made


def during(session: MemoryEditSession) -> FramedStretch | None:
    return session.settings(1).layers[0].during


def test_each_end_is_set_alone_and_the_other_stays(session: MemoryEditSession) -> None:
    plug, grey = session.said(3), session.said(9)
    carry_out(LastLayer(**PLAIN, from_word=plug.id), session)
    assert during(session) == FramedStretch(source_id=1, start_us=plug.start_us, end_us=60_000_000)
    carry_out(LastLayer(**PLAIN, to_word=grey.id), session)
    assert during(session) == FramedStretch(source_id=1, start_us=plug.start_us, end_us=grey.end_us)
    carry_out(LastLayer(**PLAIN), session)
    assert during(session) is None


def test_an_end_before_the_beginning_is_refused(session: MemoryEditSession) -> None:
    with pytest.raises(BadInput, match="said later"):
        carry_out(LastLayer(**PLAIN, from_word=9, to_word=3), session)


def test_words_of_a_recording_that_the_piece_has_not_are_refused() -> None:
    session = MemoryEditSession(spoken("Open the plug."), {1: Timeline([Clip(2, 0, 10**6, 1, 1)])})
    carry_out(AddLayer(piece_id=1, layer="plate"), session)
    with pytest.raises(BadInput, match="one recording of this piece"):
        carry_out(LastLayer(**PLAIN, from_word=2), session)
