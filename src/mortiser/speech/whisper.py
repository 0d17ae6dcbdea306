"""The multilingual engine: Whisper by CTranslate2 (the library faster_whisper), 8-bit, on the CPU.

Its word times come from the cross-attention (Radford et al. 2022; dynamic time warping over the heads
that follow the sound) and are drawn to the onsets in the sound (see onsets). Where the voice activity
model that comes with the library (silero) finds no speech, nothing is heard.
"""

from __future__ import annotations

import os
from collections.abc import Sequence
from pathlib import Path
from types import SimpleNamespace
from typing import Any, Literal

from mortiser.core.common.errors import BadInput
from mortiser.core.transcript.unspaced import joined
from mortiser.core.transcript.words import tokens, word_key
from mortiser.speech.activity import passages
from mortiser.speech.chunks import LONG_S
from mortiser.speech.models import languages_of
from mortiser.speech.onsets import pulled
from mortiser.speech.protocols import RATE, HeardLine, Samples, WordTime, later

Aim = Literal["transcribe", "translate"]
BEAM = 5
COOLER = (0.0, 0.2, 0.4)
"""Temperatures tried in turn where a text repeats itself or is unlikely."""
LEAST_QUIET_MS = 1_000
MARGIN_S = 0.15
MOST_FRAMES = 3_000
"""Of 10 ms; the model was made for 30 s."""
MOST_TOKENS = 400
FRAME = RATE // 100
SEVERAL = "mul"
"""ISO 639-2 has this code for several languages."""
SURE = 0.6
"""A passage is taken to be in another language than the one before from this chance on."""


class WhisperRecogniser:
    """Recogniser of some ninety languages that brings word times of its own."""

    name = "whisper"
    stretch_s = LONG_S

    def __init__(self, folder: Path, language: str, hotwords: Sequence[str] = ()) -> None:
        """Load the model; SEVERAL finds the language out passage by passage.

        Raises BadInput when the folder or the language is not there.
        """
        self.languages = languages_of(folder)
        if language not in (*self.languages, SEVERAL):
            raise BadInput(f"The model in {folder} does not know the language “{language}”.")
        self._language = language
        self._last: str | None = None
        # Loading the library takes a second that only those who hear should spend.
        from faster_whisper import WhisperModel

        self._hotwords = ", ".join(hotwords) or None
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
        if self._language != SEVERAL:
            return self._lines(samples, self._language, "transcribe")
        lines: list[HeardLine] = []
        for start_s, end_s in passages(samples):
            part = samples[int(start_s * RATE) : int(end_s * RATE)]
            language, sure = self.language_of(part)
            if sure >= SURE:
                self._last = language
            lines += [later(line, start_s) for line in self._lines(part, self._last, "transcribe")]
        return lines

    def translate(self, samples: Samples) -> list[HeardLine]:
        """Lines in English of what is said in another language; their word times are rough."""
        language = None if self._language == SEVERAL else self._language
        return self._lines(samples, language, "translate")

    def align(self, words: Sequence[str], samples: Samples) -> list[WordTime | None]:
        """See Aligner; for languages that no other one knows. Sound over half a minute is not searched."""
        if not any(map(word_key, words)) or not RATE // 10 < len(samples) <= MOST_FRAMES * FRAME:
            return [None] * len(words)
        from faster_whisper.audio import pad_or_trim

        features = self._model.feature_extractor(samples)
        tokenizer = self._tokenizer()
        text = tokenizer.encode(f" {joined(words)}")
        if len(text) > MOST_TOKENS:
            return [None] * len(words)
        encoded = self._model.encode(pad_or_trim(features, MOST_FRAMES))
        count = min(features.shape[-1], MOST_FRAMES)
        (found,) = self._model.find_alignment(tokenizer, [text], encoded, count)
        parts = [SimpleNamespace(**part) for part in found if part["word"].strip()]
        times = pulled(_by_token(words, parts), samples)
        return [
            time if any(map(str.isalnum, word)) else None
            for word, time in zip(words, times, strict=True)
        ]

    def _tokenizer(self) -> Any:
        from faster_whisper.tokenizer import Tokenizer

        language = (self._last or "en") if self._language == SEVERAL else self._language
        return Tokenizer(self._model.hf_tokenizer, True, task="transcribe", language=language)

    def language_of(self, samples: Samples) -> tuple[str, float]:
        """The language most likely spoken in at most 30 s of sound, and how likely it is (0 to 1)."""
        language, sure, _ = self._model.detect_language(samples, vad_filter=True)
        return str(language), float(sure)

    def _lines(self, samples: Samples, language: str | None, aim: Aim) -> list[HeardLine]:
        if len(samples) < RATE // 10:
            return []
        segments, info = self._model.transcribe(
            samples,
            language=language,
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
    times = pulled(_by_token(tokens(text), parts), samples)
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


def _by_token(words: Sequence[str], parts: Sequence[Any]) -> list[WordTime]:
    """A time for each word as Mortiser cuts a text, from the engine's parts of the same text.

    Where a script has no spaces the engine's parts are letters, several to a word.
    """
    owner = [part for part in parts for letter in part.word if not letter.isspace()]
    times: list[WordTime] = []
    at = 0
    for token in words:
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
