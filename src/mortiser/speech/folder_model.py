"""A multilingual engine for a model folder of the user's own (CTranslate2 files).

Needs the optional dependency: ``pip install "mortiser[multilingual]"``, and MORTISER_MODEL_FOLDER
set to the folder. Nothing is fetched: the folder must have the model's own files.
"""

from __future__ import annotations

import importlib
import json
import re
from collections.abc import Iterable, Iterator
from pathlib import Path
from typing import Any

from mortiser.core.errors import BadInput
from mortiser.speech.chunks import chunks
from mortiser.speech.seams import RATE, HeardLine, Samples, WordTime

LIBRARY = "faster_whisper"
NEEDED = ("model.bin", "config.json", "tokenizer.json")
_LANGUAGE = re.compile(r"<\|([a-z]{2,3})\|>")


class FolderRecogniser:
    """Recogniser that brings its own word times, since the aligner knows English alone."""

    name = "folder model"

    def __init__(self, folder: Path, language: str) -> None:
        """Load the model. Raises BadInput when the folder or the library is not there."""
        self.languages = languages_of(folder)
        if language not in self.languages:
            raise BadInput(f"The model in {folder} does not know the language “{language}”.")
        self._language = language
        try:
            library = importlib.import_module(LIBRARY)
        except ImportError as error:
            raise BadInput(
                'The multilingual engine is not installed. Run: pip install "mortiser[multilingual]"'
            ) from error
        try:
            self._model: Any = library.WhisperModel(
                str(folder), device="cpu", compute_type="int8", local_files_only=True
            )
        except (RuntimeError, ValueError, OSError) as error:
            raise BadInput(f"The model in {folder} cannot be loaded: {error}") from error

    def hear(self, sound: Iterable[Samples]) -> Iterator[HeardLine | float]:
        """See Recogniser."""
        for start_s, samples in chunks(sound):
            found, _ = self._model.transcribe(
                samples,
                language=self._language,
                word_timestamps=True,
                condition_on_previous_text=False,
            )
            for segment in found:
                yield from _line(segment, start_s, samples)
            yield start_s + len(samples) / RATE


def languages_of(folder: Path) -> tuple[str, ...]:
    """The language codes that a model's own vocabulary names. Raises BadInput."""
    missing = [name for name in NEEDED if not (folder / name).is_file()]
    if missing:
        raise BadInput(f"There is no model in {folder}: {', '.join(missing)} is missing.")
    try:
        tokens = json.loads((folder / "tokenizer.json").read_text(encoding="utf-8"))["added_tokens"]
        found = [_LANGUAGE.fullmatch(token["content"]) for token in tokens]
    except (ValueError, KeyError, TypeError) as error:
        raise BadInput(f"The vocabulary in {folder} cannot be read.") from error
    return tuple(sorted(match.group(1) for match in found if match)) or ("en",)


def _line(segment: Any, start_s: float, samples: Samples) -> Iterator[HeardLine]:
    words = [word for word in segment.words or () if word.word.strip()]
    if not words:
        return
    first, last = float(words[0].start), float(words[-1].end)
    cut = max(0, int(first * RATE))
    yield HeardLine(
        " ".join(word.word.strip() for word in words),
        start_s + first,
        start_s + last,
        samples[cut : int(last * RATE) + 1],
        start_s + cut / RATE,
        tuple(
            WordTime(
                float(word.start) - cut / RATE,
                float(word.end) - cut / RATE,
                float(word.probability),
            )
            for word in words
        ),
    )
