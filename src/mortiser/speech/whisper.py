"""The multilingual engine: Whisper by CTranslate2 (the library faster_whisper), 8-bit, on the CPU.

Its word times come from the cross-attention (Radford et al. 2022; dynamic time warping over the heads
that follow the sound) and are drawn to the onsets in the sound (see onsets). Where the voice activity
model that comes with the library (silero) finds no speech, nothing is heard.
"""

from __future__ import annotations

import os
from collections.abc import Sequence
from pathlib import Path
from typing import Any, Literal

from mortiser.core.errors import BadInput
from mortiser.core.words import tokens
from mortiser.speech.chunks import LONG_S
from mortiser.speech.models import languages_of
from mortiser.speech.onsets import pulled
from mortiser.speech.seams import RATE, HeardLine, Samples, WordTime

Aim = Literal["transcribe", "translate"]
BEAM = 5
COOLER = (0.0, 0.2, 0.4)
"""Temperatures tried in turn where a text repeats itself or is unlikely."""
LEAST_QUIET_MS = 1_000
MARGIN_S = 0.15


class WhisperRecogniser:
    """Recogniser of some ninety languages that brings word times of its own."""

    name = "whisper"
    stretch_s = LONG_S

    def __init__(
        self, folder: Path, language: str | None = None, hotwords: Sequence[str] = ()
    ) -> None:
        """Load the model. Raises BadInput when the folder or the language is not there."""
        self.languages = languages_of(folder)
        if language is not None and language not in self.languages:
            raise BadInput(f"The model in {folder} does not know the language “{language}”.")
        self._language = language
        self._hotwords = ", ".join(hotwords) or None
        from faster_whisper import WhisperModel

        try:
            self._model: Any = WhisperModel(
                str(folder),
                device="cpu",
                compute_type="int8",
                cpu_threads=min(4, os.cpu_count() or 1),
                local_files_only=True,
            )
        except (RuntimeError, ValueError, OSError) as error:
            raise BadInput(f"The model in {folder} cannot be loaded: {error}") from error

    def hear(self, samples: Samples) -> list[HeardLine]:
        """See Recogniser."""
        return self._lines(samples, "transcribe")

    def translate(self, samples: Samples) -> list[HeardLine]:
        """Lines in English of what is said in another language; their word times are rough."""
        return self._lines(samples, "translate")

    def language_of(self, samples: Samples) -> tuple[str, float]:
        """The language most likely spoken in at most 30 s of sound, and how likely it is (0 to 1)."""
        language, sure, _ = self._model.detect_language(samples, vad_filter=True)
        return str(language), float(sure)

    def _lines(self, samples: Samples, aim: Aim) -> list[HeardLine]:
        if len(samples) < RATE // 10:
            return []
        segments, info = self._model.transcribe(
            samples,
            language=self._language,
            task=aim,
            beam_size=BEAM,
            temperature=COOLER,
            word_timestamps=True,
            condition_on_previous_text=False,
            vad_filter=True,
            vad_parameters={"min_silence_duration_ms": LEAST_QUIET_MS},
            hotwords=self._hotwords,
        )
        lines = [
            _line(one, samples, info.language if aim == "transcribe" else "en") for one in segments
        ]
        return [line for line in lines if line is not None]


def _line(segment: Any, samples: Samples, language: str) -> HeardLine | None:
    parts = [word for word in segment.words or () if word.word.strip()]
    if not parts:
        return None
    text = "".join(part.word for part in parts).strip()
    times = pulled(_by_token(text, parts), samples)
    cut = max(0, int((times[0].start_s - MARGIN_S) * RATE))
    return HeardLine(
        text,
        times[0].start_s,
        times[-1].end_s,
        samples[cut : int((times[-1].end_s + MARGIN_S) * RATE) + 1],
        cut / RATE,
        tuple(WordTime(t.start_s - cut / RATE, t.end_s - cut / RATE, t.support) for t in times),
        language,
    )


def _by_token(text: str, parts: Sequence[Any]) -> list[WordTime]:
    """A time for each word of a text as Mortiser cuts it, from the engine's parts of the same text.

    Where a script has no spaces the engine's parts are letters, several to a word.
    """
    owner = [part for part in parts for letter in part.word if not letter.isspace()]
    times: list[WordTime] = []
    at = 0
    for token in tokens(text):
        mine = owner[at : at + len(token)] or owner[-1:]
        at += len(token)
        times.append(
            WordTime(
                float(mine[0].start),
                max(float(mine[0].start), float(mine[-1].end)),
                float(min(part.probability for part in mine)),
            )
        )
    return times
