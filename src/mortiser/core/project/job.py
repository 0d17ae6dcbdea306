"""Long work: its kinds, how each is treated, and how one of them stands."""

from __future__ import annotations

from dataclasses import dataclass
from typing import Literal

from mortiser.core.common.time import SECOND
from mortiser.core.project.job_payloads import (
    DeliverPayload,
    DoubtPayload,
    FetchPayload,
    FollowPayload,
    HearingPayload,
    ImportPayload,
    JobPayload,
    MicrophonePayload,
    PiecePayload,
    ScriptPayload,
    SourcePayload,
)

JobKind = Literal[
    "transcribe", "prepare", "import", "script", "translate", "speakers", "doubt", "deliver",
    "thumbnails", "faces", "follow", "microphone", "draft", "fetch",
]  # fmt: skip


JobStatus = Literal["queued", "running", "done", "failed", "cancelled"]
LEAST_GAINED = 0.02
"""A job has come this far before anything is said of the time that is left."""


@dataclass(frozen=True)
class JobSpec:
    """What holds for all jobs of a kind."""

    payload: type[JobPayload]
    """What one is queued with."""
    priority: int = 1
    """What somebody waits for goes before what only makes things better."""
    at_once: int = 0
    """How many may run at the same time; 0 for as many as there are workers."""
    ranked: bool = False
    """Whether the user says which goes first."""
    continued: bool = False
    """Whether it goes on in a copy of its project, where it is not done yet."""


JOB_SPECS: dict[JobKind, JobSpec] = {
    "prepare": JobSpec(SourcePayload, 3, continued=True),
    "transcribe": JobSpec(HearingPayload, 2, continued=True),
    "microphone": JobSpec(MicrophonePayload, 2, continued=True),
    "import": JobSpec(ImportPayload, 2),
    "script": JobSpec(ScriptPayload, 2, continued=True),
    "follow": JobSpec(FollowPayload, 2),
    "fetch": JobSpec(FetchPayload, 2),
    "translate": JobSpec(PiecePayload, 1, continued=True),
    "speakers": JobSpec(PiecePayload, 1, continued=True),
    # Two at most, and one second listening, so that a fresh recording never waits for them.
    "deliver": JobSpec(DeliverPayload, 1, at_once=2, ranked=True),
    "thumbnails": JobSpec(SourcePayload, 1),
    "faces": JobSpec(SourcePayload, 1, continued=True),
    "doubt": JobSpec(DoubtPayload, 0, at_once=1, continued=True),
    "draft": JobSpec(SourcePayload, -1, continued=True),
}


@dataclass(frozen=True)
class JobNote:
    """Something a job has to say, and where in the source (µs), if anywhere."""

    text: str
    at_us: int | None = None


@dataclass(frozen=True)
class Job:
    """How a job stands. Times are moments of the clock, in µs."""

    id: int
    project_id: int
    kind: JobKind
    payload: JobPayload
    status: JobStatus
    paused: bool
    progress: float
    """0 to 1."""
    began: float | None
    """How far it was when this attempt first told."""
    attempts: int
    error: str | None
    report: tuple[JobNote, ...]
    started_us: int | None
    finished_us: int | None
    token: str | None = None
    """What shows that its lease is a worker's."""

    @property
    def open(self) -> bool:
        """Whether it waits or runs."""
        return self.status in ("queued", "running")

    def gained(self, now_us: int) -> tuple[float, float] | None:
        """What this attempt has gained of the whole, and in how many seconds; None where nothing is known."""
        if self.status != "running" or not self.started_us or self.began is None:
            return None
        return self.progress - self.began, (now_us - self.started_us) / SECOND

    def seconds_left(self, now_us: int) -> float | None:
        """What is left at its pace so far; None before that can be said."""
        gained, spent = self.gained(now_us) or (0.0, 0.0)
        return spent * (1 - self.progress) / gained if gained >= LEAST_GAINED else None
