"""Where cutaways lie in a piece, by the words they hang on."""

from __future__ import annotations

from collections.abc import Iterator, Sequence
from dataclasses import dataclass, replace

from mortiser.core.assembly.cutaway import Cutaway, PictureSeen, RecordingSeen
from mortiser.core.assembly.stretch import Lasting
from mortiser.core.assembly.transition import Transition
from mortiser.core.editing.timeline import Timeline
from mortiser.core.framing.shape import FramedStretch


@dataclass(frozen=True)
class Cover(Lasting):
    """A stretch of a piece (µs of it) that a cutaway covers; at its beginning the cutaway has been on for
    ``shown_us`` of the piece. It comes at ``from_us`` and goes at ``to_us``."""

    cutaway: Cutaway
    shown_us: int = 0

    def seen_us(self, at_us: int) -> int:
        """The moment of the recording, or of a moving picture that begins again and again, that is seen at a moment
        of the piece; 0 of a picture that stands still."""
        seen = self.cutaway.seen
        if isinstance(seen, PictureSeen) and not seen.picture.lasts_us:
            return 0
        begins = seen.from_us if isinstance(seen, RecordingSeen) else 0
        return begins + round((at_us - self.start_us + self.shown_us) * self.cutaway.speed)

    @property
    def heard(self) -> bool:
        """Whether the sound of what is seen is heard too."""
        cutaway = self.cutaway
        recorded = isinstance(cutaway.seen, RecordingSeen) and cutaway.speed == 1
        return recorded and cutaway.sound != "off"

    def within(self, start_us: int, end_us: int) -> Cover | None:
        """What of it lies in a stretch of the piece, by the time of that stretch."""
        part = super().within(start_us, end_us)
        if part is None:
            return None
        return replace(part, shown_us=self.shown_us + max(0, start_us - self.start_us))

    @property
    def alone(self) -> bool:
        """Whether nothing but it is seen, but for when it comes and goes."""
        return self.cutaway.place is None and self.cutaway.opacity == 1

    def changing(self, at_us: int) -> tuple[Transition, float] | None:
        """While it comes or goes: how, and how much of it is there, 0 to 1."""
        comes, goes = self.cutaway.comes, self.cutaway.goes
        whole_us = whole_from(self.cutaway, self.from_us, self.to_us)
        if comes is not None and at_us < whole_us:
            return comes, comes.share((at_us - self.from_us) / (whole_us - self.from_us))
        half = (self.to_us - self.from_us) // 2
        if goes is not None and self.to_us - at_us <= (length := min(goes.length_us, half)):
            return goes, 1 - goes.share(1 - (self.to_us - at_us) / length)
        return None

    @property
    def said(self) -> str:
        """The same for what looks the same."""
        return f"{self.lasts}@{self.shown_us}:{self.cutaway.model_dump_json(exclude={'id'})}"


def whole_from(cutaway: Cutaway, start_us: int, end_us: int) -> int:
    """The moment from which on a cutaway that is seen in a stretch of the piece is all there."""
    comes = cutaway.comes
    return start_us + (min(comes.length_us, (end_us - start_us) // 2) if comes else 0)


def lies(timeline: Timeline, during: FramedStretch) -> list[tuple[int, int]]:
    """The stretches of a piece (µs) that show a stretch of a source, in order; what goes on is one."""
    found: list[tuple[int, int]] = []
    for placed in timeline.placed:
        clip = placed.clip
        start, end = max(clip.start_us, during.start_us), min(clip.end_us, during.end_us)
        if clip.source_id != during.source_id or start >= end:
            continue
        begins, ends = placed.to_piece(start), placed.to_piece(end)
        if found and found[-1][1] == begins:
            found[-1] = found[-1][0], ends
        else:
            found.append((begins, ends))
    return found


def covers(timeline: Timeline, cutaways: Sequence[Cutaway]) -> tuple[Cover, ...]:
    """The stretches of a piece that are covered, in order, none over another: of cutaways that lie on the same
    words the last one is seen."""
    found: list[Cover] = []
    for cutaway in cutaways:
        shown = 0
        for start, end in lies(timeline, cutaway.during):
            found = [part for one in found for part in _beside(one, start, end)]
            found.append(Cover(start, end, start, end, cutaway, shown))
            shown += end - start
    return tuple(sorted(found, key=lambda one: one.start_us))


def _beside(one: Cover, start_us: int, end_us: int) -> Iterator[Cover]:
    """What of a cover lies before and behind a stretch."""
    if one.start_us < start_us:
        yield replace(one, end_us=min(one.end_us, start_us))
    if one.end_us > end_us:
        begins = max(one.start_us, end_us)
        yield replace(one, start_us=begins, shown_us=one.shown_us + begins - one.start_us)
