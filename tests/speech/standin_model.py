"""A model folder and a library to load it, for holding the adapter to the contract without a model.

The library answers as ``faster_whisper`` 1.2 does: ``transcribe`` gives segments lazily, each with
words that carry their own times.
"""

import json
from collections.abc import Iterator
from pathlib import Path
from types import ModuleType, SimpleNamespace

import numpy as np

RATE = 16_000


def make_folder(folder: Path) -> Path:
    folder.mkdir(parents=True, exist_ok=True)
    (folder / "model.bin").write_bytes(b"stand-in")
    (folder / "config.json").write_text("{}")
    tokens = [{"content": f"<|{text}|>"} for text in ("en", "de", "yue", "transcribe", "0.00")]
    (folder / "tokenizer.json").write_text(json.dumps({"added_tokens": tokens}))
    return folder


class WhisperModel:
    def __init__(self, path: str, device: str, compute_type: str, local_files_only: bool) -> None:
        assert local_files_only
        if (Path(path) / "model.bin").read_bytes() != b"stand-in":
            raise RuntimeError("Unsupported model binary version.")

    def transcribe(self, audio, language, word_timestamps, condition_on_previous_text):
        assert audio.dtype == np.float32
        assert word_timestamps
        return self._segments(audio, language), SimpleNamespace(language=language)

    def _segments(self, audio: np.ndarray, language: str) -> Iterator[SimpleNamespace]:
        loud = np.nonzero(np.abs(audio) > 0.05)[0]
        if not len(loud):
            return
        start, end = loud[0] / RATE, (loud[-1] + 1) / RATE
        middle = (start + end) / 2
        texts = {"de": (" Ton", " Ton.")}.get(language, (" tone", " tone."))
        words = [
            SimpleNamespace(word=texts[0], start=start, end=middle, probability=0.9),
            SimpleNamespace(word=texts[1], start=middle, end=end, probability=0.5),
        ]
        yield SimpleNamespace(start=start, end=end, text="".join(texts), words=words)
        yield SimpleNamespace(start=end, end=end, text="", words=None)


def library() -> ModuleType:
    module = ModuleType("faster_whisper")
    module.WhisperModel = WhisperModel  # type: ignore[attr-defined]
    return module
