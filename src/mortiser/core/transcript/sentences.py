"""The sentences of a transcript, and those beside what was put into a piece."""

from __future__ import annotations

from collections.abc import Sequence
from typing import Literal

from mortiser.core.captions.grouping import ends_sentence
from mortiser.core.common.time import MILLISECOND
from mortiser.core.editing.strand import Strand
from mortiser.core.transcript.words import Word

PARTED_US = 900 * MILLISECOND
"""So long a quiet ends a sentence, whatever its last word looks like."""

Side = Literal["before", "behind"]


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


def beyond(
    strand: Strand, words: Sequence[Word], reach: tuple[int, int], side: Side
) -> Sequence[Word]:
    """The sentence (or what is left of it) that comes before or behind a strand in its source, within its
    reach; none where nothing is said there. ``words`` are the source's, in time order."""
    low, high = reach
    if side == "before":
        there = [word for word in words if low <= word.middle_us < strand.start_us]
        found = sentences(there)[-1:]
    else:
        there = [word for word in words if strand.end_us < word.middle_us <= high]
        found = sentences(there)[:1]
    return [word for first, last in found for word in there[first : last + 1]]
