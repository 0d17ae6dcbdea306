"""Run one job from its row: lease, progress, cancel, outcome."""

from __future__ import annotations

import itertools
import json
import logging
import shutil
import threading
import time
from collections.abc import Callable, Iterator, Mapping, Sequence
from contextlib import contextmanager
from dataclasses import dataclass
from pathlib import Path
from typing import Any, TypedDict

from mortiser.core.errors import UNFORESEEN, Cancelled
from mortiser.core.sounding import Sounds
from mortiser.core.words import Word
from mortiser.jobs.workspace import Workspace
from mortiser.speech.protocols import (
    Aligner,
    Judge,
    LanguageFinder,
    Recogniser,
    SpeakerFinder,
    Translator,
)
from mortiser.store import jobs
from mortiser.store.database import Database
from mortiser.store.jobs import Lease

log = logging.getLogger(__name__)
REPORT_S = 0.25
HEARTBEAT_S = 3.0
PATIENCE_S = 10.0
"""How long work that was cancelled may take to stop before it is no longer waited for."""
AGAIN_S = 1.0
"""How long until an outcome that could not be written down is tried again."""


@dataclass(frozen=True)
class Parts:
    """What handlers work with. Engines are made when needed: they hold models in memory.

    ``recogniser`` and ``aligner`` make one for a language, by its code; ``judge`` one that listens for some names
    and is given a function that writes words as the glossary has them.
    """

    database: Database
    workspace: Workspace
    recogniser: Callable[[str], Recogniser]
    languages: Callable[[], LanguageFinder]
    translator: Callable[[str], Translator]
    aligner: Callable[[str], Aligner]
    judge: Callable[[Sequence[str], Callable[[Sequence[Word]], list[Word]]], Judge]
    sounds: Callable[[], Sounds]
    speakers: Callable[[], SpeakerFinder]


class Note(TypedDict):
    """Something a job has to say, and where in the source (µs)."""

    text: str
    at_us: int | None


class Task:
    """A running job, as its handler sees it."""

    def __init__(self, database: Database, lease: Lease, payload: Mapping[str, Any]) -> None:
        self.lease = lease
        self.payload = payload
        self._database = database
        self._reported = 0.0
        self.following: list[tuple[str, Mapping[str, Any]]] = []
        self.report: list[Note] = []
        self.used_up: list[Path] = []
        """Files that are of no use any more once the job is done."""

    @property
    def job_id(self) -> int:
        """The job's id."""
        return self.lease.job_id

    def follow(self, kind: str, payload: Mapping[str, Any]) -> None:
        """Queue another job of the same project once this one is done."""
        self.following.append((kind, payload))

    def note(self, text: str, at_us: int | None = None) -> None:
        """Something to tell the user beside the result, and where in the source it is."""
        self.report.append({"text": text, "at_us": at_us})

    def progress(self, fraction: float) -> None:
        """Report how far the work is (0 to 1). Raises Cancelled when it is to stop."""
        at = time.monotonic()
        if at - self._reported < REPORT_S:
            return
        self._reported = at
        if not jobs.report(self._database, self.lease, fraction):
            raise Cancelled("Stopped on request.")

    def still_wanted(self) -> None:
        """Raise Cancelled when the work is to stop: asked before results get their names."""
        if not jobs.renew(self._database, self.lease):
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
        return path.with_name(f"{path.stem}-{self.lease.token}.partial")


Handler = Callable[[Parts, Task], None]


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
    parts: Parts, handlers: Mapping[str, Handler], job_id: int, held: Held | None = None
) -> list[int]:
    """Do a job if it is there to be done; returns the jobs that follow from it.

    Never raises: the outcome is written into the row, as soon as that can be written.
    """
    try:
        row = jobs.take(parts.database, job_id)
    except Exception:
        # It stays queued and is handed out again.
        log.warning("job %s could not be begun", job_id, exc_info=True)
        return []
    if row is None:
        return []
    lease = jobs.lease_of(row)
    task = Task(parts.database, lease, json.loads(row["payload"]))
    stop = threading.Event()
    beat = threading.Thread(target=_keep_lease, args=(parts.database, lease, stop), daemon=True)
    with (held or Held()).holding(lease):
        beat.start()
        try:
            status, error = _outcome(parts, handlers[row["kind"]], task)
            following = _write_down(parts.database, task, status, error)
            for file in task.used_up if status == "done" else ():
                file.unlink(missing_ok=True)
            return following
        finally:
            stop.set()
            beat.join()


def _outcome(parts: Parts, handler: Handler, task: Task) -> tuple[str, str | None]:
    """How the work ended: a status, and what to say of it."""
    try:
        handler(parts, task)
    except Cancelled:
        return "cancelled", None
    except Exception as error:
        said = parts.database.explained(error)
        if said is not None:
            return "failed", str(said)
        if _gone(parts.database, task.job_id):
            return "cancelled", None  # Its project was deleted: what it worked on is gone.
        log.exception("job %s failed", task.job_id)
        return "failed", UNFORESEEN
    return "done", None


def _gone(database: Database, job_id: int) -> bool:
    try:
        return not jobs.exists(database.connection, job_id)
    except Exception:
        return False


def _write_down(database: Database, task: Task, status: str, error: str | None) -> list[int]:
    """Write an outcome into the row; where that cannot be done now, wait until it can."""
    following = task.following if status == "done" else []
    for attempt in itertools.count():
        try:
            return jobs.finish(database, task.lease, status, error, task.report, following)
        except Exception:
            if not attempt:
                log.warning("the end of job %s waits to be noted", task.job_id, exc_info=True)
            time.sleep(AGAIN_S)
    raise AssertionError


def _keep_lease(database: Database, lease: Lease, stop: threading.Event) -> None:
    """Renew the lease while the work goes on; end a job whose work does not stop when told."""
    asked_at: float | None = None
    while not stop.wait(HEARTBEAT_S):
        try:
            if jobs.renew(database, lease):
                continue
            asked_at = asked_at or time.monotonic()
            if time.monotonic() - asked_at > PATIENCE_S:
                jobs.finish(database, lease, "cancelled")
                break
        except Exception:
            log.warning("the lease of job %s could not be renewed", lease.job_id, exc_info=True)
    database.close()
