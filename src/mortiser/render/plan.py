"""What is played at each moment of a piece."""

from __future__ import annotations

from collections.abc import Callable, Mapping, Sequence
from dataclasses import dataclass, field
from fractions import Fraction
from pathlib import Path

from mortiser.core.assembly.assembled import PLAIN, Assembled
from mortiser.core.editing.timeline import Clip, Timeline
from mortiser.core.framing.clip_framing import ClipFraming
from mortiser.core.framing.frame import BACKDROP_FPS
from mortiser.core.framing.placing import Size
from mortiser.core.scene import NO_CAPTIONS, Shows

WHOLE = ClipFraming()


def ignored(at_us: int) -> None:
    """Nobody asks about damage."""


@dataclass(frozen=True)
class Recording:
    """A source's file and how long it lasts (µs); which sound track is heard, of it or of another file
    that goes by the same clock."""

    path: Path
    duration_us: int
    audio_track: int = 0
    sound: Path | None = None
    picture: Size | None = None
    """The size of its own picture, where the file is a smaller copy."""
    damaged: Callable[[int], None] = field(default=ignored, compare=False)
    """Told when a part of the picture cannot be read (µs of the recording)."""

    @property
    def heard(self) -> Path:
        """The file that the sound is of."""
        return self.sound or self.path


@dataclass(frozen=True)
class RenderPlan:
    """All of one piece: clips, the recordings they are of (by source), and what lies over them.

    Frames are ``size`` pixels, of even sides; how each clip's picture lies in them, ``framings`` says (whole
    where there are none). A piece that is one untouched recording keeps the
    recording's own frame times; any other has ``rate`` frames a second.
    """

    timeline: Timeline
    recordings: Mapping[int, Recording]
    size: tuple[int, int]
    captions: Shows = NO_CAPTIONS
    layers: Sequence[Shows] = ()
    """What lies under the captions, the lowest first."""
    rate: Fraction = Fraction(BACKDROP_FPS)
    own_times: bool = True
    """Whether an untouched recording keeps its own frame times."""
    framings: Sequence[ClipFraming] = ()
    assembled: Assembled = PLAIN
    """What is seen besides the clips, by the time of the plan; what recordings that shows is among
    ``recordings``."""
    first_lane: int = 0
    """Of the first clip: neighbours are read side by side, in lanes 0 and 1."""
    shown_from_us: int = 0
    """The moment of the piece that its beginning is: captions and layers go by the time of the piece."""

    @property
    def shows(self) -> tuple[Shows, ...]:
        """All that is painted, the lowest first."""
        return *self.layers, self.captions

    def framing(self, index: int) -> ClipFraming:
        """How a clip's picture lies in the frame, by its place among the clips."""
        return self.framings[index] if self.framings else WHOLE

    @property
    def whole(self) -> Recording | None:
        """The recording that the piece is, where it is nothing but one."""
        if len(self.timeline.clips) != 1:
            return None
        (clip,) = self.timeline.clips
        recording = self.recordings[clip.source_id]
        whole = clip.start_us == 0 and clip.end_us >= recording.duration_us
        return recording if whole else None

    @property
    def unmixed(self) -> bool:
        """Whether nothing is heard but the clips."""
        return not any(one.heard for one in self.assembled.covers)

    @property
    def untouched(self) -> Recording | None:
        """The same, where its frames keep their own times."""
        covered = self.assembled.covers or self.assembled.joins
        return self.whole if self.own_times and not covered else None


def of_one(
    recording: Recording, size: tuple[int, int], captions: Shows = NO_CAPTIONS
) -> RenderPlan:
    """The plan that is one recording from beginning to end."""
    timeline = Timeline([Clip(0, 0, recording.duration_us)])
    return RenderPlan(timeline, {0: recording}, size, captions)
