"""What a speech engine and an aligner must be able to do. tests/contracts holds them to it."""

from __future__ import annotations

from collections.abc import Iterable, Sequence
from dataclasses import dataclass, replace
from typing import Protocol

import numpy as np
import numpy.typing as npt

from mortiser.core.transcript.words import Word

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
    the times (s from the first sample) of the text's words (see core.transcript.words.tokens) where the engine
    finds them itself.
    """

    text: str
    start_s: float
    end_s: float
    samples: Samples
    offset_s: float
    times: tuple[WordTime, ...] = ()
    language: str = "en"


def later(line: HeardLine, seconds: float) -> HeardLine:
    """The line in a stretch of sound that begins so much earlier."""
    return replace(
        line,
        start_s=line.start_s + seconds,
        end_s=line.end_s + seconds,
        offset_s=line.offset_s + seconds,
    )


class LanguageFinder(Protocol):
    """Tells languages apart."""

    def language_of(self, samples: Samples) -> tuple[str, float]:
        """The code of the language most likely spoken in some seconds of sound, and the chance."""


class Recogniser(Protocol):
    """Turns a stretch of sound into lines of text."""

    name: str
    languages: tuple[str, ...]
    stretch_s: float
    """How long a stretch it hears best, or quickest."""

    def hear(self, samples: Samples) -> list[HeardLine]:
        """The lines of at most chunks.MOST_S seconds, in order of time, counted from the first
        sample; silence gives none."""


class Reading(Protocol):
    """What a reader expected of a text, word by word."""

    @property
    def surprises(self) -> Sequence[float]:
        """How little each word was to be expected behind all words before it (nats, 0 or more)."""

    def instead(self, index: int, words: Sequence[str]) -> list[float]:
        """By how much likelier some other words are, each in the place of a word of the text, behind all words
        before it (nats, about)."""


class LanguageModel(Protocol):
    """Knows how usual a text is, without hearing anything."""

    def likelihoods(self, texts: Sequence[str]) -> list[float]:
        """How likely each text is, as a logarithm (nats); longer ones are less likely."""

    def read(self, before: Sequence[str], words: Sequence[str]) -> Reading:
        """Read words behind those before them."""


@dataclass(frozen=True)
class Ensemble:
    """Who hears and reads beside the first engine; any of them may be missing."""

    second: Recogniser | None = None
    third: Recogniser | None = None
    reader: LanguageModel | None = None


@dataclass(frozen=True)
class HeardChange:
    """Words ``first`` to ``end`` (exclusive) of a stretch are to be others; none of either side is
    an addition or something left out."""

    first: int
    end: int
    words: tuple[Word, ...]


@dataclass(frozen=True)
class Verdict:
    """``words``: those of a stretch with confidence and alternatives, nothing else changed, as they
    are wherever a change is not made. ``changes``: in order, none overlapping."""

    words: tuple[Word, ...]
    changes: tuple[HeardChange, ...]


@dataclass(frozen=True)
class Relistened:
    """A stretch of sound that begins at ``from_us``, and the words (source time) that others hear in it;
    None of an engine that is missing."""

    samples: Samples
    from_us: int
    second: Sequence[Word] | None = None
    third: Sequence[Word] | None = None


class SecondPass(Protocol):
    """Hears words again: says how sure they are, what else they may be, and which were misheard.

    A stretch may be listened to while the one before is judged; both in the order of the sound.
    """

    def listen(self, samples: Samples, from_us: int = 0) -> Relistened:
        """Hear a stretch of sound that begins at ``from_us``."""

    def judge(self, words: Sequence[Word], heard: Relistened) -> Verdict:
        """On the words (source time) of a stretch that was listened to."""


class Translator(Protocol):
    """Says in English what is said in another language."""

    def translate(self, samples: Samples) -> list[HeardLine]:
        """Lines in English of a stretch of sound, in order; the times of lines hold, not of words."""


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
