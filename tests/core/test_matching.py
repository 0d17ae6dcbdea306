"""A microphone's sound found under a recording's: offset, drift, and what does not belong."""

from collections.abc import Sequence

import numpy as np
import pytest

from mortiser.core.editing.matching import NONE, RATE, Sound, match
from mortiser.media.sound import stream_sound
from tests.recordings import COUNTER, KETTLE

DRIFT_S = 100


@pytest.fixture(scope="module")
def voices() -> list[Sound]:
    return [np.concatenate(list(stream_sound(file))) for file in (KETTLE, COUNTER)]


def long(voices: Sequence[Sound]) -> Sound:
    """Both voices in turn."""
    return np.concatenate([*voices, *voices])[: DRIFT_S * RATE]


def through_a_telephone(sound: np.ndarray) -> np.ndarray:
    """What of a sound lies between 200 and 3,500 Hz."""
    parts = np.fft.rfft(sound)
    high = np.arange(len(parts)) * RATE / len(sound)
    return np.fft.irfft(np.where((high > 200) & (high < 3_500), parts, 0), len(sound))


def microphone(sound: Sound, offset_s: float, drift_ppm: float = 0.0) -> Sound:
    """What another microphone hears: later, by another clock, with another sound and hiss of its own."""
    rate = 1 + drift_ppm / 1e6
    count = int((len(sound) / RATE * rate + offset_s) * RATE)
    places = (np.arange(count) / RATE - offset_s) / rate * RATE
    heard = np.interp(places, np.arange(len(sound)), sound, left=0, right=0)
    heard = through_a_telephone(heard)
    hiss = np.random.default_rng(7).normal(size=count)
    return np.asarray(heard + hiss * np.sqrt(np.square(heard).mean() / 10), np.float32)


@pytest.mark.parametrize("offset_s", [0.0, 1.2345, 12.5])
def test_a_microphone_is_found_where_it_was_started_earlier(
    voices: list[Sound], offset_s: float
) -> None:
    found = match(voices[0], microphone(voices[0], offset_s))
    assert found.belongs
    assert found.offset_us == pytest.approx(offset_s * 1e6, abs=2_000)
    assert found.drift_ppm == 0, "over so little no drift can be told"


def test_a_microphone_may_start_later_and_hear_a_part(voices: list[Sound]) -> None:
    heard = microphone(voices[0], 0.0)[int(7.25 * RATE) : 25 * RATE]
    found = match(voices[0], heard)
    assert found.belongs
    assert found.offset_us == pytest.approx(-7_250_000, abs=2_000)
    assert found.over_us == pytest.approx(17_750_000, abs=20_000)


@pytest.mark.parametrize("drift_ppm", [-80.0, 50.0])
def test_another_clock_is_followed_to_the_end(voices: list[Sound], drift_ppm: float) -> None:
    found = match(long(voices), microphone(long(voices), 0.4, drift_ppm))
    end = found.offset_us + found.drift_ppm * DRIFT_S
    assert found.offset_us == pytest.approx(400_000, abs=2_000)
    assert end == pytest.approx(400_000 + drift_ppm * DRIFT_S, abs=2_000)


def test_sounds_of_something_else_do_not_belong(voices: list[Sound]) -> None:
    assert not match(voices[0], microphone(voices[1], 0.3)).belongs
    assert not match(voices[1], microphone(voices[0], 0.3)).belongs
    assert not match(voices[0], voices[0][: 20 * RATE] * 0).belongs
    noise = np.random.default_rng(3).normal(size=20 * RATE).astype(np.float32)
    assert not match(voices[0], noise).belongs
    assert match(voices[0], voices[0][:RATE]) == NONE
