"""Stretches of a piece in which something besides the clips is seen: cut to a part of the piece, found by a moment."""

from __future__ import annotations

from bisect import bisect_right
from collections.abc import Sequence
from dataclasses import dataclass, replace
from operator import attrgetter
from typing import Self, TypeVar


@dataclass(frozen=True)
class Lasting:
    """From ``start_us`` to ``end_us`` of a piece; all of it, of which that may be a part, from ``from_us`` to
    ``to_us``."""

    start_us: int
    end_us: int
    from_us: int
    to_us: int

    def within(self, start_us: int, end_us: int) -> Self | None:
        """What of it lies in a stretch of the piece, by the time of that stretch."""
        start, end = max(start_us, self.start_us), min(end_us, self.end_us)
        if start >= end:
            return None
        return replace(
            self,
            start_us=start - start_us,
            end_us=end - start_us,
            from_us=self.from_us - start_us,
            to_us=self.to_us - start_us,
        )

    @property
    def lasts(self) -> str:
        """The same for the same times."""
        return f"{self.start_us}-{self.end_us}/{self.from_us}-{self.to_us}"


T = TypeVar("T", bound=Lasting)


def within(found: Sequence[T], start_us: int, end_us: int) -> tuple[T, ...]:
    """What lies in a stretch of the piece, by the time of that stretch."""
    parts = (one.within(start_us, end_us) for one in found)
    return tuple(part for part in parts if part is not None)


def lasting_at(found: Sequence[T], at_us: int) -> T | None:
    """The one that lasts at a moment; they are in order, and none lies over another."""
    index = bisect_right(found, at_us, key=attrgetter("start_us")) - 1
    return found[index] if index >= 0 and at_us < found[index].end_us else None
