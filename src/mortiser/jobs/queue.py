"""The queue between the web process and the worker: huey with its SQLite storage.

Huey forgets a task once a worker has taken it, so it only carries job ids; the job's row is the
truth (store.jobs), and what a dead worker left is handed out again.
"""

from __future__ import annotations

import logging
import threading
import time
from pathlib import Path

from huey import SqliteHuey

from mortiser.core.project.job import JOB_SPECS
from mortiser.jobs import runner
from mortiser.jobs.broker import Broker
from mortiser.jobs.runner import Held, Kinds
from mortiser.jobs.tools import Tools

log = logging.getLogger(__name__)
WORKERS = 3
FRESH_S = 60.0
"""So long after its start a worker's unforeseen faults are taken to come from starting."""
SWEEP_S = 3.0
"""How often what nobody works on is looked for."""


class Queue:
    """Hands jobs to whichever worker runs on the same workspace."""

    def __init__(self, broker: Broker, tools: Tools, kinds: Kinds, *, inline: bool = False) -> None:
        self._broker = broker
        self._tools = tools
        self._kinds = kinds
        self._huey = _opened(tools.workspace.queue, inline)
        self._task = self._huey.task()(self._run)
        self._held = Held()
        self._fresh_until = 0.0

    def _run(self, job_id: int) -> None:
        fresh = time.monotonic() < self._fresh_until
        following = runner.run(
            self._broker, self._tools, self._kinds, job_id, self._held, fresh=fresh
        )
        # One that had to wait for others of its kind stayed queued, and is handed out now.
        waiting = (one for one in self._broker.waiting_beside(job_id) if one != job_id)
        self.submit(*following, *waiting)

    def submit(self, *job_ids: int) -> None:
        """Hand jobs out. One that cannot be handed out now stays queued in its row."""
        for job_id in job_ids:
            kind = self._broker.kind_of(job_id)
            if kind is None:
                continue
            try:
                self._task(job_id, priority=JOB_SPECS[kind].priority)
            except Exception:
                if self._huey.immediate:
                    raise
                log.warning("job %s waits to be handed out", job_id, exc_info=True)

    def submit_orphans(self) -> None:
        """Hand out again what nobody works on and what is not handed out."""
        pending = {task.args[0] for task in self._huey.pending()}
        orphans = self._broker.orphans(self._held.leases())
        self.submit(*(job_id for job_id in orphans if job_id not in pending))

    def work(self) -> None:
        """Be the worker: take jobs until the process is told to end, then give back what runs."""
        self._begin()
        self._fresh_until = time.monotonic() + FRESH_S
        stop = threading.Event()
        threading.Thread(target=self._sweep, args=(stop,), daemon=True).start()
        consumer = self._huey.create_consumer(
            workers=WORKERS, periodic=False, initial_delay=0.05, max_delay=0.5, backoff=1.2
        )
        consumer.run()
        stop.set()
        self._broker.release(self._held.leases())

    def _begin(self) -> None:
        """Start from the rows alone; on a full disk wait until there is room for that."""
        waited = False
        while True:
            try:
                self._broker.release_all()
                self._huey.flush()
                return
            except Exception:
                if not waited:
                    log.warning("the worker waits until it can write", exc_info=True)
                waited = True
                time.sleep(SWEEP_S)

    def _sweep(self, stop: threading.Event) -> None:
        while True:
            try:
                self._broker.tidy()
                self.submit_orphans()
            except Exception:
                log.warning("what nobody works on could not be looked for", exc_info=True)
            if stop.wait(SWEEP_S):
                return


def _opened(file: Path, inline: bool) -> SqliteHuey:
    """The queue's own store; where it is damaged, a new one: the rows know what is to be done."""
    try:
        return SqliteHuey("mortiser", filename=str(file), results=False, immediate=inline)
    except Exception:
        log.warning("%s cannot be read and is begun anew", file, exc_info=True)
        for name in (file.name, f"{file.name}-wal", f"{file.name}-shm"):
            file.with_name(name).unlink(missing_ok=True)
        return SqliteHuey("mortiser", filename=str(file), results=False, immediate=inline)
