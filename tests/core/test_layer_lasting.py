"""A layer lasts from any word to any word; words that make no stretch are refused."""

import pytest

from mortiser.core.common.errors import BadInput
from mortiser.core.editing.timeline import Clip, Timeline
from mortiser.core.edits.apart import carry_out
from mortiser.core.edits.look.layers import AddLayer, LastLayer
from mortiser.core.framing.shape import Stretch
from tests.memory_desk import MemoryDesk
from tests.store.fixtures import spoken

PLAIN = {"piece_id": 1, "layer_id": 1}


@pytest.fixture
def desk() -> MemoryDesk:
    made = MemoryDesk(spoken("Open the plug and look for a thin grey wire."))
    carry_out(AddLayer(piece_id=1, layer="plate"), made)
    return made


def during(desk: MemoryDesk) -> Stretch | None:
    return desk.layers(1)[0].during


def test_each_end_is_set_alone_and_the_other_stays(desk: MemoryDesk) -> None:
    plug, grey = desk.said(3), desk.said(9)
    carry_out(LastLayer(**PLAIN, from_word=plug.id), desk)
    assert during(desk) == Stretch(source_id=1, start_us=plug.start_us, end_us=60_000_000)
    carry_out(LastLayer(**PLAIN, to_word=grey.id), desk)
    assert during(desk) == Stretch(source_id=1, start_us=plug.start_us, end_us=grey.end_us)
    carry_out(LastLayer(**PLAIN), desk)
    assert during(desk) is None


def test_an_end_before_the_beginning_is_refused(desk: MemoryDesk) -> None:
    with pytest.raises(BadInput, match="said later"):
        carry_out(LastLayer(**PLAIN, from_word=9, to_word=3), desk)


def test_words_of_a_recording_that_the_piece_has_not_are_refused() -> None:
    desk = MemoryDesk(spoken("Open the plug."), {1: Timeline([Clip(2, 0, 10**6, 1, 1)])})
    carry_out(AddLayer(piece_id=1, layer="plate"), desk)
    with pytest.raises(BadInput, match="one recording of this piece"):
        carry_out(LastLayer(**PLAIN, from_word=2), desk)
