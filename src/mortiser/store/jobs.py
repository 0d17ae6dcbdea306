"""Job rows: the truth about long work, under a lease that a live worker keeps renewing.

What a worker says of a job counts only under the token of its lease, so that one thought dead
cannot overwrite its successor.
"""

from __future__ import annotations

import json
import sqlite3
import uuid
from collections.abc import Collection, Sequence
from dataclasses import asdict, dataclass, fields

from mortiser.core.common.errors import Conflict, NotFound
from mortiser.core.project.job import JOB_SPECS, Job, JobKind, JobNote
from mortiser.core.project.job_payloads import JobPayload
from mortiser.store.database import Database, now_us

LEASE_US = 15_000_000
MOST_ATTEMPTS = 3
"""A job that took its worker down this often at the same place is given up."""
JOB_COLUMNS = tuple(one.name for one in fields(Job))
"""The columns of a job."""
FORWARD = 0.02
"""Getting this much farther than any attempt before makes the attempts count anew."""


@dataclass(frozen=True)
class Lease:
    """A job, and what shows that it is this worker's."""

    job_id: int
    token: str


def add(database: Database, project_id: int, kind: JobKind, payload: JobPayload) -> int:
    """A queued job; returns its id."""
    with database.transaction() as db:
        return add_in(db, project_id, kind, payload)


def add_in(
    db: sqlite3.Connection,
    project_id: int,
    kind: JobKind,
    payload: JobPayload,
    rank: float = 0.0,
) -> int:
    """The same inside an open transaction; of kinds that are ranked, the smallest rank goes first."""
    if type(payload) is not JOB_SPECS[kind].payload:
        raise TypeError(f"{kind} is queued with {JOB_SPECS[kind].payload.__name__}")
    cursor = db.execute(
        "INSERT INTO job (project_id, kind, payload, status, created_us, at_once, rank) "
        "VALUES (?, ?, ?, 'queued', ?, ?, ?)",
        (project_id, kind, payload.model_dump_json(), now_us(), JOB_SPECS[kind].at_once, rank),
    )
    return int(cursor.lastrowid or 0)


def take(database: Database, job_id: int) -> Job | None:
    """Claim a job that is queued, or running under a lease that ran out; None if it is neither, is paused, as
    many of its kind as may run at once are running, or one of them works on the same recording.

    Of kinds that are ranked the first one that waits is claimed in the place of a queued one.
    """
    with database.transaction() as db:
        at = now_us()
        job_id = _first_of(db, job_id)
        row = db.execute(
            "UPDATE job SET status = 'running', started_us = ?, attempts = attempts + 1, "
            "farthest = max(farthest, progress), progress = 0, began = NULL, token = ?, "
            "lease_until_us = ? WHERE id = ? AND cancel_asked = 0 AND paused = 0 AND "
            "(status = 'queued' OR (status = 'running' AND lease_until_us < ?)) AND (at_once = 0 OR "
            "at_once > (SELECT count(*) FROM job AS other WHERE other.kind = job.kind AND "
            "other.id <> job.id AND other.status = 'running' AND other.lease_until_us >= ?)) "
            "AND NOT EXISTS (SELECT 1 FROM job AS other WHERE other.kind = job.kind AND "
            "other.id <> job.id AND other.status = 'running' AND other.lease_until_us >= ? AND "
            "other.payload ->> 'source_id' = job.payload ->> 'source_id') "
            "RETURNING *",
            (at, uuid.uuid4().hex, at + LEASE_US, job_id, at, at, at),
        ).fetchone()
        return job_of(row) if row else None


def _first_of(db: sqlite3.Connection, job_id: int) -> int:
    """The job that is to be done when one is asked for."""
    row = db.execute("SELECT kind, status FROM job WHERE id = ?", (job_id,)).fetchone()
    if row is None or not JOB_SPECS[row["kind"]].ranked or row["status"] == "running":
        return job_id
    first = db.execute(
        "SELECT id FROM job WHERE kind = ? AND status = 'queued' AND paused = 0 "
        "AND cancel_asked = 0 ORDER BY rank, id LIMIT 1",
        (row["kind"],),
    ).fetchone()
    return int(first["id"]) if first else job_id


def lease_of(job: Job) -> Lease:
    """The lease that a job was taken under."""
    if job.token is None:
        raise ValueError("nobody works on that job")
    return Lease(job.id, job.token)


def job_of(row: sqlite3.Row, prefix: str = "") -> Job:
    """The job in a row with the columns of JOB_COLUMNS, their names behind a prefix."""
    found = {name: row[prefix + name] for name in JOB_COLUMNS}
    kind: JobKind = found["kind"]
    found |= {
        "payload": JOB_SPECS[kind].payload.model_validate_json(found["payload"]),
        "paused": bool(found["paused"]),
        "report": tuple(JobNote(**one) for one in json.loads(found["report"])),
    }
    return Job(**found)


def report(database: Database, lease: Lease, progress: float) -> bool:
    """Note progress (0 to 1) and renew the lease; False when the job is to stop."""
    progress = min(1.0, progress)
    with database.transaction() as db:
        row = db.execute(
            "UPDATE job SET progress = max(progress, ?), lease_until_us = ?, "
            "began = coalesce(began, ?), attempts = iif(? > farthest + ?, 1, attempts) "
            "WHERE id = ? AND token = ? AND status = 'running' RETURNING cancel_asked",
            (
                progress,
                now_us() + LEASE_US,
                progress,
                progress,
                FORWARD,
                lease.job_id,
                lease.token,
            ),
        ).fetchone()
        return row is not None and not row["cancel_asked"]


def renew(database: Database, lease: Lease) -> bool:
    """Renew the lease alone; False when the job is to stop."""
    with database.transaction() as db:
        row = db.execute(
            "UPDATE job SET lease_until_us = ? WHERE id = ? AND token = ? AND status = 'running' "
            "RETURNING cancel_asked",
            (now_us() + LEASE_US, lease.job_id, lease.token),
        ).fetchone()
        return row is not None and not row["cancel_asked"]


def finish(
    database: Database,
    lease: Lease,
    status: str,
    error: str | None = None,
    report: Sequence[JobNote] = (),
    following: Sequence[tuple[JobKind, JobPayload]] = (),
) -> list[int]:
    """End a running job as done, failed or cancelled, with what it has to say.

    ``following`` are kinds and payloads of jobs of the same project to queue; returns their ids.
    Nothing happens when the lease is another's by now. Has room on a full disk, as a rule.
    """

    def ended(db: sqlite3.Connection) -> list[int]:
        row = db.execute(
            "UPDATE job SET status = ?, error = ?, finished_us = ?, report = ?, "
            "progress = CASE WHEN ? = 'done' THEN 1.0 ELSE progress END "
            "WHERE id = ? AND token = ? AND status = 'running' RETURNING project_id",
            (
                status,
                error,
                now_us(),
                json.dumps([asdict(note) for note in report]),
                status,
                lease.job_id,
                lease.token,
            ),
        ).fetchone()
        if row is None:
            return []
        return [add_in(db, row["project_id"], kind, payload) for kind, payload in following]

    return database.without_fail(ended)


def release(database: Database, leases: Collection[Lease]) -> None:
    """Give running jobs back as if they had not been tried: their worker is told to stop."""

    def given_back(db: sqlite3.Connection) -> None:
        for lease in leases:
            db.execute(
                "UPDATE job SET status = iif(cancel_asked, 'cancelled', 'queued'), token = NULL, "
                "lease_until_us = 0, attempts = max(0, attempts - 1) "
                "WHERE id = ? AND token = ? AND status = 'running'",
                (lease.job_id, lease.token),
            )

    database.without_fail(given_back)


def again(database: Database, lease: Lease) -> bool:
    """Queue a running job anew, its attempt counted; False where it was tried MOST_ATTEMPTS times, is to
    stop, or is another's by now."""
    with database.transaction() as db:
        done = db.execute(
            "UPDATE job SET status = 'queued', token = NULL, lease_until_us = 0 "
            "WHERE id = ? AND token = ? AND status = 'running' AND NOT cancel_asked AND attempts < ?",
            (lease.job_id, lease.token, MOST_ATTEMPTS),
        )
        return done.rowcount > 0


def ask_cancel(database: Database, job_id: int) -> Job:
    """Cancel a job at once that nobody works on, ask a running one to stop.

    Raises Conflict when it has ended. Has room on a full disk, as a rule.
    """

    def asked(db: sqlite3.Connection) -> Job:
        if not get(db, job_id).open:
            raise Conflict("That job has already ended.")
        at = now_us()
        db.execute(
            "UPDATE job SET cancel_asked = 1, status = 'cancelled', finished_us = ? WHERE id = ? "
            "AND (status = 'queued' OR lease_until_us < ?)",
            (at, job_id, at),
        )
        db.execute("UPDATE job SET cancel_asked = 1 WHERE id = ?", (job_id,))
        return get(db, job_id)

    return database.without_fail(asked)


def pause(database: Database, job_id: int) -> Job:
    """Let a job wait until it is let go on; one that runs stops and begins anew then.

    Raises Conflict when it has ended.
    """

    def paused(db: sqlite3.Connection) -> Job:
        if not get(db, job_id).open:
            raise Conflict("That job has already ended.")
        # Its worker loses the lease, and stops.
        db.execute(
            "UPDATE job SET paused = 1, status = 'queued', token = NULL, lease_until_us = 0, "
            "progress = 0, began = NULL, attempts = max(0, attempts - (status = 'running')) "
            "WHERE id = ?",
            (job_id,),
        )
        return get(db, job_id)

    return database.without_fail(paused)


def resume(database: Database, job_id: int) -> Job:
    """Let a paused job go on."""

    def resumed(db: sqlite3.Connection) -> Job:
        db.execute("UPDATE job SET paused = 0 WHERE id = ?", (job_id,))
        return get(db, job_id)

    return database.without_fail(resumed)


def put_first(database: Database, job_id: int) -> Job:
    """Have a job that waits done before all others of its kind."""

    def moved(db: sqlite3.Connection) -> Job:
        job = get(db, job_id)
        if job.status != "queued":
            raise Conflict("Only what waits can be moved.")
        db.execute(
            "UPDATE job SET rank = (SELECT min(rank) - 1 FROM job WHERE kind = ?) WHERE id = ?",
            (job.kind, job_id),
        )
        return get(db, job_id)

    return database.without_fail(moved)


def get(db: sqlite3.Connection, job_id: int) -> Job:
    """A job. Raises NotFound."""
    row: sqlite3.Row | None = db.execute("SELECT * FROM job WHERE id = ?", (job_id,)).fetchone()
    if row is None:
        raise NotFound("That job is not there any more.")
    return job_of(row)


def exists(db: sqlite3.Connection, job_id: int) -> bool:
    """Whether the job is still there; it goes with its project."""
    return db.execute("SELECT 1 FROM job WHERE id = ?", (job_id,)).fetchone() is not None


def waiting_for(db: sqlite3.Connection, job: Job) -> list[int]:
    """The oldest queued job that a job held up: one of its kind, where only so many may run
    at once, or one for the same recording."""
    rows = db.execute(
        "SELECT id FROM job WHERE kind = ? AND status = 'queued' AND paused = 0 AND "
        "(at_once > 0 OR payload ->> 'source_id' = ?) ORDER BY id LIMIT 1",
        (job.kind, job.payload.source_id),
    )
    return [one["id"] for one in rows]


def of_project(db: sqlite3.Connection, project_id: int) -> list[Job]:
    """The project's jobs, oldest first."""
    rows = db.execute("SELECT * FROM job WHERE project_id = ? ORDER BY id", (project_id,))
    return list(map(job_of, rows))


def recent(db: sqlite3.Connection, project_id: int) -> list[Job]:
    """The project's jobs that are not done yet, and the newest of each kind for each source; oldest
    first."""
    rows = db.execute(
        "SELECT * FROM job WHERE project_id = ? AND (status IN ('queued', 'running') OR id IN "
        "(SELECT max(id) FROM job WHERE project_id = ? "
        "GROUP BY kind, json_extract(payload, '$.source_id'), json_extract(payload, '$.sound_id'))) "
        "ORDER BY id",
        (project_id, project_id),
    )
    return list(map(job_of, rows))


def under_way(
    db: sqlite3.Connection, project_id: int, kind: JobKind, *, begun: bool = False
) -> list[Job]:
    """The jobs of a kind of a project that wait or run, or (``begun``) that run."""
    rows = db.execute(
        "SELECT * FROM job WHERE project_id = ? AND kind = ? "
        "AND status IN ('running', iif(?, 'running', 'queued'))",
        (project_id, kind, begun),
    )
    return list(map(job_of, rows))


def not_done(db: sqlite3.Connection, kind: JobKind) -> list[Job]:
    """The jobs of a kind that may still be done, now or on request."""
    rows = db.execute("SELECT * FROM job WHERE kind = ? AND status != 'done'", (kind,))
    return list(map(job_of, rows))


def orphans(database: Database, held: Collection[Lease] = ()) -> list[int]:
    """Jobs to hand out: queued, or running under a lease that ran out. Hopeless ones are failed.

    ``held`` are leases whose work is known to go on: after a sleep of the machine they are over,
    yet will be renewed.
    """
    with database.transaction() as db:
        at = now_us()
        tokens = json.dumps([lease.token for lease in held])
        over = (
            "status = 'running' AND lease_until_us < ? "
            "AND coalesce(token, '') NOT IN (SELECT value FROM json_each(?))"
        )
        stopped = "The work stopped the worker several times. Nothing else was changed."
        db.execute(
            "UPDATE job SET status = 'failed', finished_us = ?, error = ? "
            f"WHERE {over} AND attempts >= ?",
            (at, stopped, at, tokens, MOST_ATTEMPTS),
        )
        db.execute(
            f"UPDATE job SET status = 'cancelled', finished_us = ? WHERE {over} AND cancel_asked",
            (at, at, tokens),
        )
        rows = db.execute(
            f"SELECT id FROM job WHERE (status = 'queued' AND paused = 0) OR ({over}) ORDER BY id",
            (at, tokens),
        )
        return [row["id"] for row in rows]


def release_all(database: Database) -> None:
    """End every lease: called when a worker starts and no other can be alive."""
    with database.transaction() as db:
        db.execute("UPDATE job SET lease_until_us = 0, token = NULL WHERE status = 'running'")


def requeue(database: Database, job_id: int) -> Job:
    """Queue a failed or cancelled job anew. Raises Conflict for any other."""

    def again(db: sqlite3.Connection) -> Job:
        if get(db, job_id).status not in ("failed", "cancelled"):
            raise Conflict("Only a job that failed or was stopped can be done again.")
        db.execute(
            "UPDATE job SET status = 'queued', error = NULL, attempts = 0, cancel_asked = 0, "
            "progress = 0, farthest = 0, began = NULL, token = NULL, started_us = NULL, paused = 0, "
            "finished_us = NULL WHERE id = ?",
            (job_id,),
        )
        return get(db, job_id)

    return database.without_fail(again)
