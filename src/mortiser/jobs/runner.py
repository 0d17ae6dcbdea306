"""Run one job: lease, progress, cancel, outcome."""

from __future__ import annotations

import itertools
import logging
import threading
import time
from collections.abc import Iterator, Mapping
from contextlib import contextmanager
from typing import Any

from mortiser.core.common.errors import UNFORESEEN, Cancelled
from mortiser.jobs.broker import Broker, Ending
from mortiser.jobs.kind import Kind
from mortiser.jobs.task import Task
from mortiser.jobs.tools import Tools
from mortiser.store.jobs import Lease

log = logging.getLogger(__name__)
HEARTBEAT_S = 3.0
PATIENCE_S = 10.0
"""How long work that was cancelled may take to stop before it is no longer waited for."""
AGAIN_S = 1.0
"""How long until an outcome that could not be written down is tried again."""
CANCELLED = Ending("cancelled")
Kinds = Mapping[str, Kind[Any, Any]]


class Held:
    """The leases that live threads of this process work under."""

    def __init__(self) -> None:
        self._leases: set[Lease] = set()
        self._guard = threading.Lock()

    def leases(self) -> set[Lease]:
        """Those of this moment."""
        with self._guard:
            return set(self._leases)

    @contextmanager
    def holding(self, lease: Lease) -> Iterator[None]:
        """Count a lease in for as long as its work goes on."""
        with self._guard:
            self._leases.add(lease)
        try:
            yield
        finally:
            with self._guard:
                self._leases.discard(lease)


def run(
    broker: Broker,
    tools: Tools,
    kinds: Kinds,
    job_id: int,
    held: Held | None = None,
    *,
    fresh: bool = False,
) -> list[int]:
    """Do a job if it is there to be done; returns the jobs that follow from it.

    Never raises: the outcome is told to the broker, as soon as it takes it. A fault that nobody foresaw
    may come from a worker that is ``fresh``: the job is tried again then, and follows from itself.
    """
    try:
        taken = broker.take(job_id)
    except Exception:
        # It stays queued and is handed out again.
        log.warning("job %s could not be begun", job_id, exc_info=True)
        return []
    if taken is None:
        return []
    task = Task(broker, taken)
    stop = threading.Event()
    beat = threading.Thread(target=_keep_lease, args=(broker, taken.lease, stop), daemon=True)
    with (held or Held()).holding(taken.lease):
        beat.start()
        try:
            ending = _outcome(broker, tools, kinds[taken.kind], task)
            if fresh and ending.error == UNFORESEEN and _again(broker, taken.lease):
                return [job_id]
            following = _tell(broker, taken.lease, ending)
            for file in task.used_up if ending.status == "done" else ():
                file.unlink(missing_ok=True)
            return following
        finally:
            stop.set()
            beat.join()


def _outcome(broker: Broker, tools: Tools, kind: Kind[Any, Any], task: Task) -> Ending:
    """How the work ended."""
    try:
        given = broker.given(task.taken)
        for result in kind.work(tools, task, given):
            broker.keep(task.taken, given, result)
    except Cancelled:
        return CANCELLED
    except Exception as error:
        said = broker.explained(error)
        if said is not None:
            return Ending("failed", str(said), task.report)
        if _gone(broker, task.job_id):
            return CANCELLED  # Its project was deleted: what it worked on is gone.
        log.exception("job %s failed", task.job_id)
        return Ending("failed", UNFORESEEN, task.report)
    return Ending("done", None, task.report, task.following)


def _again(broker: Broker, lease: Lease) -> bool:
    try:
        return broker.again(lease)
    except Exception:
        return False


def _gone(broker: Broker, job_id: int) -> bool:
    try:
        return broker.kind_of(job_id) is None
    except Exception:
        return False


def _tell(broker: Broker, lease: Lease, ending: Ending) -> list[int]:
    """Tell how a job ended; where that is not taken now, wait until it is."""
    for attempt in itertools.count():
        try:
            return broker.finish(lease, ending)
        except Exception:
            if not attempt:
                log.warning("the end of job %s waits to be noted", lease.job_id, exc_info=True)
            time.sleep(AGAIN_S)
    raise AssertionError


def _keep_lease(broker: Broker, lease: Lease, stop: threading.Event) -> None:
    """Renew the lease while the work goes on; end a job whose work does not stop when told."""
    asked_at: float | None = None
    while not stop.wait(HEARTBEAT_S):
        try:
            if broker.renew(lease):
                continue
            asked_at = asked_at or time.monotonic()
            if time.monotonic() - asked_at > PATIENCE_S:
                broker.finish(lease, CANCELLED)
                break
        except Exception:
            log.warning("the lease of job %s could not be renewed", lease.job_id, exc_info=True)
    broker.close()
