"""When each part of a caption comes, and how long it may take, so that it can be read.

A part that comes as it is said has two thirds of the time until the next one comes, and a third of
what is left of the caption. What comes with the caption is all there within the first third.
"""

from __future__ import annotations

from collections.abc import Sequence

from mortiser.core.style.finish.motions import Entrance, Exit


def comings(
    entrance: Entrance, starts: Sequence[int], span: tuple[int, int]
) -> list[tuple[int, int]]:
    """(from, length) in piece µs of parts that are said from ``starts`` (in order) on."""
    start, end = span
    delay = entrance.delay_ms * 1000
    length = entrance.duration_ms * 1000
    if entrance.when == "spoken":
        nexts = [*starts[1:], end]
        found = []
        for at, after in zip(starts, nexts, strict=True):
            room = max(1, min((after - at) * 2 // 3, (end - at) // 3))
            late = min(delay, room // 2)
            found.append((at + late, max(1, min(length, room - late))))
        return found
    stagger = entrance.stagger_ms * 1000
    wanted = delay + stagger * (len(starts) - 1) + length
    squeeze = min(1.0, max(1, (end - start) // 3) / max(1, wanted))
    return [
        (start + int((delay + stagger * part) * squeeze), max(1, int(length * squeeze)))
        for part in range(len(starts))
    ]


def leavings(
    leaving: Exit, count: int, last_start_us: int, span: tuple[int, int]
) -> list[tuple[int, int]]:
    """(from, to) in piece µs within which each of ``count`` parts goes.

    All are gone when the caption ends; the last word keeps five sixths of its time.
    """
    start, end = span
    room = max(0, (end - max(start, last_start_us)) // 6)
    wanted = leaving.duration_ms * 1000 + leaving.stagger_ms * 1000 * (count - 1)
    squeeze = min(1.0, room / max(1, wanted))
    length = int(leaving.duration_ms * 1000 * squeeze)
    step = int(leaving.stagger_ms * 1000 * squeeze)
    firsts = [end - length - step * (count - 1 - part) for part in range(count)]
    return [(at, at + length) for at in firsts]
