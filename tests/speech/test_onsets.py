"""Times drawn to speech, and known words found in other languages than English."""

import json
from itertools import pairwise
from pathlib import Path

import numpy as np
import pytest
from hypothesis import given
from hypothesis import strategies as st

from mortiser.media.sound import stream_sound
from mortiser.settings import Settings
from mortiser.speech.engines import aligner_for
from mortiser.speech.onsets import BIAS_S, pulled
from mortiser.speech.protocols import RATE, WordTime
from mortiser.speech.sphinx import SphinxAligner
from mortiser.speech.whisper import WhisperRecogniser
from mortiser.wiring import model_place

MEDIA = Path("bench/media")


def tones(*parts: tuple[float, float], length_s: float = 4) -> np.ndarray:
    sound = np.random.default_rng(1).normal(0, 1e-4, int(length_s * RATE)).astype(np.float32)
    for start, end in parts:
        at = np.arange(int(start * RATE), int(end * RATE))
        sound[at] += 0.3 * np.sin(at / 8)
    return sound


def test_a_word_that_begins_in_a_pause_is_moved_to_speech() -> None:
    sound = tones((1.0, 1.8), (2.5, 3.2))
    first, second = pulled([WordTime(0.4, 2.1, 0.9), WordTime(2.5, 3.9, 0.8)], sound)
    assert first.start_s == pytest.approx(1.0, abs=0.02)
    assert first.end_s == pytest.approx(1.8, abs=0.02)
    assert second.start_s == pytest.approx(2.5, abs=0.02)
    assert second.end_s == pytest.approx(3.2, abs=0.02)
    assert (first.support, second.support) == (0.9, 0.8)


def test_within_running_speech_only_the_bias_is_taken_off() -> None:
    sound = tones((0.0, 4.0))
    (word,) = pulled([WordTime(1.5, 2.0, 0.9)], sound)
    assert word.start_s == pytest.approx(1.5 + BIAS_S)


spans = st.lists(st.floats(0, 3.9), min_size=2, max_size=12).map(sorted)


@given(spans, st.lists(st.floats(0, 3.5), max_size=4))
def test_times_stay_in_order_and_do_not_overlap(edges: list[float], speech: list[float]) -> None:
    times = [WordTime(a, b, 0.5) for a, b in pairwise(edges)]
    found = pulled(times, tones(*((start, start + 0.4) for start in speech)))
    assert len(found) == len(times)
    assert all(time.start_s <= time.end_s for time in found)
    assert all(a.end_s <= b.start_s + 1e-9 for a, b in pairwise(found))


def test_no_sound_is_no_fault() -> None:
    empty = np.zeros(0, np.float32)
    assert pulled([], empty) == []
    assert len(pulled([WordTime(0, 1, 0.5)], empty)) == 1


def test_known_words_are_found_in_german() -> None:
    place = model_place(Settings())
    assert isinstance(aligner_for("en", place), SphinxAligner)
    aligner = aligner_for("de", place)
    assert isinstance(aligner, WhisperRecogniser)
    truth = json.loads((MEDIA / "language-de.words.json").read_text())["words"][:8]
    sound = np.concatenate(list(stream_sound(MEDIA / "language-de.ogg")))
    samples = sound[: int((truth[-1]["start_us"] / 1e6 + 1) * RATE)]
    found = aligner.align([*(w["text"] for w in truth), "—"], samples)
    assert found[-1] is None
    off = [abs(t.start_s * 1e6 - w["start_us"]) for t, w in zip(found, truth, strict=False) if t]
    assert len(off) == len(truth)
    assert np.median(off) < 80_000
    assert aligner.align(["Guten"], np.zeros(RATE * 40, np.float32)) == [None]
    assert aligner.align([], samples) == []
