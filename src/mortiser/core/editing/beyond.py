"""The sentences of a source beside what was put into a piece."""

from __future__ import annotations

from collections.abc import Sequence
from typing import Literal

from mortiser.core.editing.strand import Strand
from mortiser.core.transcript.sentences import sentences
from mortiser.core.transcript.words import Word

Side = Literal["before", "behind"]


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
