"""A project: recordings and the pieces that are made of them."""

from __future__ import annotations

from dataclasses import dataclass
from typing import Literal

from mortiser.core.project.job import JobStatus


@dataclass(frozen=True)
class Project:
    """A project by itself; ``revision`` counts its changes, ``changed_us`` is a moment of the clock."""

    id: int
    name: str
    revision: int
    changed_us: int


@dataclass(frozen=True)
class ListedProject(Project):
    """A project among others, with its first recording and how that stands."""

    source_id: int
    duration_us: int
    kind: Literal["video", "audio"]
    cue_count: int
    hearing: JobStatus | None
