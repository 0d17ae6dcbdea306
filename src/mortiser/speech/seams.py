"""What a speech engine and an aligner must be able to do. tests/contracts holds them to it."""

from __future__ import annotations

from collections.abc import Iterable, Iterator, Sequence
from dataclasses import dataclass
from typing import Protocol

import numpy as np
import numpy.typing as npt

from mortiser.core.words import Word

RATE = 16_000
Samples = npt.NDArray[np.float32]


@dataclass(frozen=True)
class WordTime:
    """Where a word was found (s) and how well the sound supports it (0 to 1)."""

    start_s: float
    end_s: float
    support: float


@dataclass(frozen=True)
class HeardLine:
    """A stretch of speech: its text, where it lies (s) and its sound, shape (n,) at RATE.

    ``offset_s`` is the time of the first sample; it may lie a little before ``start_s``. ``times`` has
    the word times (s from the first sample) of an engine that finds them itself.
    """

    text: str
    start_s: float
    end_s: float
    samples: Samples
    offset_s: float
    times: tuple[WordTime, ...] = ()


class Recogniser(Protocol):
    """Turns sound into lines of text, in order of time, as it reads the sound.

    Lines come as soon as they are complete; silence gives none. Memory must not grow with the
    length of the sound.
    """

    name: str
    languages: tuple[str, ...]

    def hear(self, sound: Iterable[Samples]) -> Iterator[HeardLine | float]:
        """Yield lines, and between them how many seconds of sound are done (for progress)."""


class Judge(Protocol):
    """Says how sure heard words are, and what else they may be."""

    def judge(self, words: Sequence[Word], samples: Samples) -> list[Word]:
        """The words of a stretch of sound with confidence and alternatives, nothing else changed."""


class SpeakerFinder(Protocol):
    """Tells apart who speaks."""

    def find(self, sound: Iterable[Samples], words: Sequence[Word]) -> list[int]:
        """A number for each word's speaker, counted from 0 in the order they first speak."""


class Aligner(Protocol):
    """Finds known words in a stretch of sound."""

    def align(self, words: Sequence[str], samples: Samples) -> list[WordTime | None]:
        """A time for each word, from the first sample on; None where it was not found.

        Times are in order and do not overlap.
        """
