"""Kinds of long work, and how each is treated: what waits for what, how many at once."""

from __future__ import annotations

from dataclasses import dataclass
from typing import Literal

JobKind = Literal[
    "transcribe", "prepare", "import", "script", "translate", "speakers", "doubt", "deliver",
    "thumbnails", "faces", "follow", "microphone", "draft",
]  # fmt: skip


@dataclass(frozen=True)
class JobSpec:
    """What holds for all jobs of a kind."""

    priority: int = 1
    """What somebody waits for goes before what only makes things better."""
    at_once: int = 0
    """How many may run at the same time; 0 for as many as there are workers."""
    ranked: bool = False
    """Whether the user says which goes first."""
    continued: bool = False
    """Whether it goes on in a copy of its project, where it is not done yet."""


JOB_SPECS: dict[JobKind, JobSpec] = {
    "prepare": JobSpec(3, continued=True),
    "transcribe": JobSpec(2, continued=True),
    "microphone": JobSpec(2, continued=True),
    "import": JobSpec(2),
    "script": JobSpec(2, continued=True),
    "follow": JobSpec(2),
    "translate": JobSpec(1, continued=True),
    "speakers": JobSpec(1, continued=True),
    # Two at most, and one second listening, so that a fresh recording never waits for them.
    "deliver": JobSpec(1, at_once=2, ranked=True),
    "thumbnails": JobSpec(1),
    "faces": JobSpec(1, continued=True),
    "doubt": JobSpec(0, at_once=1, continued=True),
    "draft": JobSpec(-1, continued=True),
}
