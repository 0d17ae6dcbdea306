"""How clips go over into each other: what was set, and where in the piece that is seen.

The piece's length does not change, and captions stay where they are: pictures go on beyond the cut for as long as
the transition lasts, half of it before the cut and half behind. Sound does not: what was struck is never heard.
"""

from __future__ import annotations

import json
from collections.abc import Mapping, Sequence
from dataclasses import dataclass, replace
from itertools import pairwise
from typing import Literal

from pydantic import Field

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

    def at(self, before: Placed, after: Placed) -> Transition | None:
        """What happens between two clips."""
        own = self.set_at(after)
        if own is not None:
            return own.transition
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
class Join:
    """A stretch of a piece (µs of it) in which one clip goes over into the next; all of it lasts from ``from_us`` to
    ``to_us``."""

    start_us: int
    end_us: int
    from_us: int
    to_us: int
    transition: Transition
    before: Side
    after: Side

    def share(self, at_us: int) -> float:
        """How much has gone over at a moment, 0 to 1."""
        return self.transition.share((at_us - self.from_us) / (self.to_us - self.from_us))

    def within(self, start_us: int, end_us: int) -> Join | None:
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
            before=replace(self.before, by_us=self.before.by_us + start_us),
            after=replace(self.after, by_us=self.after.by_us + start_us),
        )

    @property
    def said(self) -> str:
        """The same for what looks the same."""
        sides = (
            f"{one.source_id}+{one.by_us}{one.framing.digest}" for one in (self.before, self.after)
        )
        lasts = f"{self.start_us}-{self.end_us}/{self.from_us}-{self.to_us}"
        return f"{lasts}:{self.transition.model_dump_json()}:{'|'.join(sides)}"


def goes_on(before: Placed, after: Placed) -> bool:
    """Whether a clip goes on where the one before it ends: that is no cut."""
    one, other = before.clip, after.clip
    return (one.source_id, one.end_us) == (other.source_id, other.start_us)


def lasting(transition: Transition, before_us: int, after_us: int) -> int:
    """How long a transition lasts to each side of a cut, of which so much is left: no more than half a clip; 0
    where that is too short to be seen."""
    half = min(transition.length_us // 2, before_us // 2, after_us // 2)
    return half if half * 2 >= LEAST_US else 0


def joined(timeline: Timeline, joins: Joins, framings: Sequence[ClipFraming]) -> tuple[Join, ...]:
    """Where clips of a piece go over into each other, in order, none over another."""
    found: list[Join] = []
    for index, (before, after) in enumerate(pairwise(timeline.placed)):
        if goes_on(before, after) or (transition := joins.at(before, after)) is None:
            continue
        half = lasting(transition, before.clip.length_us, after.clip.length_us)
        if not half:
            continue
        from_us, to_us = after.at_us - half, after.at_us + half
        sides = (
            Side(one.clip.source_id, one.clip.start_us - one.at_us, framings[number], number % 2)
            for number, one in ((index, before), (index + 1, after))
        )
        found.append(Join(from_us, to_us, from_us, to_us, transition, *sides))
    return tuple(found)


STORED: Stored[Joins] = Stored(Joins, first=lambda text: json.loads(text) if text else {})
