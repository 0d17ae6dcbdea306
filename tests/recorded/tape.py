"""Answers of engines, kept in a file, a line each; processes add to it side by side.

A sound is recognised by how loud it is: samples differ in their last bits from machine to machine.
"""

from __future__ import annotations

import base64
import fcntl
import hashlib
import json
from collections.abc import Callable, Sequence
from pathlib import Path
from typing import Any

import numpy as np

WINDOW = 800
"""Samples (50 ms) whose loudness is compared, of 255 steps."""


class Tape:
    """The answers in one file. What is not in it is asked for, and added."""

    def __init__(self, file: Path) -> None:
        self._file = file
        self._kept: dict[str, list[dict[str, Any]]] | None = None

    def answer(
        self, question: Sequence[object], ask: Callable[[], Any], sound: np.ndarray | None = None
    ) -> Any:
        """The kept answer to a question about a sound, as JSON holds it; else what ``ask`` gives."""
        heard = [] if sound is None else _loudness(sound)
        named = json.dumps([*question, len(heard)])
        key = named if len(named) < 200 else hashlib.sha1(named.encode()).hexdigest()
        if self._kept is None:
            self._kept = self._read()
        for one in self._kept.get(key, ()):
            if _alike(base64.b64decode(one["heard"]), heard):
                return one["answer"]
        answer = json.loads(json.dumps(ask()))
        entry = {
            "asked": key,
            "heard": base64.b64encode(bytes(heard)).decode(),
            "answer": answer,
        }
        self._kept.setdefault(key, []).append(entry)
        self._add(json.dumps(entry, ensure_ascii=False))
        return answer

    def _read(self) -> dict[str, list[dict[str, Any]]]:
        kept: dict[str, list[dict[str, Any]]] = {}
        if self._file.exists():
            for line in self._file.read_text("utf-8").splitlines():
                one = json.loads(line)
                kept.setdefault(one["asked"], []).append(one)
        return kept

    def _add(self, line: str) -> None:
        with self._file.open("a", encoding="utf-8") as out:
            fcntl.flock(out, fcntl.LOCK_EX)
            out.write(line + "\n")


def _loudness(sound: np.ndarray) -> list[int]:
    whole = np.pad(sound, (0, -len(sound) % WINDOW)).reshape(-1, WINDOW)
    return [int(v) for v in np.clip(255 * np.sqrt((whole**2).mean(axis=1)), 0, 255)]


def _alike(one: bytes, other: Sequence[int]) -> bool:
    return all(abs(a - b) <= 1 for a, b in zip(one, other, strict=True))
