"""Captions tried out in memory: what an edit of a few captions would come to, with nothing stored."""

from __future__ import annotations

from collections.abc import Collection, Sequence
from dataclasses import dataclass, replace

from mortiser.core.captions.grouping import Ruler
from mortiser.core.captions.pace import Pace
from mortiser.core.common.errors import NotFound
from mortiser.core.common.frames import Frames
from mortiser.core.editing.timeline import Timeline
from mortiser.core.edits.session import CaptionSession
from mortiser.core.transcript.words import Cue


@dataclass(frozen=True)
class CaptionFacts:
    """What the captions of a piece are grouped and timed by."""

    timeline: Timeline
    pace: Pace
    frames: Frames
    ruler: Ruler | None = None

    @classmethod
    def of(cls, session: CaptionSession, piece_id: int) -> CaptionFacts:
        """Those of a session's piece."""
        return cls(
            session.timeline(piece_id),
            session.pace(piece_id),
            session.frames(piece_id),
            session.ruler(piece_id),
        )


class Trial:
    """A CaptionSession over neighbouring captions of one piece; new ones have ids below 0."""

    def __init__(self, cues: Sequence[Cue], facts: CaptionFacts) -> None:
        self._was = {cue.id: cue for cue in cues}
        self._now = dict(self._was)
        self._facts = facts

    def cue(self, cue_id: int) -> Cue:
        if cue_id not in self._now:
            raise NotFound("That caption is not there any more. The page shows the newest state.")
        return self._now[cue_id]

    def some(self, cue_ids: Collection[int]) -> list[Cue]:
        return [cue for cue in self._ordered() if cue.id in cue_ids]

    def cues(self, piece_id: int) -> list[Cue]:
        return self._ordered()

    def around(self, cue: Cue, reach: int) -> tuple[list[Cue], list[Cue]]:
        key = (cue.start_us, cue.id)
        every = self._ordered()
        before = [one for one in every if (one.start_us, one.id) < key]
        return before[-reach:], [one for one in every if (one.start_us, one.id) > key][:reach]

    def save_cue(self, cue: Cue) -> Cue:
        saved = cue if cue.id else replace(cue, id=min(0, *self._was, *self._now) - 1)
        self._now[saved.id] = saved
        return saved

    def save_cues(self, cues: Sequence[Cue]) -> list[Cue]:
        return [self.save_cue(cue) for cue in cues]

    def save_times(self, cues: Sequence[Cue]) -> None:
        self.save_cues(cues)

    def delete_cues(self, cues: Sequence[Cue]) -> None:
        for cue in cues:
            del self._now[cue.id]

    def timeline(self, piece_id: int) -> Timeline:
        return self._facts.timeline

    def pace(self, piece_id: int) -> Pace:
        return self._facts.pace

    def frames(self, piece_id: int) -> Frames:
        return self._facts.frames

    def ruler(self, piece_id: int) -> Ruler | None:
        return self._facts.ruler

    def carry_over(self, session: CaptionSession) -> None:
        """Make what was tried true."""
        session.delete_cues([cue for id_, cue in self._was.items() if id_ not in self._now])
        fresh = [cue for cue in self._ordered() if self._was.get(cue.id) != cue]
        session.save_cues([cue if cue.id > 0 else replace(cue, id=0) for cue in fresh])

    def _ordered(self) -> list[Cue]:
        return sorted(self._now.values(), key=lambda cue: (cue.start_us, cue.id))
