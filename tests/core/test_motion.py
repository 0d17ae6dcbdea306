import json
from itertools import pairwise
from pathlib import Path

import pytest
from hypothesis import given
from hypothesis import strategies as st

from mortiser.core.finish.builtin import LACQUER, PINE
from mortiser.core.finish.model import Accent
from mortiser.core.layout.block import Box
from mortiser.core.motion.entrances import CUE_MOTIONS, WORD_MOTIONS, Moment
from mortiser.core.motion.paints import plank_box, state_colours
from mortiser.core.motion.timing import SHORTEST_LIVE_US, live_spans
from mortiser.core.motion.track import Key, eased, value_at

CASES = json.loads(Path("tests/cases/tracks.json").read_text())


@pytest.mark.parametrize("case", CASES)
def test_tracks_read_as_the_vectors_say(case: dict) -> None:
    track = tuple(Key(at, tuple(value), ease) for at, value, ease in case["track"])
    assert value_at(track, case["at"]) == pytest.approx(tuple(case["value"]))


@pytest.mark.parametrize("ease", ["linear", "out", "inout", "over"])
def test_eases_start_at_nothing_and_end_whole(ease: str) -> None:
    assert eased(ease, 0) == pytest.approx(0)
    assert eased(ease, 1) == pytest.approx(1)


@given(st.lists(st.integers(-100_000, 3_000_000), min_size=1, max_size=8).map(sorted))
def test_every_word_has_its_moment(starts: list[int]) -> None:
    spans = live_spans(starts, 0, 3_000_000)
    assert spans[-1][1] == 3_000_000
    assert all(a[1] == b[0] for a, b in pairwise(spans))
    assert all(start <= end for start, end in spans)


def test_words_that_start_together_share_the_time() -> None:
    assert live_spans([0, 100_000, 100_000, 400_000], 0, 900_000) == [
        (0, 100_000),
        (100_000, 250_000),
        (250_000, 400_000),
        (400_000, 900_000),
    ]
    assert SHORTEST_LIVE_US > 0


def test_a_word_is_ahead_then_live_then_past() -> None:
    track = state_colours(PINE, None, (1_000_000, 1_500_000))
    assert value_at(track, 999_999) == PINE.ahead
    assert value_at(track, 1_300_000) == PINE.live
    assert value_at(track, 1_700_000) == PINE.past


def test_the_plank_stands_under_the_live_word_and_slides_on() -> None:
    boxes = [Box(0, 0, 100, 50), Box(120, 0, 80, 50)]
    plank = LACQUER.plank
    assert plank is not None
    track = plank_box(plank, boxes, [(0, 500_000), (500_000, 900_000)], 10.0)
    first, second = value_at(track, 499_999), value_at(track, 800_000)
    assert first[0] == pytest.approx(-1.6)
    assert second[0] == pytest.approx(118.4)
    assert first[0] < value_at(track, 560_000)[0] < second[0]


@pytest.mark.parametrize("motion", [*CUE_MOTIONS.values(), *WORD_MOTIONS.values()])
@given(
    start=st.integers(0, 10**6),
    length=st.integers(1, 2 * 10**6),
    share=st.floats(0, 1),
)
def test_motions_come_to_rest_within_their_word(
    motion, start: int, length: int, share: float
) -> None:
    live = (start + int(share * length), start + length)
    moves = motion(Moment(start, start + length, live, 80.0))
    for track in (moves.opacity, moves.move, moves.scale):
        assert all(a.at_us <= b.at_us for a, b in pairwise(track))
    rest = start + length
    assert value_at(moves.opacity, rest + 2) == (1.0,)
    assert value_at(moves.move, rest + 2) == pytest.approx((0.0, 0.0))
    assert value_at(moves.scale, rest + 2) == pytest.approx((1.0,))


def test_a_word_that_rises_is_not_there_before_it_is_said() -> None:
    moves = WORD_MOTIONS["rise"](Moment(0, 2_000_000, (800_000, 1_200_000), 80.0))
    assert value_at(moves.opacity, 799_998) == (0.0,)
    assert value_at(moves.opacity, 800_001)[0] > 0.3


def test_a_marked_word_has_the_accents_colours_and_the_finishs_where_it_has_none() -> None:
    accent = Accent(name="Bright", about="", past=(1, 2, 3, 255))
    colours = [key.value for key in state_colours(PINE, accent, (1_000_000, 1_500_000))]
    assert colours == [PINE.ahead, PINE.live, PINE.live, (1, 2, 3, 255)]
