"""What is played at each moment of a piece."""

from __future__ import annotations

from collections.abc import Mapping
from dataclasses import dataclass
from fractions import Fraction
from pathlib import Path

from mortiser.core.frame import BACKDROP_FPS
from mortiser.core.scene import NO_CAPTIONS, Shows
from mortiser.core.timeline import Clip, Timeline


@dataclass(frozen=True)
class Recording:
    """A source's file and how long it lasts (µs); which sound track is heard, of it or of another file
    that goes by the same clock."""

    path: Path
    duration_us: int
    audio_track: int = 0
    sound: Path | None = None

    @property
    def heard(self) -> Path:
        """The file that the sound is of."""
        return self.sound or self.path


@dataclass(frozen=True)
class Programme:
    """All of one piece: clips, the recordings they are of (by source), and what lies over them.

    Frames are ``size`` pixels, of even sides. A piece that is one untouched recording keeps the
    recording's own frame times; any other has ``rate`` frames a second.
    """

    timeline: Timeline
    recordings: Mapping[int, Recording]
    size: tuple[int, int]
    captions: Shows = NO_CAPTIONS
    rate: Fraction = Fraction(BACKDROP_FPS)
    own_times: bool = True
    """Whether an untouched recording keeps its own frame times."""

    @property
    def untouched(self) -> Recording | None:
        """The recording that the piece is, where it is nothing but one."""
        if len(self.timeline.clips) != 1 or not self.own_times:
            return None
        (clip,) = self.timeline.clips
        recording = self.recordings[clip.source_id]
        whole = clip.start_us == 0 and clip.end_us >= recording.duration_us
        return recording if whole else None


def of_one(recording: Recording, size: tuple[int, int], captions: Shows = NO_CAPTIONS) -> Programme:
    """The programme that is one recording from beginning to end."""
    timeline = Timeline([Clip(0, 0, recording.duration_us)])
    return Programme(timeline, {0: recording}, size, captions)
