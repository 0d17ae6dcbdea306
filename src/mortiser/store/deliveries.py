"""Deliveries: what was ordered of a piece, and the files that were made of it."""

from __future__ import annotations

import sqlite3
from collections.abc import Collection, Sequence
from dataclasses import dataclass

from mortiser.core.errors import NotFound
from mortiser.core.order import Order, OrderedSource
from mortiser.store import jobs, projects
from mortiser.store.database import Database


@dataclass(frozen=True)
class DeliveredFile:
    """A finished file: its kind (mp4, srt, vtt), name and size in bytes."""

    kind: str
    name: str
    size: int


def order(
    database: Database, piece_id: int, stem: str, shape_ids: Sequence[int] = ()
) -> tuple[int, int]:
    """Order a delivery of a piece as it is now, in some of its shapes or in all; its id and that of the
    job that makes it."""
    with database.transaction() as db:
        piece = projects.piece(db, piece_id)
        cues = projects.piece_cues(db, piece_id)
        sources = ordered_sources(db, piece.project_id)
        ordered = Order.of(piece, cues, sources, stem, shape_ids=shape_ids)
        revision = projects.project_row(db, piece.project_id)["revision"]
        job = jobs.add_in(db, piece.project_id, "deliver", {"piece_id": piece_id})
        cursor = db.execute(
            "INSERT INTO delivery (piece_id, job_id, stem, revision, ordered) "
            "VALUES (?, ?, ?, ?, ?)",
            (piece_id, job, stem, revision, ordered.model_dump_json()),
        )
        return int(cursor.lastrowid or 0), job


def ordered_sources(db: sqlite3.Connection, project_id: int) -> list[OrderedSource]:
    """The project's recordings, as an order names them."""
    return [
        OrderedSource(
            id=row["id"],
            path=row["path"],
            duration_us=row["duration_us"],
            audio_track=row["audio_track"],
            sound=projects.laid_path(row),
            sound_key=_sound_key(row),
        )
        for row in projects.source_rows(db, project_id)
    ]


def _sound_key(row: projects.SourceRow) -> str:
    laid = projects.microphone_of(row)
    return laid.key if laid else ""


def ordered(row: sqlite3.Row) -> Order | None:
    """What a delivery was ordered as; None of one from a version that did not keep that."""
    return Order.model_validate_json(row["ordered"]) if row["ordered"] else None


def files_of(
    db: sqlite3.Connection, delivery_ids: Collection[int]
) -> dict[int, list[DeliveredFile]]:
    """The files of deliveries, by the delivery's id."""
    found: dict[int, list[DeliveredFile]] = {delivery_id: [] for delivery_id in delivery_ids}
    marks = ", ".join("?" for _ in found)
    for row in db.execute(
        f"SELECT * FROM delivered_file WHERE delivery_id IN ({marks}) ORDER BY id", tuple(found)
    ):
        found[row["delivery_id"]].append(DeliveredFile(row["kind"], row["name"], row["size"]))
    return found


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


def set_files(database: Database, delivery_id: int, files: Sequence[DeliveredFile]) -> None:
    """Note the complete files; has room on a full disk, as a rule. The order is not needed any more."""

    def noted(db: sqlite3.Connection) -> None:
        db.execute("DELETE FROM delivered_file WHERE delivery_id = ?", (delivery_id,))
        db.executemany(
            "INSERT INTO delivered_file (delivery_id, kind, name, size) VALUES (?, ?, ?, ?)",
            [(delivery_id, file.kind, file.name, file.size) for file in files],
        )
        db.execute("UPDATE delivery SET ordered = '' WHERE id = ?", (delivery_id,))

    database.without_fail(noted)


def _one(db: sqlite3.Connection, column: str, value: int) -> sqlite3.Row:
    row: sqlite3.Row | None = db.execute(
        f"SELECT * FROM delivery WHERE {column} = ?", (value,)
    ).fetchone()
    if row is None:
        raise NotFound("That delivery is not there any more.")
    return row
