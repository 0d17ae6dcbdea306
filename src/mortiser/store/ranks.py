"""Ranks of rows in an order, with room between them: a row is put anywhere without touching the others."""

from __future__ import annotations

from bisect import bisect_left
from collections.abc import Sequence

GAP = 1 << 20
"""Between ranks that are given anew; 20 rows in one place after another find room."""


def ranked(known: Sequence[int | None]) -> list[int]:
    """Rising ranks for rows in their order, by the ranks they have (None for new ones).

    As many rows as can keep theirs; all get new ones where there is no room left between two.
    """
    ranks: list[int | None] = [None] * len(known)
    for index in _rising(known):
        ranks[index] = known[index]
    at = 0
    while at < len(ranks):
        end = at
        while end < len(ranks) and ranks[end] is None:
            end += 1
        if end > at and not _fill(ranks, at, end):
            return [GAP * place for place in range(len(known))]
        at = max(end, at + 1)
    return [rank for rank in ranks if rank is not None]


def _fill(ranks: list[int | None], first: int, end: int) -> bool:
    """Give a run of rows ranks between those around it; whether there was room."""
    low = ranks[first - 1] if first else None
    high = ranks[end] if end < len(ranks) else None
    count = end - first
    if low is None and high is None:
        low = -GAP
    if high is None:
        step, low = GAP, low or 0
    elif low is None:
        step, low = GAP, high - (count + 1) * GAP
    else:
        step = (high - low) // (count + 1)
    for place in range(count):
        ranks[first + place] = low + step * (place + 1)
    return step > 0


def _rising(known: Sequence[int | None]) -> list[int]:
    """The places of a longest run of rising ranks."""
    tails: list[int] = []
    values: list[int] = []
    before: dict[int, int | None] = {}
    for index, rank in enumerate(known):
        if rank is None:
            continue
        at = bisect_left(values, rank)
        before[index] = tails[at - 1] if at else None
        tails[at : at + 1] = [index]
        values[at : at + 1] = [rank]
    found: list[int] = []
    last = tails[-1] if tails else None
    while last is not None:
        found.append(last)
        last = before[last]
    return found[::-1]
