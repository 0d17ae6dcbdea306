"""Find known words in a stretch of sound and give each a time, also those that were not found."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import replace

from mortiser.core.common.time import SECOND
from mortiser.core.transcript.carry import spread
from mortiser.core.transcript.words import Origin, Word
from mortiser.speech.protocols import Aligner, Samples


def placed(
    texts: Sequence[str],
    samples: Samples,
    offset_us: int,
    room: tuple[int, int],
    aligner: Aligner,
    origin: Origin,
) -> list[Word]:
    """Words in source time within ``room`` (µs); sample 0 of the sound lies at ``offset_us``.

    What was not found shares the time between its neighbours by its likely length and is marked
    as not aligned.
    """
    found = aligner.align(texts, samples)
    low, high = room
    words: list[Word] = []
    at = 0
    while at < len(texts):
        time = found[at]
        left = words[-1].end_us if words else low
        if time is not None:
            start = min(max(offset_us + round(time.start_s * SECOND), left), high)
            end = min(max(offset_us + round(time.end_s * SECOND), start), high)
            words.append(Word(texts[at], start, end, None, None, origin))
            at += 1
            continue
        stop = at
        while stop < len(texts) and found[stop] is None:
            stop += 1
        after = found[stop] if stop < len(texts) else None
        right = offset_us + round(after.start_s * SECOND) if after else high
        right = max(left, min(right, high))
        words += [replace(w, origin=origin) for w in spread(texts[at:stop], left, right)]
        at = stop
    return words
