"""Deliveries and their files, as they go over the wire."""

from __future__ import annotations

import json
import sqlite3
from collections.abc import Sequence
from itertools import groupby

from pydantic import BaseModel, Field

from mortiser.api.schemas import JobStatus, NoteView, seconds_left
from mortiser.core.delivery.order import OrderedFile
from mortiser.core.project.output import Output
from mortiser.store import deliveries
from mortiser.store.database import now_us

UNDER_WAY = ("running", "queued")


class FileView(BaseModel):
    id: int
    job_id: int
    kind: str = Field(description="The ending of its name.")
    output: Output | None = Field(description="What it is; not known of older ones.")
    name: str
    size: int = Field(description="In bytes; 0 until it is made.")
    status: JobStatus
    paused: bool
    progress: float
    frames: int = Field(description="How many it has, more or less; 0 of what has none.")
    speed: float | None = Field(description="Frames made a second, while it is made.")
    seconds_left: float | None
    error: str | None
    report: list[NoteView] = Field(description="What there is to tell of it.")

    @classmethod
    def of(cls, row: sqlite3.Row) -> FileView:
        part = OrderedFile.model_validate_json(row["part"]) if row["part"] else None
        frames = part.frames if part else 0
        return cls(
            id=row["id"],
            job_id=row["job_id"],
            kind=row["kind"],
            output=part.output if part else None,
            name=row["name"],
            size=row["size"],
            status=row["status"],
            paused=bool(row["paused"]),
            progress=row["progress"],
            frames=frames,
            speed=_speed(row, frames),
            seconds_left=seconds_left(row),
            error=row["error"],
            report=json.loads(row["report"]),
        )


def _speed(row: sqlite3.Row, frames: int) -> float | None:
    if row["status"] != "running" or row["began"] is None or not frames:
        return None
    spent = (now_us() - row["started_us"]) / 1e6
    made = (row["progress"] - row["began"]) * frames
    return float(made / spent) if spent > 0 and made > 0 else None


class DeliveryView(BaseModel):
    id: int
    piece_id: int | None = Field(description="None where the piece is gone.")
    status: JobStatus = Field(description="Done when all files are.")
    created_us: int
    revision: int
    files: list[FileView]

    @classmethod
    def of_project(cls, db: sqlite3.Connection, project_id: int) -> list[DeliveryView]:
        """The project's deliveries, newest first."""
        rows = deliveries.files_of_project(db, project_id)
        grouped = groupby(rows, key=lambda row: row["delivery_id"])
        return [cls.of(list(files)) for _, files in grouped]

    @classmethod
    def of(cls, rows: Sequence[sqlite3.Row]) -> DeliveryView:
        """Of its files."""
        files = [FileView.of(row) for row in rows]
        first = rows[0]
        return cls(
            id=first["delivery_id"],
            piece_id=first["piece_id"],
            status=_status([file.status for file in files]),
            created_us=first["ordered_us"],
            revision=first["revision"],
            files=files,
        )


def _status(files: Sequence[JobStatus]) -> JobStatus:
    order: tuple[JobStatus, ...] = ("running", "queued", "failed", "cancelled")
    return next((one for one in order if one in files), "done")


class QueuedView(BaseModel):
    """A file that is being made or waits, of any project."""

    project_id: int
    project: str
    delivery_id: int
    file: FileView


class PlannedView(BaseModel):
    """A file as it would be made now."""

    output: Output
    name: str
    size: float = Field(description="Expected, in bytes.")
    seconds: float = Field(description="Expected time to make it.")
    not_held: list[str] = Field(description="What the piece has that the file will not have.")


class OutputSetBody(BaseModel):
    name: str = Field(max_length=200)
    outputs: list[Output] = Field(min_length=1, max_length=24)


class OutputSetView(OutputSetBody):
    id: int | None = Field(description="None for a built-in one.")
    about: str = ""


class FormView(BaseModel):
    form: str
    name: str
    about: str
    sound: bool
    switchable: bool
    sized: bool = Field(description="Whether it can be kept to a size.")
    loops: bool
