"""Deliveries and their files, as they go over the wire."""

from __future__ import annotations

import sqlite3
from collections.abc import Sequence
from itertools import groupby

from pydantic import BaseModel, Field

from mortiser.api.schemas import NoteView
from mortiser.core.delivery.delivered import DeliveredFile
from mortiser.core.project.job import JobStatus
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
    def of(cls, file: DeliveredFile) -> FileView:
        now = now_us()
        return cls(
            id=file.id,
            job_id=file.job.id,
            kind=file.kind,
            output=file.part.output if file.part else None,
            name=file.name,
            size=file.size,
            status=file.job.status,
            paused=file.job.paused,
            progress=file.job.progress,
            frames=file.frames,
            speed=file.speed(now),
            seconds_left=file.job.seconds_left(now),
            error=file.job.error,
            report=NoteView.of(file.job),
        )


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
        files = deliveries.files_of_project(db, project_id)
        grouped = groupby(files, key=lambda file: file.delivery.id)
        return [cls.of(list(mine)) for _, mine in grouped]

    @classmethod
    def of(cls, made: Sequence[DeliveredFile]) -> DeliveryView:
        """Of its files."""
        delivery, files = made[0].delivery, [FileView.of(file) for file in made]
        return cls(
            id=delivery.id,
            piece_id=delivery.piece_id,
            status=_status([file.status for file in files]),
            created_us=delivery.created_us,
            revision=delivery.revision,
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
