"""Job rows: the truth about long work, with a lease that a live worker keeps renewing."""

from __future__ import annotations

import json
import sqlite3
from collections.abc import Mapping, Sequence
from typing import Any

from mortiser.core.errors import Conflict, NotFound
from mortiser.store.database import Database, now_us

LEASE_US = 15_000_000
MOST_ATTEMPTS = 3
"""A job that took its worker down this often is given up."""


def add(database: Database, project_id: int, kind: str, payload: Mapping[str, Any]) -> int:
    """A queued job; returns its id."""
    with database.transaction() as db:
        return add_in(db, project_id, kind, payload)


def add_in(db: sqlite3.Connection, project_id: int, kind: str, payload: Mapping[str, Any]) -> int:
    """The same inside an open transaction."""
    cursor = db.execute(
        "INSERT INTO job (project_id, kind, payload, status, created_us) "
        "VALUES (?, ?, ?, 'queued', ?)",
        (project_id, kind, json.dumps(payload), now_us()),
    )
    return int(cursor.lastrowid or 0)


def take(database: Database, job_id: int) -> sqlite3.Row | None:
    """Claim a job that is queued, or running under a lease that ran out; None if it is neither."""
    with database.transaction() as db:
        at = now_us()
        row: sqlite3.Row | None = db.execute(
            "UPDATE job SET status = 'running', started_us = ?, attempts = attempts + 1, "
            "progress = 0, lease_until_us = ? WHERE id = ? AND cancel_asked = 0 AND "
            "(status = 'queued' OR (status = 'running' AND lease_until_us < ?)) RETURNING *",
            (at, at + LEASE_US, job_id, at),
        ).fetchone()
        return row


def report(database: Database, job_id: int, progress: float) -> bool:
    """Note progress (0 to 1) and renew the lease; False when the job is to stop."""
    with database.transaction() as db:
        row = db.execute(
            "UPDATE job SET progress = max(progress, ?), lease_until_us = ? "
            "WHERE id = ? AND status = 'running' RETURNING cancel_asked",
            (min(1.0, progress), now_us() + LEASE_US, job_id),
        ).fetchone()
        return row is not None and not row["cancel_asked"]


def finish(
    database: Database,
    job_id: int,
    status: str,
    error: str | None = None,
    report: Sequence[Mapping[str, Any]] = (),
) -> None:
    """End a running job as done, failed or cancelled, with what it has to say."""
    with database.transaction() as db:
        db.execute(
            "UPDATE job SET status = ?, error = ?, finished_us = ?, report = ?, "
            "progress = CASE WHEN ? = 'done' THEN 1.0 ELSE progress END WHERE id = ?",
            (status, error, now_us(), json.dumps(list(report)), status, job_id),
        )


def ask_cancel(database: Database, job_id: int) -> sqlite3.Row:
    """Cancel a queued job at once, ask a running one to stop. Raises Conflict when it has ended."""
    with database.transaction() as db:
        row: sqlite3.Row = get(db, job_id)
        if row["status"] not in ("queued", "running"):
            raise Conflict("That job has already ended.")
        if row["status"] == "queued":
            db.execute(
                "UPDATE job SET status = 'cancelled', finished_us = ? WHERE id = ?",
                (now_us(), job_id),
            )
        db.execute("UPDATE job SET cancel_asked = 1 WHERE id = ?", (job_id,))
        return get(db, job_id)


def get(db: sqlite3.Connection, job_id: int) -> sqlite3.Row:
    """The job's row. Raises NotFound."""
    row: sqlite3.Row | None = db.execute("SELECT * FROM job WHERE id = ?", (job_id,)).fetchone()
    if row is None:
        raise NotFound("That job is not there any more.")
    return row


def exists(db: sqlite3.Connection, job_id: int) -> bool:
    """Whether the job is still there; it goes with its project."""
    return db.execute("SELECT 1 FROM job WHERE id = ?", (job_id,)).fetchone() is not None


def queued(db: sqlite3.Connection, kind: str) -> list[int]:
    """Queued jobs of a kind, oldest first."""
    rows = db.execute(
        "SELECT id FROM job WHERE kind = ? AND status = 'queued' ORDER BY id", (kind,)
    )
    return [row["id"] for row in rows]


def of_project(db: sqlite3.Connection, project_id: int) -> list[sqlite3.Row]:
    """The project's jobs, oldest first."""
    return db.execute(
        "SELECT * FROM job WHERE project_id = ? ORDER BY id", (project_id,)
    ).fetchall()


def orphans(database: Database) -> list[int]:
    """Jobs to hand out: queued, or running under a lease that ran out. Hopeless ones are failed."""
    with database.transaction() as db:
        at = now_us()
        db.execute(
            "UPDATE job SET status = 'failed', finished_us = ?, error = ? WHERE status = 'running' "
            "AND lease_until_us < ? AND attempts >= ?",
            (
                at,
                "The work stopped the worker several times. Nothing else was changed.",
                at,
                MOST_ATTEMPTS,
            ),
        )
        db.execute(
            "UPDATE job SET status = 'cancelled', finished_us = ? WHERE status = 'running' "
            "AND lease_until_us < ? AND cancel_asked = 1",
            (at, at),
        )
        rows = db.execute(
            "SELECT id FROM job WHERE status = 'queued' OR "
            "(status = 'running' AND lease_until_us < ?) ORDER BY id",
            (at,),
        )
        return [row["id"] for row in rows]


def release_all(database: Database) -> None:
    """Let go of every lease: called when a worker starts and no other can be alive."""
    with database.transaction() as db:
        db.execute("UPDATE job SET lease_until_us = 0 WHERE status = 'running'")


def requeue(database: Database, job_id: int) -> sqlite3.Row:
    """Queue a failed or cancelled job anew. Raises Conflict for any other."""
    with database.transaction() as db:
        if get(db, job_id)["status"] not in ("failed", "cancelled"):
            raise Conflict("Only a job that failed or was stopped can be done again.")
        db.execute(
            "UPDATE job SET status = 'queued', error = NULL, attempts = 0, cancel_asked = 0, "
            "progress = 0, started_us = NULL, finished_us = NULL WHERE id = ?",
            (job_id,),
        )
        return get(db, job_id)
