"""How clips go over into each other: what was set, and where in the piece that is seen.

The piece's length does not change, and captions stay where they are: pictures go on beyond the cut for as long as
the transition lasts, half of it before the cut and half behind. Sound does not: what was struck is never heard.
"""

from __future__ import annotations

import json
from collections.abc import Iterator, Mapping, Sequence
from dataclasses import dataclass, replace
from itertools import pairwise
from typing import Literal

from pydantic import Field

from mortiser.core.assembly.stretch import Lasting
from mortiser.core.assembly.transition import Transition
from mortiser.core.common.limits import Micros
from mortiser.core.common.stored import Stored
from mortiser.core.common.time import SECOND
from mortiser.core.editing.timeline import Placed, Timeline
from mortiser.core.framing.clip_framing import ClipFraming
from mortiser.core.framing.shape import OfSource
from mortiser.core.style.finish.parts import Value

MOST_OWN = 500
NEAR_US = SECOND
"""A cut that was moved by less than this is still the one that something was set for."""
LEAST_US = SECOND // 25
"""What would be shorter is a cut."""

Where = Literal["nowhere", "everywhere", "recordings"]
"""At no cut, at every one, or where the recording is another one behind it."""


class CutJoin(OfSource):
    """What happens at one cut, known by the moment of its source that is seen behind it: a transition, or a plain
    cut for None."""

    at_us: Micros
    transition: Transition | None = None


class Joins(Value):
    """How the clips of a piece go over into each other; what is said of single cuts counts there."""

    where: Where = "nowhere"
    transition: Transition = Transition()
    own: tuple[CutJoin, ...] = Field(default=(), max_length=MOST_OWN)

    def usual(self, before: Placed, after: Placed) -> Transition | None:
        """What happens between two clips where nothing was said of that cut."""
        other = before.clip.source_id != after.clip.source_id
        wanted = self.where == "everywhere" or (self.where == "recordings" and other)
        return self.transition if wanted else None

    def set_at(self, after: Placed) -> CutJoin | None:
        """What was said of the cut before a clip: the nearest there is, since edges of cuts are moved."""
        clip = after.clip
        near = [one for one in self.own if one.source_id == clip.source_id]
        far = [(abs(one.at_us - clip.start_us), index) for index, one in enumerate(near)]
        off, index = min(far, default=(NEAR_US, 0))
        return near[index] if off < NEAR_US else None

    def of_copies(self, sources: Mapping[int, int]) -> Joins:
        """The same for copies of the sources, by their ids."""
        own = tuple(one.of_copy(sources) for one in self.own)
        return self.model_copy(update={"own": own})

    def without_source(self, source_id: int) -> Joins:
        """The same without what is about a source."""
        own = tuple(one for one in self.own if one.source_id != source_id)
        return self.model_copy(update={"own": own})


@dataclass(frozen=True)
class Side:
    """One of the two pictures: at a moment of the piece the moment ``by_us`` later of a source is seen, as it lies
    in the frame."""

    source_id: int
    by_us: int
    framing: ClipFraming
    lane: int
    """0 or 1: neighbours are read side by side."""


@dataclass(frozen=True)
class Join(Lasting):
    """A stretch of a piece (µs of it) in which one clip goes over into the next; all of it lasts from ``from_us`` to
    ``to_us``."""

    transition: Transition
    before: Side
    after: Side

    def share(self, at_us: int) -> float:
        """How much has gone over at a moment, 0 to 1."""
        return self.transition.share((at_us - self.from_us) / (self.to_us - self.from_us))

    def within(self, start_us: int, end_us: int) -> Join | None:
        """What of it lies in a stretch of the piece, by the time of that stretch."""
        part = super().within(start_us, end_us)
        if part is None:
            return None
        return replace(
            part,
            before=replace(self.before, by_us=self.before.by_us + start_us),
            after=replace(self.after, by_us=self.after.by_us + start_us),
        )

    @property
    def said(self) -> str:
        """The same for what looks the same."""
        sides = (
            f"{one.source_id}+{one.by_us}{one.framing.digest}" for one in (self.before, self.after)
        )
        return f"{self.lasts}:{self.transition.model_dump_json()}:{'|'.join(sides)}"


@dataclass(frozen=True)
class Cut:
    """A cut of a piece, where one clip does not simply go on in the next, and what happens there."""

    index: int
    """Of the clip before it."""
    before: Placed
    after: Placed
    transition: Transition | None
    """None for a plain cut."""
    own: bool
    """Whether that was set for this cut alone."""

    @property
    def half_us(self) -> int:
        """How long the transition lasts to each side: no more than half a clip; 0 for a plain cut, and where it would
        be too short to be seen."""
        if self.transition is None:
            return 0
        lengths = (one.clip.length_us // 2 for one in (self.before, self.after))
        half = min(self.transition.length_us // 2, *lengths)
        return half if half * 2 >= LEAST_US else 0


def cuts(timeline: Timeline, joins: Joins) -> Iterator[Cut]:
    """The cuts of a piece, in order."""
    for index, (before, after) in enumerate(pairwise(timeline.placed)):
        one, other = before.clip, after.clip
        if (one.source_id, one.end_us) == (other.source_id, other.start_us):
            continue
        own = joins.set_at(after)
        how = joins.usual(before, after) if own is None else own.transition
        yield Cut(index, before, after, how, own is not None)


def joined(timeline: Timeline, joins: Joins, framings: Sequence[ClipFraming]) -> tuple[Join, ...]:
    """Where clips of a piece go over into each other, in order, none over another."""
    found: list[Join] = []
    for cut in cuts(timeline, joins):
        half = cut.half_us
        if cut.transition is None or not half:
            continue
        from_us, to_us = cut.after.at_us - half, cut.after.at_us + half
        sides = (
            Side(one.clip.source_id, one.clip.start_us - one.at_us, framings[number], number % 2)
            for number, one in ((cut.index, cut.before), (cut.index + 1, cut.after))
        )
        found.append(Join(from_us, to_us, from_us, to_us, cut.transition, *sides))
    return tuple(found)


STORED: Stored[Joins] = Stored(Joins, first=lambda text: json.loads(text) if text else {})
