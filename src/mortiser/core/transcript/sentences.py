"""The sentences of a transcript, and how they end."""

from __future__ import annotations

from collections.abc import Sequence

from mortiser.core.common.time import MILLISECOND
from mortiser.core.transcript.words import Word

PARTED_US = 900 * MILLISECOND
"""So long a quiet ends a sentence, whatever its last word looks like."""


_QUOTES = "\"'”’)]"


def ends_sentence(text: str) -> bool:
    """Whether a word ends a sentence."""
    return text.rstrip(_QUOTES).endswith((".", "!", "?", "…"))


def ends_clause(text: str) -> bool:
    """Whether a word ends a clause inside a sentence."""
    return text.rstrip(_QUOTES).endswith((",", ";", ":", "–", "—"))


def sentences(words: Sequence[Word]) -> list[tuple[int, int]]:
    """The first and last word (by their places) of each sentence of a source, in time order.

    A sentence ends with its last word's sign, at a long quiet, or where another one speaks.
    """
    found: list[tuple[int, int]] = []
    first = 0
    for at, word in enumerate(words):
        after = words[at + 1] if at + 1 < len(words) else None
        if (
            after is None
            or ends_sentence(word.text)
            or after.start_us - word.end_us >= PARTED_US
            or after.speaker != word.speaker
        ):
            found.append((first, at))
            first = at + 1
    return found
