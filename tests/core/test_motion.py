import json
from itertools import accumulate, pairwise
from pathlib import Path

import pytest
from hypothesis import given, settings
from hypothesis import strategies as st

from mortiser.core.scene.moving import Movement
from mortiser.core.style.finish.builtin import FINISHES
from mortiser.core.style.finish.model import Accent, Finish
from mortiser.core.style.finish.motions import Emphasis, Exit, Loop
from mortiser.core.style.finish.parts import Plank
from mortiser.core.style.layout.block import lay_out
from mortiser.core.style.layout.rect import Rect
from mortiser.core.style.motion.emphases import EMPHASES, emphasis_layer
from mortiser.core.style.motion.entrances import ENTRANCES, Coming
from mortiser.core.style.motion.exits import exit_layer
from mortiser.core.style.motion.layers import MotionLayer
from mortiser.core.style.motion.loops import loop_layer
from mortiser.core.style.motion.paints import fill_track, fill_values, ink_tracks, plank_box, states
from mortiser.core.style.motion.timing import SHORTEST_LIVE_US, live_spans, lived_together
from mortiser.core.style.motion.track import Key, eased, value_at
from mortiser.core.style.motion.units import leavings
from mortiser.fonts import font_book

LACQUER, PINE = FINISHES["Lacquer"], FINISHES["Pine"]

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
    track = fill_track(states(PINE, None), (1_000_000, 1_500_000))
    assert value_at(track, 999_999) == PINE.ahead
    assert value_at(track, 1_300_000) == PINE.live
    assert value_at(track, 1_700_000) == PINE.past


def test_the_plank_stands_under_the_live_word_and_slides_on() -> None:
    boxes = [Rect.sized(0, 0, 100, 50), Rect.sized(120, 0, 80, 50)]
    plank = LACQUER.plank
    assert plank is not None
    track = plank_box(plank, boxes, [(0, 500_000), (500_000, 900_000)], 10.0)
    first, second = value_at(track, 499_999), value_at(track, 800_000)
    assert first[0] == pytest.approx(-1.6)
    assert second[0] == pytest.approx(118.4)
    assert first[0] < value_at(track, 560_000)[0] < second[0]


def movement(finish: Finish, lives: list[tuple[int, int]], span: tuple[int, int]) -> Movement:
    texts = [f"word{n}" for n in range(len(lives))]
    block = lay_out(texts, finish, 1080, 1920, font_book())
    return Movement(finish, block, lives, [end for _, end in lives], span)


def readable(layers: tuple[MotionLayer, ...], at: int) -> bool:
    """Whether a word is all there and in its place, but for what it does while it is live."""
    opacity = 1.0
    for layer in layers:
        if layer.opacity:
            opacity *= value_at(layer.opacity, at)[0]
        if layer.move and max(map(abs, value_at(layer.move, at))) > 12:
            return False
    return opacity > 0.9


spans = st.lists(st.integers(60_000, 900_000), min_size=1, max_size=7)


@pytest.mark.parametrize("finish", FINISHES.values(), ids=list(FINISHES))
@settings(max_examples=30, deadline=None)
@given(spans)
def test_words_can_be_read_for_most_of_their_time(finish: Finish, lengths: list[int]) -> None:
    edges = [0, *accumulate(lengths)]
    lives = list(pairwise(edges))
    span = (0, edges[-1] + 200_000)
    lives[-1] = (lives[-1][0], span[1])
    moving = movement(finish, lives, span)
    for index, (start, _) in enumerate(lives):
        layers = (*moving.of_caption(), *moving.of_word(index))
        moments = [start + (span[1] - start) * n // 60 for n in range(60)]
        share = sum(readable(layers, at) for at in moments) / len(moments)
        assert share >= 0.5, (index, share)


@pytest.mark.parametrize("kind", ENTRANCES)
@given(start=st.integers(0, 10**6), length=st.integers(1, 10**6))
def test_entrances_begin_hidden_and_end_at_rest(kind: str, start: int, length: int) -> None:
    layer = ENTRANCES[kind](Coming(start, length, 80.0, (10.0, 20.0), 1.0, "over"))
    assert layer.opacity
    assert value_at(layer.opacity, start - 2) == (0.0,)
    rest = start + length + 2
    assert value_at(layer.opacity, rest) == (1.0,)
    for track, value in ((layer.move, (0.0, 0.0)), (layer.scale, (1.0,)), (layer.turn, (0.0,))):
        if track:
            assert value_at(track, rest) == pytest.approx(value)
            assert all(a.at_us < b.at_us for a, b in pairwise(track))


@pytest.mark.parametrize("kind", EMPHASES)
@given(start=st.integers(0, 10**6), length=st.integers(3, 10**6))
def test_a_live_word_comes_back_to_rest(kind: str, start: int, length: int) -> None:
    live = start, start + length
    layer = emphasis_layer(Emphasis(kind=kind), live, 80.0, (0.0, 0.0))
    assert not layer.idle
    for track, rest in ((layer.move, (0.0, 0.0)), (layer.scale, (1.0,)), (layer.turn, (0.0,))):
        if track:
            assert value_at(track, start - 1) == rest
            assert value_at(track, live[1] + 1_100_000) == rest
            assert any(key.value != rest for key in track)


@pytest.mark.parametrize("kind", ["fade", "sink", "lift_off", "shrink"])
@given(
    count=st.integers(1, 8), last=st.integers(0, 10**6), rest=st.integers(100, 10**6),
    by=st.sampled_from(["caption", "word"]),
)  # fmt: skip
def test_what_goes_is_gone_at_the_end_and_its_last_word_was_read(
    kind: str, count: int, last: int, rest: int, by: str
) -> None:
    leaving = Exit(kind=kind, by=by, duration_ms=300, stagger_ms=100)
    found = leavings(leaving, count, last, (0, last + rest))
    assert found[-1][1] == last + rest
    assert found[0][0] >= last + rest * 5 // 6 - count - 1
    for span in found:
        layer = exit_layer(leaving, span, 80.0, (0.0, 0.0))
        if not layer.idle:
            assert layer.opacity
            assert value_at(layer.opacity, span[0] - 1) == (1.0,)
            assert value_at(layer.opacity, span[1]) == (0.0,)


@pytest.mark.parametrize("kind", ["sway", "breathe", "bob"])
def test_loops_go_on_and_stay_gentle(kind: str) -> None:
    layer = loop_layer(Loop(kind=kind, period_ms=1000), (0, 5_000_000), 80.0, (0.0, 0.0), part=3)
    (track,) = [t for t in (layer.move, layer.scale, layer.turn) if t]
    a, b = (value_at(track, at)[-1] for at in (300_000, 4_300_000))
    assert a == pytest.approx(b)
    values = [value_at(track, at)[-1] for at in range(0, 5_000_000, 50_000)]
    assert max(values) - min(values) > 0.01
    assert track[-1].at_us >= 5_000_000


def test_letters_are_typed_while_the_word_is_said() -> None:
    finish = FINISHES["Rivet"]
    moving = movement(finish, [(0, 600_000), (600_000, 1_200_000)], (0, 1_200_000))
    at = [moving.of_letter(0, n)[0].opacity for n in range(5)]
    shown = [
        sum(value_at(track, when)[0] for track in at if track) for when in range(0, 400_000, 1000)
    ]
    assert shown == sorted(shown)
    assert shown[0] == 1
    assert shown[-1] == 5


def test_ink_runs_through_a_word_and_then_the_base_takes_over() -> None:
    finish = FINISHES["Ember"]
    base, _, span = ink_tracks(states(finish, None), (1_000_000, 1_600_000), 400_000, (0.0, 90.0))
    values = fill_values(states(finish, None))
    assert value_at(base, 1_200_000) == values[0]
    assert value_at(span, 1_200_000) == pytest.approx((0.0, 45.0))
    assert value_at(base, 1_500_000) == values[1]
    assert value_at(span, 1_500_000)[0] == value_at(span, 1_500_000)[1]
    _, _, leftwards = ink_tracks(states(finish, None), (0, 600_000), 400_000, (90.0, 0.0))
    assert value_at(leftwards, 200_000) == pytest.approx((45.0, 90.0))


def test_a_marked_word_has_the_accents_colours_and_the_finishs_where_it_has_none() -> None:
    accent = Accent(name="Bright", about="", past=(1, 2, 3, 255))
    colours = [key.value for key in fill_track(states(PINE, accent), (1_000_000, 1_500_000))]
    assert colours == [PINE.ahead, PINE.live, PINE.live, (1, 2, 3, 255)]


def test_words_of_a_line_are_live_together() -> None:
    lives = [(0, 10), (10, 25), (25, 40), (40, 90)]
    assert lived_together(lives, [(0, 2), (2, 3), (3, 4)]) == [(0, 25), (0, 25), (25, 40), (40, 90)]


def test_a_plank_under_the_line_being_said_stays_until_the_next_line() -> None:
    boxes = [Rect(0, 0, 100, 20)] * 2 + [Rect(0, 30, 80, 50)]
    lives = [(0, 900_000), (0, 900_000), (900_000, 2_000_000)]
    track = plank_box(Plank(colour=(1, 2, 3, 255), pad_x=0, pad_y=0), boxes, lives, 20)
    assert value_at(track, 800_000) == (0, 0, 100, 20)
    assert value_at(track, 1_900_000) == (0, 30, 80, 20)
