"""The broker: where workers take jobs, read what they need, and bring progress and results.

A worker knows nothing else of the server. What it says of a job counts only under the token of its
lease, so that one thought dead cannot overwrite its successor.
"""

from __future__ import annotations

from collections.abc import Collection, Sequence
from dataclasses import dataclass
from typing import Any, Literal, Protocol, TypeVar

from mortiser.core.common.errors import MortiserError
from mortiser.core.project.job import JobKind, JobNote
from mortiser.core.project.job_payloads import JobPayload
from mortiser.store.jobs import Lease

P = TypeVar("P", bound=JobPayload)


@dataclass(frozen=True)
class LeasedJob:
    """A job that was taken: under which lease, of which kind, and what it was queued with."""

    lease: Lease
    kind: JobKind
    payload: JobPayload

    def about(self, kind: type[P]) -> P:
        """What it was queued with, which is of that type for a job of its kind."""
        if not isinstance(self.payload, kind):
            raise TypeError(f"a job of kind {self.kind} is not about {kind.__name__}")
        return self.payload


@dataclass(frozen=True)
class Ending:
    """How a job ended: ``following`` are kinds and payloads of jobs of its project to queue."""

    status: Literal["done", "failed", "cancelled"]
    error: str | None = None
    report: Sequence[JobNote] = ()
    following: Sequence[tuple[JobKind, JobPayload]] = ()


class Broker(Protocol):
    """Every call may raise NoSpace or Busy; work goes on and asks again."""

    def kind_of(self, job_id: int) -> JobKind | None:
        """The kind of a job; None where it is not there any more."""

    def take(self, job_id: int) -> LeasedJob | None:
        """Take a job that is queued, or whose lease ran out; None where it is neither, or as many
        of its kind as may run at once are running."""

    def given(self, taken: LeasedJob) -> Any:
        """The values that the job works on, all of one moment. Raises MortiserError."""

    def keep(self, taken: LeasedJob, given: Any, result: Any) -> None:
        """Keep something the work has come to. Raises Cancelled where the job is to stop."""

    def report(self, lease: Lease, progress: float) -> bool:
        """Note progress (0 to 1) and renew the lease; False when the job is to stop."""

    def renew(self, lease: Lease) -> bool:
        """Renew the lease alone; False when the job is to stop."""

    def finish(self, lease: Lease, ending: Ending) -> list[int]:
        """Note how a job ended; the ids of the jobs that follow from it. Nothing happens under
        another's lease."""

    def again(self, lease: Lease) -> bool:
        """Queue a running job anew, its attempt counted; False where it was tried too often, or is
        another's by now."""

    def waiting_beside(self, job_id: int) -> list[int]:
        """The next job of a kind that waits for others of the kind to end."""

    def orphans(self, held: Collection[Lease]) -> list[int]:
        """Jobs to hand out: queued, or running under a lease that ran out and that is not held."""

    def release(self, leases: Collection[Lease]) -> None:
        """Give running jobs back as if they had not been tried."""

    def release_all(self) -> None:
        """End every lease: no other worker can be alive."""

    def explained(self, error: BaseException) -> MortiserError | None:
        """What an error means to people; None where it means a fault of the program."""

    def tidy(self) -> None:
        """Keep what the broker needs for bad times; called now and then."""

    def close(self) -> None:
        """Give back what this thread holds."""
