"""Run one job from its row: lease, progress, cancel, outcome."""

from __future__ import annotations

import json
import logging
import threading
import time
from collections.abc import Callable, Mapping
from dataclasses import dataclass
from typing import Any, TypedDict

from mortiser.core.errors import UNFORESEEN, Cancelled, MortiserError
from mortiser.core.sounding import Sounds
from mortiser.jobs.workspace import Workspace
from mortiser.speech.seams import Aligner, Judge, Recogniser, SpeakerFinder
from mortiser.store import jobs
from mortiser.store.database import Database

log = logging.getLogger(__name__)
REPORT_S = 0.25
HEARTBEAT_S = 3.0


@dataclass(frozen=True)
class Parts:
    """What handlers work with. Engines are made when needed: they hold models in memory.

    ``recogniser`` makes one for a language, by its code.
    """

    database: Database
    workspace: Workspace
    recogniser: Callable[[str], Recogniser]
    aligner: Callable[[], Aligner]
    judge: Callable[[], Judge]
    sounds: Callable[[], Sounds]
    speakers: Callable[[], SpeakerFinder]


class Note(TypedDict):
    """Something a job has to say, and where in the source (µs)."""

    text: str
    at_us: int | None


class Task:
    """A running job, as its handler sees it."""

    def __init__(self, database: Database, job_id: int, payload: Mapping[str, Any]) -> None:
        self.job_id = job_id
        self.payload = payload
        self._database = database
        self._reported = 0.0
        self.following: list[int] = []
        self.report: list[Note] = []

    def follow(self, kind: str, payload: Mapping[str, Any]) -> None:
        """Queue another job of the same project, to be handed out when this one is done."""
        project = jobs.get(self._database.connection, self.job_id)["project_id"]
        self.following.append(jobs.add(self._database, project, kind, payload))

    def note(self, text: str, at_us: int | None = None) -> None:
        """Something to tell the user beside the result, and where in the source it is."""
        self.report.append({"text": text, "at_us": at_us})

    def progress(self, fraction: float) -> None:
        """Report how far the work is (0 to 1). Raises Cancelled when it is to stop."""
        at = time.monotonic()
        if at - self._reported < REPORT_S:
            return
        self._reported = at
        if not jobs.report(self._database, self.job_id, fraction):
            raise Cancelled("Stopped on request.")


Handler = Callable[[Parts, Task], None]


def run(parts: Parts, handlers: Mapping[str, Handler], job_id: int) -> list[int]:
    """Do a job if it is there to be done; returns the jobs that follow from it.

    Never raises: the outcome is written into the row.
    """
    row = jobs.take(parts.database, job_id)
    if row is None:
        return []
    task = Task(parts.database, job_id, json.loads(row["payload"]))
    stop = threading.Event()
    beat = threading.Thread(target=_keep_lease, args=(parts.database, job_id, stop), daemon=True)
    beat.start()
    try:
        handlers[row["kind"]](parts, task)
        jobs.finish(parts.database, job_id, "done", report=task.report)
    except Cancelled:
        jobs.finish(parts.database, job_id, "cancelled")
    except MortiserError as error:
        jobs.finish(parts.database, job_id, "failed", str(error))
    except Exception:
        if not jobs.exists(parts.database.connection, job_id):
            return []  # Its project was deleted while it ran: what it worked on is gone.
        log.exception("job %s (%s) failed", job_id, row["kind"])
        jobs.finish(parts.database, job_id, "failed", UNFORESEEN)
    finally:
        stop.set()
        beat.join()
    return task.following


def _keep_lease(database: Database, job_id: int, stop: threading.Event) -> None:
    while not stop.wait(HEARTBEAT_S):
        jobs.report(database, job_id, 0.0)
    database.close()
