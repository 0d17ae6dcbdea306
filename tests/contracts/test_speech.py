"""What every recogniser and aligner must do; the real ones are held to it on real speech."""

import json
import os
import sys
from collections.abc import Iterable, Iterator
from itertools import pairwise
from pathlib import Path

import numpy as np
import pytest

from mortiser.media.sound import stream_sound
from mortiser.speech.folder_model import FolderRecogniser
from mortiser.speech.moonshine import MoonshineRecogniser
from mortiser.speech.seams import RATE, Aligner, HeardLine, Recogniser, Samples, WordTime
from mortiser.speech.sphinx import SphinxAligner
from tests.recordings import COUNTER, MEDIA
from tests.speech import standin_model


class PlainRecogniser:
    """Hears “tone” wherever there is sound: enough to test what is built on the seam."""

    name = "plain"
    languages: tuple[str, ...] = ("en",)

    def hear(self, sound: Iterable[Samples]) -> Iterator[HeardLine | float]:
        at = 0
        for samples in sound:
            start, end = at / RATE, (at + len(samples)) / RATE
            if len(samples) and np.abs(samples).max() > 0.05:
                yield HeardLine("tone tone", start, end, samples, start)
            at += len(samples)
            yield end


class EvenAligner:
    """Gives every word the same share of the sound."""

    def align(self, words, samples: Samples) -> list[WordTime | None]:
        each = len(samples) / RATE / max(1, len(words))
        return [
            WordTime(i * each, (i + 1) * each, 0.9) if any(map(str.isalnum, word)) else None
            for i, word in enumerate(words)
        ]


@pytest.fixture(scope="module", params=[PlainRecogniser, MoonshineRecogniser, FolderRecogniser])
def recogniser(
    request: pytest.FixtureRequest, tmp_path_factory: pytest.TempPathFactory
) -> Iterator[Recogniser]:
    if request.param is not FolderRecogniser:
        yield request.param()
        return
    # A real model is used where there is one: MORTISER_MODEL_FOLDER names its folder.
    own = os.environ.get("MORTISER_MODEL_FOLDER")
    with pytest.MonkeyPatch.context() as patch:
        if own is None:
            patch.setitem(sys.modules, "faster_whisper", standin_model.library())
            own = str(standin_model.make_folder(tmp_path_factory.mktemp("model")))
        yield FolderRecogniser(Path(own), "en")


@pytest.fixture(scope="module", params=[EvenAligner, SphinxAligner])
def aligner(request: pytest.FixtureRequest) -> Aligner:
    return request.param()


def speech() -> list[Samples]:
    return list(stream_sound(COUNTER))


def test_lines_come_in_order_and_progress_grows(recogniser: Recogniser) -> None:
    items = list(recogniser.hear(speech()))
    lines = [i for i in items if isinstance(i, HeardLine)]
    done = [i for i in items if isinstance(i, float)]
    length = sum(map(len, speech())) / RATE
    assert lines
    assert all(a.start_s <= b.start_s for a, b in pairwise(lines))
    assert all(a <= b for a, b in pairwise(done))
    assert done[-1] == pytest.approx(length, abs=0.01)
    for line in lines:
        assert line.text.strip()
        assert 0 <= line.start_s < line.end_s <= length + 0.5
        assert line.offset_s <= line.start_s + 0.01
        assert line.offset_s + len(line.samples) / RATE >= line.end_s - 0.2


def test_silence_has_no_lines(recogniser: Recogniser) -> None:
    quiet = [np.zeros(RATE, np.float32)] * 4
    assert [i for i in recogniser.hear(quiet) if isinstance(i, HeardLine)] == []
    assert [i for i in recogniser.hear([]) if isinstance(i, HeardLine)] == []


def test_the_first_line_comes_before_the_sound_is_all_read(recogniser: Recogniser) -> None:
    read = 0.0

    def counted() -> Iterator[Samples]:
        nonlocal read
        for _ in range(3):
            for samples in speech():
                read += len(samples) / RATE
                yield samples

    next(i for i in recogniser.hear(counted()) if isinstance(i, HeardLine))
    assert read < 20


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
