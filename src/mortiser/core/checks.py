"""What is still worth a look in a piece."""

from __future__ import annotations

from mortiser.core.words import Word

DOUBT_BELOW = 0.86
"""Flags about one word in eleven (see core.doubt)."""


def doubtful(word: Word) -> bool:
    """A heard word that is not sure enough and was not settled by hand since."""
    return word.origin == "heard" and word.confidence is not None and word.confidence < DOUBT_BELOW
