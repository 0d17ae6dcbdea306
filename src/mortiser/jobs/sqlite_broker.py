"""The broker over the workspace's own database: for workers on the server's machine."""

from __future__ import annotations

from collections.abc import Collection, Mapping
from typing import Any

from mortiser.core.common.errors import Cancelled, MortiserError
from mortiser.core.project.job import JobKind
from mortiser.jobs.broker import Ending, LeasedJob
from mortiser.jobs.kind import JobContext, Kind
from mortiser.store import jobs
from mortiser.store.jobs import Lease


class SqliteBroker:
    """See Broker. Results are kept by the kinds of job."""

    def __init__(self, context: JobContext, kinds: Mapping[str, Kind[Any, Any]]) -> None:
        self._home = context
        self._database = context.database
        self._kinds = kinds

    def kind_of(self, job_id: int) -> JobKind | None:
        """See Broker."""
        db = self._database.connection
        return jobs.get(db, job_id).kind if jobs.exists(db, job_id) else None

    def take(self, job_id: int) -> LeasedJob | None:
        """See Broker."""
        job = jobs.take(self._database, job_id)
        if job is None:
            return None
        return LeasedJob(jobs.lease_of(job), job.kind, job.payload)

    def given(self, taken: LeasedJob) -> Any:
        """See Broker."""
        with self._database.snapshot():
            return self._kinds[taken.kind].read(self._home, taken)

    def keep(self, taken: LeasedJob, given: Any, result: Any) -> None:
        """See Broker."""
        if not self.renew(taken.lease):
            raise Cancelled("Stopped on request.")
        self._kinds[taken.kind].keep(self._home, given, result)

    def report(self, lease: Lease, progress: float) -> bool:
        """See Broker."""
        return jobs.report(self._database, lease, progress)

    def renew(self, lease: Lease) -> bool:
        """See Broker."""
        return jobs.renew(self._database, lease)

    def finish(self, lease: Lease, ending: Ending) -> list[int]:
        """See Broker."""
        return jobs.finish(
            self._database, lease, ending.status, ending.error, ending.report, ending.following
        )

    def again(self, lease: Lease) -> bool:
        """See Broker."""
        return jobs.again(self._database, lease)

    def waiting_beside(self, job_id: int) -> list[int]:
        """See Broker."""
        db = self._database.connection
        if not jobs.exists(db, job_id):
            return []
        return jobs.waiting_for(db, jobs.get(db, job_id))

    def orphans(self, held: Collection[Lease]) -> list[int]:
        """See Broker."""
        return jobs.orphans(self._database, held)

    def release(self, leases: Collection[Lease]) -> None:
        """See Broker."""
        jobs.release(self._database, leases)

    def release_all(self) -> None:
        """See Broker."""
        jobs.release_all(self._database)

    def explained(self, error: BaseException) -> MortiserError | None:
        """See Broker."""
        return self._database.explained(error)

    def tidy(self) -> None:
        """See Broker."""
        self._database.reserve.keep()

    def close(self) -> None:
        """See Broker."""
        self._database.close()
