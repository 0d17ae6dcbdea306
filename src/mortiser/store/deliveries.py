"""Deliveries: what a piece was made into, with the files that are complete."""

from __future__ import annotations

import json
import sqlite3
from typing import TypedDict

from mortiser.core.errors import NotFound
from mortiser.store import jobs
from mortiser.store.database import Database


class DeliveredFile(TypedDict):
    """A finished file: its kind (mp4, srt, vtt), name and size in bytes."""

    kind: str
    name: str
    size: int


def add(database: Database, project_id: int, piece_id: int, stem: str) -> tuple[int, int]:
    """A delivery of the piece as it is now and the job that makes it; both ids."""
    with database.transaction() as db:
        revision = db.execute("SELECT revision FROM project WHERE id = ?", (project_id,)).fetchone()
        job = jobs.add_in(db, project_id, "deliver", {"piece_id": piece_id})
        cursor = db.execute(
            "INSERT INTO delivery (piece_id, job_id, stem, revision) VALUES (?, ?, ?, ?)",
            (piece_id, job, stem, revision["revision"]),
        )
        return int(cursor.lastrowid or 0), job


def of_job(db: sqlite3.Connection, job_id: int) -> sqlite3.Row:
    """The delivery a job makes. Raises NotFound."""
    return _one(db, "job_id", job_id)


def get(db: sqlite3.Connection, delivery_id: int) -> sqlite3.Row:
    """One delivery. Raises NotFound."""
    return _one(db, "id", delivery_id)


def of_project(db: sqlite3.Connection, project_id: int) -> list[sqlite3.Row]:
    """The project's deliveries with their jobs, newest first."""
    return db.execute(
        "SELECT delivery.*, job.status, job.progress, job.error, job.started_us, job.began, "
        "job.created_us "
        "FROM delivery JOIN job ON job.id = delivery.job_id WHERE job.project_id = ? "
        "ORDER BY delivery.id DESC",
        (project_id,),
    ).fetchall()


def set_files(database: Database, delivery_id: int, files: list[DeliveredFile]) -> None:
    """Note the complete files; has room on a full disk, as a rule."""
    change = "UPDATE delivery SET files = ? WHERE id = ?"
    database.without_fail(lambda db: db.execute(change, (json.dumps(files), delivery_id)))


def _one(db: sqlite3.Connection, column: str, value: int) -> sqlite3.Row:
    row: sqlite3.Row | None = db.execute(
        f"SELECT * FROM delivery WHERE {column} = ?", (value,)
    ).fetchone()
    if row is None:
        raise NotFound("That delivery is not there any more.")
    return row
