"""A running job, as its work sees it."""

from __future__ import annotations

import shutil
import time
from pathlib import Path

from mortiser.core.common.errors import Cancelled
from mortiser.core.project.job import JobKind, JobNote
from mortiser.core.project.job_payloads import JobPayload
from mortiser.jobs.broker import Broker, LeasedJob, P

REPORT_S = 0.25


class Task:
    """Tells progress, notes and what is to follow; says when to stop."""

    def __init__(self, broker: Broker, taken: LeasedJob) -> None:
        self.taken = taken
        self._broker = broker
        self._reported = 0.0
        self.following: list[tuple[JobKind, JobPayload]] = []
        self.report: list[JobNote] = []
        self.used_up: list[Path] = []
        """Files that are of no use any more once the job is done."""

    def about(self, kind: type[P]) -> P:
        """What the job was queued with."""
        return self.taken.about(kind)

    @property
    def job_id(self) -> int:
        """The job's id."""
        return self.taken.lease.job_id

    def follow(self, kind: JobKind, payload: JobPayload) -> None:
        """Queue another job of the same project once this one is done."""
        self.following.append((kind, payload))

    def note(self, text: str, at_us: int | None = None) -> None:
        """Something to tell the user beside the result, and where in the source it is."""
        self.report.append(JobNote(text, at_us))

    def progress(self, fraction: float) -> None:
        """Report how far the work is (0 to 1). Raises Cancelled when it is to stop."""
        at = time.monotonic()
        if at - self._reported < REPORT_S:
            return
        self._reported = at
        if not self._broker.report(self.taken.lease, fraction):
            raise Cancelled("Stopped on request.")

    def still_wanted(self) -> None:
        """Raise Cancelled when the work is to stop: asked before results get their names."""
        if not self._broker.renew(self.taken.lease):
            raise Cancelled("Stopped on request.")

    def partial(self, path: Path) -> Path:
        """A name beside ``path``, this attempt's alone, for what is not whole yet.

        What earlier attempts left half done is removed.
        """
        for left in path.parent.glob(f"{path.stem}-*.partial"):
            if left.is_dir():
                shutil.rmtree(left, ignore_errors=True)
            else:
                left.unlink(missing_ok=True)
        return path.with_name(f"{path.stem}-{self.taken.lease.token}.partial")
