"""Put typed words on their sound, between the words that already are.

A word that was typed where another stood, or where none did, has an estimated time until it has been
found in the sound. Words that are on their sound already keep their times to the microsecond.
"""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import replace

from mortiser.core.transcript.words import AnyWord

LEAST_SHARE = 0.5
"""A place is taken only if at least this share of the found length fits between the neighbours."""


def realigned(
    words: Sequence[AnyWord], found: Sequence[tuple[int, int] | None], room: tuple[int, int]
) -> list[AnyWord]:
    """The words with the estimated ones at the times (µs) where they were ``found``, in order.

    ``room`` is the time that may be used around the words. A word that was not found, or
    whose place is taken by words on their sound, keeps its estimated time, moved aside if needed.
    """
    result: list[AnyWord] = []
    for index, (word, place) in enumerate(zip(words, found, strict=True)):
        if word.aligned:
            result.append(word)
            continue
        left = result[-1].end_us if result else room[0]
        right = next((w.start_us for w in words[index + 1 :] if w.aligned), room[1])
        if place is not None:
            start, end = max(place[0], left), min(place[1], right)
            if end - start >= LEAST_SHARE * (place[1] - place[0]) and end > start:
                result.append(replace(word, start_us=start, end_us=end, aligned=True))
                continue
        start = min(max(word.start_us, left), max(left, right))
        end = min(max(word.end_us, start), max(start, right))
        result.append(replace(word, start_us=start, end_us=end))
    return result
