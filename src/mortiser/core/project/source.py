"""A source: a recording of a project, as it was found when it was brought in."""

from __future__ import annotations

from dataclasses import dataclass
from typing import Literal

from mortiser.core.editing.microphone import Microphone
from mortiser.core.library.found import Credit

SourceKind = Literal["video", "audio"]


@dataclass(frozen=True, slots=True)
class Source:
    """Sizes are pixels as shown, upright, and 0 without a picture; ``path`` lies in the workspace."""

    id: int
    project_id: int
    name: str
    path: str
    proxy_path: str | None
    """What the browser plays in its stead, where it cannot play it."""
    kind: SourceKind
    size_bytes: int
    duration_us: int
    width: int
    height: int
    rotation: int
    frame_count: int
    frame_rate: float
    variable_rate: bool
    audio_tracks: int
    video_codec: str | None
    audio_codec: str | None
    playable: bool
    audio_track: int
    """Which of its sound tracks is heard."""
    language: str
    first_frame_us: int
    track_names: tuple[str, ...]
    """What its sound tracks are called; "" for one without a name."""
    removed: bool = False
    """Whether it was taken out of its project; an undo brings it back."""
    credit: Credit | None = None
    """Whose it is, where it was fetched from a library."""
    microphone: Microphone | None = None
    """What is heard in its stead."""

    @property
    def tracks(self) -> list[str]:
        """A name for each sound track: its title beside its number, or its number alone."""
        titles = self.track_names or ("",) * self.audio_tracks
        return [
            f"{number}: {title}" if title else f"Track {number}"
            for number, title in enumerate(titles, start=1)
        ]

    @property
    def laid_path(self) -> str:
        """Where a microphone's sound lies that goes by the source's clock; empty without one. A job makes
        it."""
        if self.microphone is None:
            return ""
        return f"{self.path.rpartition('/')[0]}/{self.microphone.file_name}"
