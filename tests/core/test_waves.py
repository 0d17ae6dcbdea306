"""Waveforms in the scene: levels of the sound, in any form."""

import pytest
from hypothesis import given
from hypothesis import strategies as st

from mortiser.core.framing.layer import Wave
from mortiser.core.scene.waves import APART_US, LEAST, NOT_HEARD, Heard, wave_item
from mortiser.core.style.layout.rect import Rect

BOX = Rect.sized(100, 200, 640, 160)
WHITE = (255, 255, 255, 255)
FORMS = ("bars", "mirrored", "line", "ring")


@given(
    st.lists(st.integers(8, 200), min_size=1, max_size=60), st.integers(0, 59), st.integers(0, 9)
)
def test_a_level_is_the_peak_of_its_moment(peaks: list[int], at: int, first: int) -> None:
    heard = Heard(first * 20_000, 20_000, bytes(peaks), 200)
    item = wave_item(Wave(smooth_ms=0), BOX, WHITE, heard)
    at %= len(peaks)
    middle = heard.from_us + at * 20_000 + 10_000
    assert item.level(middle) == pytest.approx(max(LEAST, peaks[at] / 200))
    beside = item.levels[min(at + 1, len(peaks) - 1)]
    low, high = sorted((item.levels[at], beside))
    assert low <= item.level(middle + 7_000) <= high


@pytest.mark.parametrize("form", FORMS)
@pytest.mark.parametrize("count", [8, 37, 120])
def test_all_marks_stay_in_their_box_at_the_loudest(form: str, count: int) -> None:
    box = Rect.sized(0, 0, 400, 400) if form == "ring" else BOX
    item = wave_item(Wave(form=form, count=count), box, WHITE, NOT_HEARD)
    assert len(item.marks) == count
    half = item.thick / 2
    for mark in item.marks:
        far = mark.x + mark.dx, mark.y + mark.dy
        back = (mark.x - mark.dx, mark.y - mark.dy) if item.both else (mark.x, mark.y)
        for x, y in (far, back):
            assert box.left - half <= x <= box.right + half
            assert box.top - 1e-6 <= y - half
            assert y + half <= box.bottom + 1e-6


def test_the_present_is_in_the_middle_or_on_top() -> None:
    straight = wave_item(Wave(form="bars", count=9), BOX, WHITE, NOT_HEARD)
    assert [mark.age_us for mark in straight.marks] == [n * APART_US for n in range(4, -5, -1)]
    ring = wave_item(Wave(form="ring", count=8), BOX, WHITE, NOT_HEARD)
    top = min(ring.marks, key=lambda mark: mark.y + mark.dy)
    assert top.age_us == 0
    assert max(mark.age_us for mark in ring.marks) == 4 * APART_US


def test_smoothing_evens_out_and_silence_is_seen() -> None:
    heard = Heard(0, 20_000, bytes([0, 0, 0, 200, 0, 0, 0]), 200)
    sharp, soft = (wave_item(Wave(smooth_ms=ms), BOX, WHITE, heard) for ms in (0, 40))
    assert max(soft.levels) < 0.6 * max(sharp.levels)
    assert min(soft.levels) >= LEAST
    assert wave_item(Wave(), BOX, WHITE, NOT_HEARD).levels == (LEAST,)
