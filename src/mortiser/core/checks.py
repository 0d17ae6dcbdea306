"""What is still worth a look in a piece."""

from __future__ import annotations

from mortiser.core.words import Word

DOUBT_BELOW = 0.5


def doubtful(word: Word) -> bool:
    """A word heard with less than even confidence and not settled by hand since."""
    return word.origin == "heard" and word.confidence is not None and word.confidence < DOUBT_BELOW
