"""Clips in play order: how the time of sources and the time of a piece map onto each other."""

from __future__ import annotations

import hashlib
from bisect import bisect_left, bisect_right
from collections.abc import Iterator, Sequence
from dataclasses import dataclass, replace
from itertools import accumulate, pairwise
from operator import attrgetter

from pydantic import GetCoreSchemaHandler
from pydantic_core import CoreSchema
from pydantic_core.core_schema import (
    no_info_after_validator_function,
    plain_serializer_function_ser_schema,
)

from mortiser.core.transcript.words import Shown, Word, capitalised, shown


@dataclass(frozen=True, slots=True)
class Clip:
    """A kept stretch of a source, half open: ``[start_us, end_us)`` in source time.

    ``id`` is 0 until it is stored. ``strand_id`` says which stretch that was put into the piece it is
    left of, so that what belongs to words stays with them however they are cut; 0 for one that is new.
    The clips of a strand never overlap.
    """

    source_id: int
    start_us: int
    end_us: int
    id: int = 0
    strand_id: int = 0

    def __post_init__(self) -> None:
        if not 0 <= self.start_us < self.end_us:
            raise ValueError(f"a clip needs a length: {self.start_us} to {self.end_us}")

    @property
    def length_us(self) -> int:
        """Length in microseconds."""
        return self.end_us - self.start_us

    @property
    def middle_us(self) -> int:
        """The moment of the source in its middle."""
        return (self.start_us + self.end_us) // 2

    def holds(self, word: Word) -> bool:
        """Whether a word of the clip's source (source time) is shown by the clip: by its middle."""
        return word.source_id == self.source_id and self.start_us <= word.middle_us < self.end_us


@dataclass(frozen=True, slots=True)
class Placed:
    """A clip and the moment of the piece (µs) it begins at."""

    clip: Clip
    at_us: int

    @property
    def end_us(self) -> int:
        """The moment of the piece the clip is over."""
        return self.at_us + self.clip.length_us

    def to_piece(self, source_us: int) -> int:
        """The moment of the piece that shows a moment of the clip; the clip's edge beyond it."""
        inside = min(max(source_us, self.clip.start_us), self.clip.end_us)
        return self.at_us + inside - self.clip.start_us

    def to_source(self, piece_us: int) -> int:
        """The moment of the source shown at a moment of the piece; the clip's edge beyond it."""
        inside = min(max(piece_us, self.at_us), self.end_us)
        return self.clip.start_us + inside - self.at_us

    def show(self, word: Word) -> Shown:
        """A word of the source as the clip shows it."""
        return shown(word, self.clip.id, self.to_piece(word.start_us), self.to_piece(word.end_us))

    def said(self, word: Shown, before: tuple[Shown, Word] | None = None) -> Word:
        """A shown word in source time. Of a stored one (``before``: as it was shown, and as the
        transcript has it) times that did not change stay, also where the clip cuts into them, and so
        does a small letter that the piece alone shows as a capital."""
        start, end = self.to_source(word.start_us), self.to_source(word.end_us)
        text = word.text
        if before is not None:
            was, stored = before
            start = stored.start_us if word.start_us == was.start_us else start
            end = stored.end_us if word.end_us == was.end_us else end
            if word.capital and text == capitalised(stored.text):
                text = stored.text
        return Word(
            text,
            start,
            max(start, end),
            word.confidence,
            word.speaker,
            word.origin,
            word.aligned,
            word.id,
            word.alternatives,
            word.heard_as,
            self.clip.source_id,
        )


class Timeline:
    """Clips one behind another, in play order. Equal by its clips."""

    def __init__(self, clips: Sequence[Clip]) -> None:
        self.clips = tuple(clips)
        ends = list(accumulate((clip.length_us for clip in self.clips), initial=0))
        self._starts = ends[:-1]
        self.placed = tuple(map(Placed, self.clips, self._starts))
        self._by_id = {one.clip.id: one for one in self.placed}
        self._strands: dict[int, tuple[list[int], list[Placed]]] = {}
        for one in sorted(self.placed, key=lambda one: one.clip.start_us):
            begin, of_strand = self._strands.setdefault(one.clip.strand_id, ([], []))
            begin.append(one.clip.start_us)
            of_strand.append(one)
        self.duration_us = ends[-1]
        """Length of the piece."""
        self.cuts = tuple(
            at
            for (one, after), at in zip(pairwise(self.clips), ends[1:], strict=False)
            if (one.source_id, one.end_us) != (after.source_id, after.start_us)
        )
        """The moments where the recording does not simply go on."""

    def __eq__(self, other: object) -> bool:
        return isinstance(other, Timeline) and self.clips == other.clips

    @classmethod
    def __get_pydantic_core_schema__(
        cls, source: type[Timeline], handler: GetCoreSchemaHandler
    ) -> CoreSchema:
        """As its clips: what jobs are given is sent to whoever does the work."""
        return no_info_after_validator_function(
            cls,
            handler.generate_schema(tuple[Clip, ...]),
            serialization=plain_serializer_function_ser_schema(lambda line: list(line.clips)),
        )

    @property
    def digest(self) -> str:
        """The same for the same clips in the same order: what was made for it need not be made again."""
        said = ";".join(f"{c.source_id}:{c.start_us}-{c.end_us}" for c in self.clips)
        return hashlib.sha256(said.encode()).hexdigest()[:16]

    def __hash__(self) -> int:
        return hash(self.clips)

    def last_cut(self, from_us: int, to_us: int) -> int | None:
        """The last cut in ``(from_us, to_us]`` of the piece."""
        at = bisect_right(self.cuts, to_us)
        return self.cuts[at - 1] if at and self.cuts[at - 1] > from_us else None

    def first_cut(self, from_us: int, to_us: int) -> int | None:
        """The first cut in ``[from_us, to_us)`` of the piece."""
        at = bisect_left(self.cuts, from_us)
        return self.cuts[at] if at < len(self.cuts) and self.cuts[at] < to_us else None

    def clip(self, clip_id: int) -> Placed | None:
        """A clip by its id, where the timeline has it."""
        return self._by_id.get(clip_id)

    def shows(self, strand_id: int, middle_us: int) -> Placed | None:
        """The clip of a strand that shows a word, by the word's middle (source time); None where it is
        struck. A word of no length at a clip's end belongs to that clip."""
        begin, clips = self._strands.get(strand_id, ([], []))
        at = bisect_right(begin, middle_us)
        if at and middle_us <= clips[at - 1].clip.end_us:
            return clips[at - 1]
        return None

    def touches(self, strand_id: int, start_us: int, end_us: int) -> bool:
        """Whether anything of a stretch of a strand (source time) shows."""
        begin, clips = self._strands.get(strand_id, ([], []))
        at = bisect_left(begin, end_us)
        return at > 0 and clips[at - 1].clip.end_us > start_us

    def of_strand(self, strand_id: int) -> Sequence[Placed]:
        """The clips of a strand in the order of the source."""
        return self._strands.get(strand_id, ([], []))[1]

    def playing(self, piece_us: int) -> Placed:
        """The clip that plays at a moment; the first or last one outside the piece."""
        return self.placed[max(0, bisect_right(self._starts, piece_us) - 1)]

    def to_source(self, piece_us: int) -> tuple[Clip, int] | None:
        """The clip and the moment of its source at a moment of the piece; None outside it."""
        if not 0 <= piece_us < self.duration_us:
            return None
        placed = self.playing(piece_us)
        return placed.clip, placed.to_source(piece_us)

    def showings(self, source_id: int, source_us: int) -> list[int]:
        """The moments of the piece that show a moment of a source: none where it was cut away,
        several where clips repeat it."""
        return [
            one.to_piece(source_us)
            for one in self.placed
            if one.clip.source_id == source_id and one.clip.start_us <= source_us < one.clip.end_us
        ]

    def shown(self, words: Sequence[Word]) -> list[Shown]:
        """The showings of words (source time), in the order of the piece."""
        found = [
            (one.at_us, word.start_us, word.end_us, word.id, one.show(word))
            for one in self.placed
            for word in words
            if one.clip.holds(word)
        ]
        return [each[-1] for each in sorted(found, key=lambda each: each[:4])]

    def place_of(self, word: Shown) -> Placed:
        """The clip that a shown word belongs to: its own, or (new words) the one that plays then."""
        return self.clip(word.clip_id) or self.playing(word.start_us)

    def slice(self, from_us: int, to_us: int) -> Iterator[Placed]:
        """What of the clips plays in ``[from_us, to_us)`` of the piece, each where it stands there."""
        for one in self.placed:
            start, end = max(from_us, one.at_us), min(to_us, one.end_us)
            if start < end:
                cut = replace(one.clip, start_us=one.to_source(start), end_us=one.to_source(end))
                yield Placed(cut, start)


@dataclass(frozen=True, slots=True)
class Shift:
    """What began in ``[from_us, to_us)`` of a piece begins ``by_us`` later now."""

    from_us: int
    to_us: int
    by_us: int


def shifts(before: Timeline, after: Timeline) -> list[Shift]:
    """Where what both timelines show has gone, in the order of the earlier one."""
    head, tail = _alike(before.clips, after.clips)
    found: list[Shift] = []
    if head:
        found.append(Shift(0, before.placed[head - 1].end_us, 0))
    olds, news = (_by_strand(one.placed[head : len(one.placed) - tail]) for one in (before, after))
    for strand_id, old_ones in olds.items():
        new_ones, first = news.get(strand_id, []), 0
        for old in old_ones:
            while first < len(new_ones) and new_ones[first].clip.end_us <= old.clip.start_us:
                first += 1
            for new in new_ones[first:]:
                start = max(old.clip.start_us, new.clip.start_us)
                end = min(old.clip.end_us, new.clip.end_us)
                if start >= end:
                    break
                at = old.to_piece(start)
                found.append(Shift(at, at + end - start, new.to_piece(start) - at))
    if tail:
        old, new = before.placed[-tail], after.placed[-tail]
        found.append(Shift(old.at_us, before.duration_us, new.at_us - old.at_us))
    found.sort(key=lambda shift: shift.from_us)
    joined: list[Shift] = []
    for shift in found:
        last = joined[-1] if joined else None
        if last and last.to_us == shift.from_us and last.by_us == shift.by_us:
            joined[-1] = replace(last, to_us=shift.to_us)
        else:
            joined.append(shift)
    return joined


def _alike(before: Sequence[Clip], after: Sequence[Clip]) -> tuple[int, int]:
    """How many clips at the beginning and at the end of two rows show the same."""
    shown = attrgetter("strand_id", "start_us", "end_us")
    most = min(len(before), len(after))
    head = next((at for at in range(most) if shown(before[at]) != shown(after[at])), most)
    most -= head
    tail = next((at for at in range(most) if shown(before[-1 - at]) != shown(after[-1 - at])), most)
    return head, tail


def _by_strand(placed: Sequence[Placed]) -> dict[int, list[Placed]]:
    """Placed clips of each strand in the order of its source."""
    found: dict[int, list[Placed]] = {}
    for one in sorted(placed, key=lambda one: one.clip.start_us):
        found.setdefault(one.clip.strand_id, []).append(one)
    return found


def changed_stretches(before: Sequence[Clip], after: Sequence[Clip]) -> list[tuple[int, int, int]]:
    """What one of two rows of clips shows and the other one does not: (strand, start, end) in source time.

    A clip that only changed its place is none of it.
    """
    head, tail = _alike(before, after)
    edges: dict[int, dict[int, int]] = {}
    for clips, sign in ((before, 1), (after, -1)):
        for clip in clips[head : len(clips) - tail]:
            strand = edges.setdefault(clip.strand_id, {})
            strand[clip.start_us] = strand.get(clip.start_us, 0) + sign
            strand[clip.end_us] = strand.get(clip.end_us, 0) - sign
    found: list[tuple[int, int, int]] = []
    for strand_id, steps in edges.items():
        level, since = 0, 0
        for at in sorted(steps):
            if level:
                found.append((strand_id, since, at))
            level, since = level + steps[at], at
    return found
