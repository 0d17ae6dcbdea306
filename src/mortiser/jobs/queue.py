"""The queue between the web process and the worker: huey with its SQLite storage.

Huey forgets a task once a worker has taken it, so it only carries job ids; the job's row is the
truth (store.jobs), and what a dead worker left is handed out again.
"""

from __future__ import annotations

import threading
from collections.abc import Mapping

from huey import SqliteHuey

from mortiser.jobs import runner
from mortiser.jobs.runner import Handler, Parts
from mortiser.store import jobs

WORKERS = 3
PRIORITY = {
    "prepare": 3,
    "transcribe": 2,
    "import": 2,
    "script": 2,
    "speakers": 1,
    "deliver": 1,
    "glimpses": 1,
    "doubt": 0,
}
"""What somebody waits for goes before what only makes things better."""
ONE_AT_A_TIME = "doubt"
"""Second listenings take one worker at most, so that a fresh recording never waits for them."""


class Queue:
    """Hands jobs to whichever worker runs on the same workspace."""

    def __init__(
        self, parts: Parts, handlers: Mapping[str, Handler], *, inline: bool = False
    ) -> None:
        self._parts = parts
        self._huey = SqliteHuey(
            "mortiser", filename=str(parts.workspace.queue), results=False, immediate=inline
        )
        self._task = self._huey.task()(self._run)
        self._handlers = handlers
        self._alone = threading.Lock()

    def _run(self, job_id: int) -> None:
        db = self._parts.database.connection
        if not jobs.exists(db, job_id):
            return
        if jobs.get(db, job_id)["kind"] != ONE_AT_A_TIME:
            self.submit(*runner.run(self._parts, self._handlers, job_id))
            return
        if not self._alone.acquire(blocking=False):
            return  # It stays queued in its row and is handed out when the present one ends.
        try:
            runner.run(self._parts, self._handlers, job_id)
        finally:
            self._alone.release()
        self.submit(*jobs.queued(db, ONE_AT_A_TIME)[:1])

    def submit(self, *job_ids: int) -> None:
        """Hand jobs out."""
        for job_id in job_ids:
            kind = jobs.get(self._parts.database.connection, job_id)["kind"]
            self._task(job_id, priority=PRIORITY[kind])

    def submit_orphans(self) -> None:
        """Hand out again what nobody works on."""
        self.submit(*jobs.orphans(self._parts.database))

    def work(self) -> None:
        """Be the worker: take jobs until the process is told to end."""
        jobs.release_all(self._parts.database)
        self._huey.flush()
        self.submit_orphans()
        consumer = self._huey.create_consumer(
            workers=WORKERS, periodic=False, initial_delay=0.05, max_delay=0.5, backoff=1.2
        )
        consumer.run()
