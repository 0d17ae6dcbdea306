"""What is still worth a look in a piece: doubtful words and captions with odd timing."""

from __future__ import annotations

from collections.abc import Iterable, Sequence

from mortiser.core.time import MILLISECOND
from mortiser.core.words import Cue, Word

DOUBT_BELOW = 0.5
FLICKER_US = 120 * MILLISECOND
LATE_US = 80 * MILLISECOND


def doubtful(word: Word) -> bool:
    """A word heard with less than even confidence and not settled by hand since."""
    return word.origin == "heard" and word.confidence is not None and word.confidence < DOUBT_BELOW


def count_doubts(words: Iterable[Word]) -> int:
    """How many words are doubtful."""
    return sum(map(doubtful, words))


def odd_times(cues: Sequence[Cue]) -> set[int]:
    """Ids of cues that overlap or nearly touch the next one, or leave before their voice does.

    Cues are in time order; piece time and source time are compared as they are, so this is
    for pieces of one span that starts at the source's start.
    """
    odd: set[int] = set()
    for cue in cues:
        if cue.start_us > cue.words[0].start_us + LATE_US or cue.end_us < cue.words[-1].end_us:
            odd.add(cue.id)
    for cue, after in zip(cues, cues[1:], strict=False):
        gap = after.start_us - cue.end_us
        if gap < 0 or 0 < gap < FLICKER_US:
            odd.add(cue.id)
    return odd
