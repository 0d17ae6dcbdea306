"""What is still worth a look in a piece."""

from __future__ import annotations

from mortiser.core.words import Word

DOUBT_BELOW = 0.84
"""Measured: this flags 62 % of the wrong words and 11.5 % of all (see core.doubt)."""


def doubtful(word: Word) -> bool:
    """A heard word that is not sure enough and was not settled by hand since."""
    return word.origin == "heard" and word.confidence is not None and word.confidence < DOUBT_BELOW
