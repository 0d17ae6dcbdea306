"""The engines with their answers on tape: a model is loaded only for what nobody has asked before."""

from __future__ import annotations

import base64
from collections.abc import Callable, Sequence
from dataclasses import asdict
from functools import cached_property
from pathlib import Path
from types import ModuleType
from typing import Any

import numpy as np

from mortiser.core.common.errors import BadInput
from mortiser.speech import language_model, moonshine, whisper
from mortiser.speech.conversion import converted
from mortiser.speech.models import languages_of
from mortiser.speech.protocols import RATE, HeardLine, Reading, Samples, WordTime
from tests.recorded.tape import Tape

HERE = Path(__file__).parent
TAPES = {name: Tape(HERE / f"{name}.jsonl") for name in ("quick", "wide", "reader")}


def put_in(engines: ModuleType) -> None:
    """Let the module of engines make recorded ones."""
    engines.MoonshineRecogniser = RecordedMoonshine
    engines.WhisperRecogniser = RecordedWhisper
    engines.SmallLanguageModel = RecordedLanguageModel
    engines.converted = lambda folder: folder


class RecordedMoonshine(moonshine.MoonshineRecogniser):
    def __init__(self) -> None:
        pass

    @cached_property
    def _real(self) -> moonshine.MoonshineRecogniser:
        return moonshine.MoonshineRecogniser()

    def hear(self, samples: Samples) -> list[HeardLine]:
        return _lines(
            samples,
            TAPES["quick"].answer(["hear"], lambda: _kept(self._real.hear, samples), samples),
        )


class RecordedWhisper(whisper.WhisperRecogniser):
    def __init__(self, folder: Path, language: str, hotwords: Sequence[str] = ()) -> None:
        self.languages = languages_of(folder)
        if language not in (*self.languages, whisper.SEVERAL):
            raise BadInput(f"The model in {folder} does not know the language “{language}”.")
        self._given = (folder, language, hotwords)

    @cached_property
    def _real(self) -> whisper.WhisperRecogniser:
        return whisper.WhisperRecogniser(*self._given)

    def _ask(self, what: list[object], samples: Samples, ask: Callable[[], Any]) -> Any:
        folder, language, hotwords = self._given
        return TAPES["wide"].answer([folder.name, language, *hotwords, *what], ask, samples)

    def hear(self, samples: Samples) -> list[HeardLine]:
        return _lines(
            samples, self._ask(["hear"], samples, lambda: _kept(self._real.hear, samples))
        )

    def translate(self, samples: Samples) -> list[HeardLine]:
        return _lines(
            samples, self._ask(["translate"], samples, lambda: _kept(self._real.translate, samples))
        )

    def align(self, words: Sequence[str], samples: Samples) -> list[WordTime | None]:
        found = self._ask(
            ["align", *words],
            samples,
            lambda: [time and asdict(time) for time in self._real.align(words, samples)],
        )
        return [time and WordTime(**time) for time in found]

    def language_of(self, samples: Samples) -> tuple[str, float]:
        language, sure = self._ask(["language"], samples, lambda: self._real.language_of(samples))
        return language, sure


class RecordedLanguageModel(language_model.SmallLanguageModel):
    def __init__(self, folder: Path) -> None:
        self._folder = folder

    @cached_property
    def _real(self) -> language_model.SmallLanguageModel:
        return language_model.SmallLanguageModel(converted(self._folder))

    def likelihoods(self, texts: Sequence[str]) -> list[float]:
        return TAPES["reader"].answer(
            ["likelihoods", *texts], lambda: self._real.likelihoods(texts)
        )

    def read(self, before: Sequence[str], words: Sequence[str]) -> Reading:
        return RecordedReading(lambda: self._real.read(before, words), [*before, "", *words])


class RecordedReading:
    def __init__(self, read: Callable[[], Reading], asked: list[str]) -> None:
        self._read, self._asked = read, asked

    @cached_property
    def _real(self) -> Reading:
        return self._read()

    @cached_property
    def surprises(self) -> Sequence[float]:
        return TAPES["reader"].answer(
            ["surprises", *self._asked], lambda: [round(v, 3) for v in self._real.surprises]
        )

    def instead(self, index: int, words: Sequence[str]) -> list[float]:
        def ask() -> str:
            found = np.array(self._real.instead(index, words), np.float16)
            return base64.b64encode(found.tobytes()).decode()

        said = TAPES["reader"].answer(["instead", *self._asked, index, *words], ask)
        return np.frombuffer(base64.b64decode(said), np.float16).astype(float).tolist()


def _kept(hear: Callable[[Samples], list[HeardLine]], samples: Samples) -> list[dict[str, Any]]:
    """Lines without their sound, which is a part of the one they were heard in."""
    kept = []
    for line in hear(samples):
        at = round(line.offset_s * RATE)
        assert np.array_equal(line.samples, samples[at : at + len(line.samples)])
        data = {key: value for key, value in vars(line).items() if key != "samples"}
        kept.append({**data, "length": len(line.samples), "times": [vars(t) for t in line.times]})
    return kept


def _lines(samples: Samples, kept: list[dict[str, Any]]) -> list[HeardLine]:
    lines = []
    for one in kept:
        data = dict(one)
        at, length = round(data["offset_s"] * RATE), data.pop("length")
        times = tuple(WordTime(**time) for time in data.pop("times"))
        lines.append(HeardLine(**data, samples=samples[at : at + length], times=times))
    return lines
