"""Which sound of a source is heard: a microphone's that was laid under it, or its own."""

from __future__ import annotations

from dataclasses import dataclass
from pathlib import Path

from mortiser.core.project.source import Source
from mortiser.jobs.workspace import Workspace
from mortiser.media.peaks import track_key


@dataclass(frozen=True)
class Sound:
    """A file and a sound track of it; ``key`` is the same for the same sound."""

    path: Path
    track: int
    key: str


def is_laid(workspace: Workspace, source: Source) -> bool:
    """Whether what is to be heard of a source is there."""
    path = source.laid_path
    return not path or workspace.path(path).exists()


def sound_of(workspace: Workspace, source: Source) -> Sound:
    """What is heard of a source now. As long as a microphone's sound is being laid, its own."""
    microphone = source.microphone
    if microphone is not None and is_laid(workspace, source):
        return Sound(workspace.path(source.laid_path), 0, microphone.key)
    return own_sound(workspace, source)


def own_sound(workspace: Workspace, source: Source) -> Sound:
    """The sound track of a source that was chosen."""
    track = source.audio_track
    return Sound(workspace.path(source.path), track, track_key(track))
