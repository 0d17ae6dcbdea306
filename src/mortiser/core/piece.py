"""A piece: one deliverable, with what is needed to show or deliver it."""

from __future__ import annotations

from dataclasses import dataclass

from mortiser.core.cue_timing import NO_FRAMES, Frames
from mortiser.core.finish.model import Finish
from mortiser.core.pace import Pace, RuleSet
from mortiser.core.standing import NOTHING, Standing
from mortiser.core.timeline import Timeline


@dataclass(frozen=True)
class Piece:
    """Clips, a frame of ``width`` by ``height`` pixels, and how captions look and are timed."""

    id: int
    project_id: int
    name: str
    width: int
    height: int
    finish: Finish
    pace: Pace
    timeline: Timeline
    show_speakers: bool = False
    frames: Frames = NO_FRAMES
    checked_by: RuleSet = "own"
    standing: Standing = NOTHING
    file_pace: Pace | None = None
    """How caption files are grouped and timed; as on the picture where None."""

    goal_us: int = 0
    """How long it is to be at most; 0 where nobody has said."""
    whole_us: int = 0
    """How long it would be with nothing struck."""
    untouched: bool = True
    """Whether it is one recording from beginning to end."""

    @property
    def source_id(self) -> int:
        """The source that its first clip is of."""
        return self.timeline.clips[0].source_id
