"""What every recogniser and aligner must do; the real ones are held to it on real speech."""

import json
import math
from collections.abc import Sequence
from dataclasses import dataclass
from itertools import pairwise

import numpy as np
import pytest

from mortiser.core.transcript.words import tokens
from mortiser.media.sound import stream_sound
from mortiser.settings import Settings
from mortiser.speech.chunks import MOST_S
from mortiser.speech.conversion import converted
from mortiser.speech.language_model import SmallLanguageModel
from mortiser.speech.models import ENGLISH, WORDING
from mortiser.speech.moonshine import MoonshineRecogniser
from mortiser.speech.protocols import (
    RATE,
    Aligner,
    HeardLine,
    LanguageModel,
    Reading,
    Recogniser,
    Samples,
    WordTime,
)
from mortiser.speech.sphinx import SphinxAligner
from mortiser.speech.whisper import WhisperRecogniser
from mortiser.wiring import model_place
from tests.recordings import COUNTER, MEDIA


class PlainRecogniser:
    """Hears “tone” wherever there is sound: enough to test what is built on the seam."""

    name = "plain"
    languages: tuple[str, ...] = ("en",)
    stretch_s = 6.0

    def hear(self, samples: Samples) -> list[HeardLine]:
        seconds = [samples[at : at + RATE] for at in range(0, len(samples), RATE)]
        return [
            HeardLine("tone tone", at, at + len(sound) / RATE, sound, at)
            for at, sound in enumerate(seconds)
            if np.abs(sound).max() > 0.05
        ]


class EvenAligner:
    """Gives every word the same share of the sound."""

    def align(self, words, samples: Samples) -> list[WordTime | None]:
        each = len(samples) / RATE / max(1, len(words))
        return [
            WordTime(i * each, (i + 1) * each, 0.9) if any(map(str.isalnum, word)) else None
            for i, word in enumerate(words)
        ]


class PlainReader:
    """Finds every letter as unlikely as any other."""

    def likelihoods(self, texts: Sequence[str]) -> list[float]:
        return [-1.0 * len(text) for text in texts]

    def read(self, before: Sequence[str], words: Sequence[str]) -> Reading:
        return PlainReading(words)


@dataclass
class PlainReading:
    words: Sequence[str]

    @property
    def surprises(self) -> list[float]:
        return [1.0 * len(word) for word in self.words]

    def instead(self, index: int, words: Sequence[str]) -> list[float]:
        return [1.0 * len(self.words[index]) - len(word) for word in words]


def many_languages() -> WhisperRecogniser:
    return WhisperRecogniser(model_place(Settings()).folder(), "en")


def third() -> Recogniser:
    folder = model_place(Settings()).packaged(ENGLISH)
    assert folder is not None
    return WhisperRecogniser(folder, "en")


def small_model() -> LanguageModel:
    folder = model_place(Settings()).packaged(WORDING)
    assert folder is not None
    return SmallLanguageModel(converted(folder))


@pytest.fixture(
    scope="module", params=[PlainRecogniser, MoonshineRecogniser, many_languages, third]
)
def recogniser(request: pytest.FixtureRequest) -> Recogniser:
    return request.param()


@pytest.fixture(scope="module", params=[PlainReader, small_model])
def reader(request: pytest.FixtureRequest) -> LanguageModel:
    return request.param()


@pytest.fixture(scope="module", params=[EvenAligner, SphinxAligner])
def aligner(request: pytest.FixtureRequest) -> Aligner:
    return request.param()


def speech() -> list[Samples]:
    return list(stream_sound(COUNTER))


def test_lines_come_in_order_within_the_sound(recogniser: Recogniser) -> None:
    samples = np.concatenate(speech())[: int(MOST_S * RATE)]
    length = len(samples) / RATE
    lines = recogniser.hear(samples)
    assert lines
    assert all(a.start_s <= b.start_s for a, b in pairwise(lines))
    for line in lines:
        assert line.text.strip()
        assert line.language == "en"
        assert 0 <= line.start_s < line.end_s <= length + 0.5
        assert line.offset_s <= line.start_s + 0.01
        assert line.offset_s + len(line.samples) / RATE >= line.end_s - 0.2
        if line.times:
            assert len(line.times) == len(tokens(line.text))
            assert all(0 <= t.start_s <= t.end_s and 0 <= t.support <= 1 for t in line.times)
            assert all(a.start_s <= b.start_s for a, b in pairwise(line.times))


def test_silence_has_no_lines(recogniser: Recogniser) -> None:
    assert recogniser.hear(np.zeros(RATE * 4, np.float32)) == []
    assert recogniser.hear(np.zeros(10, np.float32)) == []
    assert recogniser.hear(np.zeros(0, np.float32)) == []


def test_engines_say_what_they_are(recogniser: Recogniser) -> None:
    assert recogniser.name
    assert "en" in recogniser.languages


LINE = ("Welcome", "back", "to", "the", "mending", "room.")
TRUTH = json.loads((MEDIA / "counter.words.json").read_text())["words"][: len(LINE)]
LINE_END_S = TRUTH[-1]["end_us"] / 1e6 + 0.15


def test_words_are_found_in_order(aligner: Aligner) -> None:
    samples = np.concatenate(speech())[: int(LINE_END_S * RATE)]
    found = aligner.align(LINE, samples)
    assert len(found) == len(LINE)
    times = [t for t in found if t is not None]
    assert len(times) == len(LINE)
    assert all(a.end_s <= b.start_s + 1e-9 for a, b in pairwise(times))
    assert all(0 <= t.start_s <= t.end_s <= LINE_END_S and 0 <= t.support <= 1 for t in times)


@pytest.mark.parametrize("words", [(), ("…",), ("—", "…")])
def test_what_is_not_spoken_has_no_time(aligner: Aligner, words: tuple[str, ...]) -> None:
    assert aligner.align(words, np.concatenate(speech())[:RATE]) == [None] * len(words)


def test_hopeless_sound_is_no_fault(aligner: Aligner) -> None:
    for samples in (
        np.zeros(0, np.float32),
        np.zeros(100, np.float32),
        np.zeros(RATE // 4, np.float32),
    ):
        found = aligner.align(LINE, samples)
        assert len(found) == len(LINE)


def test_a_longer_text_is_less_likely(reader: LanguageModel) -> None:
    short, long = reader.likelihoods(["The kettle is", "The kettle is on the bench."])
    assert long < short < 0
    assert reader.likelihoods([]) == []
    assert reader.likelihoods(["The kettle is"])[0] == pytest.approx(short, rel=0.05)
    assert reader.likelihoods([""]) == [0.0]


@pytest.mark.parametrize("before", [[], ["We", "mend", "things."]])
def test_every_word_has_its_surprise(reader: LanguageModel, before: list[str]) -> None:
    words = ["“Bring", "your", "kettle,”", "13", "x" * 900, "😀", "naïve"]
    reading = reader.read(before, words)
    assert len(reading.surprises) == len(words)
    assert all(surprise > 0 for surprise in reading.surprises)
    assert list(reader.read(before, []).surprises) == []
    for index in range(len(words)):
        assert all(map(math.isfinite, reading.instead(index, ["kettle", "lid", "x" * 900])))
        assert reading.instead(index, []) == []


def test_a_word_is_as_likely_as_itself(reader: LanguageModel) -> None:
    words = ["We", "mend", "the", "lid"]
    reading = reader.read([], words)
    for index, word in enumerate(words):
        assert reading.instead(index, [word]) == [pytest.approx(0, abs=0.01)]
