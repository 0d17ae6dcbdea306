"""How alike two runs of phones (ARPAbet, without stress) sound."""

from __future__ import annotations

from collections.abc import Sequence
from typing import Protocol

from rapidfuzz.distance import Levenshtein

_ALIKE = (
    "IY IH EY EH AE Y", "AA AO AH UH UW OW AW W", "AY OY", "ER R", "P B", "T D", "K G", "F V",
    "TH DH", "S Z", "SH ZH CH JH", "M N NG", "L", "HH",
)  # fmt: skip
_CLASS = {phone: str(number) for number, line in enumerate(_ALIKE) for phone in line.split()}

Phones = tuple[str, ...]


class Sounds(Protocol):
    """How written words are said."""

    def phones(self, text: str) -> Phones:
        """The phones of a text; () for what is not spoken."""

    def known(self, word: str) -> bool:
        """Whether a dictionary has the word."""


def difference(one: Sequence[str], other: Sequence[str]) -> float:
    """0 for the same sound, 1 for nothing in common.

    The mean of two edit distances over the longer length: of the phones, and of their classes, so
    that a vowel for a like vowel or a voiced consonant for its unvoiced one counts half.
    """
    coarse = [[_CLASS.get(phone, phone) for phone in side] for side in (one, other)]
    fine = Levenshtein.normalized_distance(one, other)
    return (fine + Levenshtein.normalized_distance(*coarse)) / 2
