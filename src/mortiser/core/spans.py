"""Kept spans: how source time and piece time map onto each other."""

from __future__ import annotations

from bisect import bisect_left, bisect_right
from collections.abc import Sequence
from dataclasses import dataclass
from itertools import accumulate


@dataclass(frozen=True, slots=True)
class Span:
    """A kept stretch of a source, half open: ``[start_us, end_us)`` in source time."""

    source_id: int
    start_us: int
    end_us: int

    def __post_init__(self) -> None:
        if not 0 <= self.start_us < self.end_us:
            raise ValueError(f"a span needs a length: {self.start_us} to {self.end_us}")

    @property
    def length_us(self) -> int:
        """Length in microseconds."""
        return self.end_us - self.start_us


class SpanMap:
    """Spans in play order; times are clamped to the nearest kept moment. Equal by their spans."""

    def __init__(self, spans: Sequence[Span]) -> None:
        self._spans = tuple(spans)
        ends = list(accumulate(span.length_us for span in self._spans))
        self.duration_us = ends[-1] if ends else 0
        """Length of the piece."""
        self._cuts = ends[:-1]

    def __eq__(self, other: object) -> bool:
        return isinstance(other, SpanMap) and self._spans == other._spans

    def __hash__(self) -> int:
        return hash(self._spans)

    def last_cut(self, from_us: int, to_us: int) -> int | None:
        """The last moment in ``(from_us, to_us]`` of the piece where one span follows another."""
        at = bisect_right(self._cuts, to_us)
        return self._cuts[at - 1] if at and self._cuts[at - 1] > from_us else None

    def first_cut(self, from_us: int, to_us: int) -> int | None:
        """The first moment in ``[from_us, to_us)`` of the piece where one span follows another."""
        at = bisect_left(self._cuts, from_us)
        return self._cuts[at] if at < len(self._cuts) and self._cuts[at] < to_us else None

    def to_piece(self, source_us: int) -> int:
        """Piece time of a source moment; a cut moment maps to the next kept one.

        Where spans repeat a moment, the first showing counts.
        """
        at, best = 0, self.duration_us
        for span in self._spans:
            if span.start_us <= source_us < span.end_us:
                return at + source_us - span.start_us
            if source_us < span.start_us:
                best = min(best, at)
            at += span.length_us
        return best

    def to_source(self, piece_us: int) -> int:
        """Source time of a piece moment, clamped to the piece."""
        at = 0
        for span in self._spans:
            if piece_us < at + span.length_us:
                return span.start_us + max(0, piece_us - at)
            at += span.length_us
        return self._spans[-1].end_us
