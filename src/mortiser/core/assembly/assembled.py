"""All that is seen besides the clips themselves, of one piece in one of its shapes, by the time of the piece."""

from __future__ import annotations

import hashlib
from collections.abc import Sequence
from dataclasses import dataclass, replace
from functools import cached_property

from mortiser.core.assembly.covering import Cover, covers
from mortiser.core.assembly.cutaway import Cutaways, RecordingSeen
from mortiser.core.assembly.grade import Grades
from mortiser.core.assembly.joining import Join, Joins, joined
from mortiser.core.assembly.stretch import within
from mortiser.core.editing.timeline import Timeline
from mortiser.core.framing.clip_framing import ClipFraming


@dataclass(frozen=True)
class Assembled:
    """What covers the clips, how they go over into each other, and how pictures look; nothing of that by default."""

    covers: tuple[Cover, ...] = ()
    joins: tuple[Join, ...] = ()
    grades: Grades = Grades()

    @property
    def plain(self) -> bool:
        """Whether nothing but the clips is seen, as they are."""
        return not self.covers and not self.joins and self.grades.plain

    def within(self, start_us: int, end_us: int) -> Assembled:
        """What of it counts in a stretch of the piece, by the time of that stretch."""
        return replace(
            self,
            covers=within(self.covers, start_us, end_us),
            joins=within(self.joins, start_us, end_us),
        )

    def of_source(self, source_id: int) -> Assembled:
        """What of it is seen where only one clip is, of a source: grades of recordings that are not seen there do
        not count."""
        seen = self.source_ids | {source_id}
        near = tuple(one for one in self.grades.sources if one.source_id in seen)
        return replace(self, grades=self.grades.model_copy(update={"sources": near}))

    @cached_property
    def digest(self) -> str:
        """The same for what looks the same; empty where it is plain."""
        if self.plain:
            return ""
        grades = "" if self.grades.plain else self.grades.model_dump_json()
        covers, joins = (one.said for one in self.covers), (one.said for one in self.joins)
        said = ";".join([*covers, *joins, grades])
        return hashlib.sha256(said.encode()).hexdigest()[:16]

    @property
    def source_ids(self) -> frozenset[int]:
        """The recordings that are seen besides the clips."""
        over = (one.cutaway.seen for one in self.covers)
        sides = (side for one in self.joins for side in (one.before, one.after))
        shown = (one.source_id for one in over if isinstance(one, RecordingSeen))
        return frozenset((*shown, *(one.source_id for one in sides)))


PLAIN = Assembled()
PARTS = "2"
"""How parts of the preview are made: another one once they sound or look otherwise, so that none of before is played
beside a new one."""


@dataclass(frozen=True)
class PartLook:
    """What is seen of a part: how its picture lies, and what else there is; ``lane`` is where its clip is read."""

    framing: ClipFraming = ClipFraming()
    assembled: Assembled = PLAIN
    lane: int = 0

    @property
    def digest(self) -> str:
        """The same for what looks the same."""
        return self.framing.digest + self.assembled.digest + PARTS

    @property
    def source_ids(self) -> frozenset[int]:
        """The recordings that are seen besides its own."""
        return self.assembled.source_ids


AS_RECORDED = PartLook()


def assembled(
    timeline: Timeline,
    framings: Sequence[ClipFraming],
    cutaways: Cutaways,
    joins: Joins,
    grades: Grades,
) -> Assembled:
    """What was set for a piece, as it lies over its clips in a shape."""
    return Assembled(covers(timeline, cutaways), joined(timeline, joins, framings), grades)
