"""How alike two runs of phones (ARPAbet, without stress) sound."""

from __future__ import annotations

from collections.abc import Sequence
from typing import Protocol

from rapidfuzz.distance import Levenshtein

_ALIKE = (
    "IY IH EY EH AE AA AO AH UH UW OW AW AY OY ER", "Y", "W", "R", "P B", "T D", "K G", "F V",
    "TH DH", "S Z", "SH ZH CH JH", "M N NG", "L", "HH",
)  # fmt: skip
_CLASS = {
    phone: chr(ord("a") + number) for number, line in enumerate(_ALIKE) for phone in line.split()
}

Phones = tuple[str, ...]

OTHER = "?"
"""Stands for what is no phone."""
COARSE = 0.6
"""Weight of the classes; with it 20 made-up names were told from 58,000 other words best."""


class Sounds(Protocol):
    """How written words are said."""

    def phones(self, text: str) -> Phones:
        """The phones of a text; () for what is not spoken."""

    def variants(self, text: str) -> list[Phones]:
        """All ways a text may be said, the likeliest first; never empty."""

    def known(self, word: str) -> bool:
        """Whether a dictionary has the word."""


def difference(one: Sequence[str], other: Sequence[str]) -> float:
    """0 for the same sound, 1 for nothing in common.

    Two edit distances over the longer length, weighed: of the phones, and of their classes, so that
    a vowel for a vowel or a voiced consonant for its unvoiced one counts less than half.
    """
    coarse = (classes(side) for side in (one, other))
    fine = Levenshtein.normalized_distance(one, other)
    return (1 - COARSE) * fine + COARSE * Levenshtein.normalized_distance(*coarse)


def classes(phones: Sequence[str]) -> str:
    """A letter for the class of each phone: all vowels alike, and a voiced consonant and its unvoiced one."""
    return "".join(_CLASS.get(phone, OTHER) for phone in phones)
