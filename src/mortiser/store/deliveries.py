"""Deliveries: what was ordered of a piece, and the files that are made of it, a job each."""

from __future__ import annotations

import sqlite3
from collections.abc import Callable, Sequence
from dataclasses import fields, replace
from datetime import date

from mortiser.core.common.errors import BadInput, Conflict, NotFound
from mortiser.core.common.time import SECOND
from mortiser.core.delivery.delivered import DeliveredFile, Delivery
from mortiser.core.delivery.estimate import Expected, expected
from mortiser.core.delivery.order import Order, OrderedFile, OrderedSource, PieceStretch
from mortiser.core.project.job_payloads import DeliverPayload
from mortiser.core.project.output import Outputs, VideoFile
from mortiser.core.project.piece import Piece
from mortiser.core.project.source import Source
from mortiser.store import jobs, projects
from mortiser.store.database import Database, now_us
from mortiser.store.rows import insert

ONE, SEVERAL = "{project}", "{project} {piece}"
"""Names of files where nobody has said otherwise: of a project's one piece, of one of several."""
REMEMBERED = 8
SOON = -0.5
"""The rank of files that are made in a moment: they go before videos."""


def order(
    database: Database,
    piece_id: int,
    today: date,
    shape_ids: Sequence[int] = (),
    stretches: Sequence[PieceStretch] = (),
    need: Callable[[int], None] = lambda _: None,
) -> tuple[int, list[int]]:
    """Order a delivery of a piece as it is now, in some of its shapes or in all, of some stretches or of all
    of it; its id and those of the jobs that make its files. ``need`` is told how many bytes that will take,
    and may raise. Raises BadInput."""
    with database.transaction() as db:
        found, parts = planned(db, piece_id, today, shape_ids, stretches)
        need(round(sum(part.size for part in parts)))
        _check_lengths(found.piece, parts)
        revision = projects.read_project(db, found.project_id).revision
        delivery = insert(
            db,
            "delivery",
            project_id=found.project_id,
            piece_id=piece_id,
            stem=found.stem,
            revision=revision,
            created_us=now_us(),
            ordered=found.model_dump_json(),
        )
        made: list[int] = []
        for part in parts:
            rank = 0 if isinstance(part.output, VideoFile) else SOON
            job = jobs.add_in(
                db, found.project_id, "deliver", DeliverPayload(piece_id=piece_id), rank
            )
            insert(
                db,
                "delivered_file",
                delivery_id=delivery,
                job_id=job,
                kind=part.output.ending,
                name=part.name,
                part=part.model_dump_json(),
            )
            made.append(job)
        return delivery, made


def planned(
    db: sqlite3.Connection,
    piece_id: int,
    today: date,
    shape_ids: Sequence[int] = (),
    stretches: Sequence[PieceStretch] = (),
    outputs: Outputs = (),
) -> tuple[Order, list[OrderedFile]]:
    """An order and its files as they would be made now, as the piece says or of other outputs. Raises
    BadInput, NotFound."""
    piece = projects.piece(db, piece_id)
    if outputs:
        piece = replace(piece, settings=replace(piece.settings, outputs=outputs))
    project = projects.read_project(db, piece.project_id).name
    for shape_id in shape_ids:
        piece.in_shape(shape_id)
    for one in stretches:
        if not 0 <= one.start_us < one.end_us <= piece.timeline.duration_us:
            raise BadInput("A stretch begins before it ends, and lies within the piece.")
    several = len(projects.pieces(db, piece.project_id)) > 1
    found = Order.of(
        piece,
        projects.piece_cues(db, piece_id),
        ordered_sources(db, piece.project_id),
        piece.settings.naming or (SEVERAL if several and piece.settings.name != project else ONE),
        shape_ids,
        stretches,
        {
            "project": project,
            "piece": piece.settings.name,
            "date": today.isoformat(),
            "number": f"{_number(db, piece_id):02d}",
        },
    )
    fineness = _fineness(projects.read_source(db, piece.source_id))
    return found, [_thought(found, part, fineness) for part in found.parts()]


def _thought(found: Order, part: OrderedFile, fineness: float) -> OrderedFile:
    """A file with what it is thought to come to."""
    length = _length_us(found.piece, part) / SECOND
    shape = found.of_part(part).piece.in_shape().size
    come = expected(part.output, shape, part.frames, length, fineness)
    return part.model_copy(update={"size": come.size, "seconds": come.seconds})


def _fineness(source: Source) -> float:
    """Bits for each pixel of each frame of a recording."""
    pixels = source.width * source.height * source.frame_count
    return 8 * source.size_bytes / pixels if pixels else 0.0


def _length_us(piece: Piece, part: OrderedFile) -> int:
    return (
        part.stretch.end_us - part.stretch.start_us if part.stretch else piece.timeline.duration_us
    )


def came_to(db: sqlite3.Connection, form: str) -> list[tuple[Expected, Expected]]:
    """What the newest files of a form of video were thought to come to, and came to."""
    rows = db.execute(
        "SELECT part, size, job.started_us, job.finished_us FROM delivered_file "
        "JOIN job ON job.id = delivered_file.job_id WHERE job.status = 'done' AND size > 0 "
        "AND part ->> '$.output.form' = ? AND part ->> '$.seconds' > 0 "
        "ORDER BY delivered_file.id DESC LIMIT ?",
        (form, REMEMBERED),
    )
    found: list[tuple[Expected, Expected]] = []
    for row in rows:
        part = OrderedFile.model_validate_json(row["part"])
        took = Expected(row["size"], (row["finished_us"] - row["started_us"]) / SECOND)
        found.append((Expected(part.size, part.seconds), took))
    return found


def _check_lengths(piece: Piece, parts: Sequence[OrderedFile]) -> None:
    """Raise BadInput where a form of video is for shorter stretches, or the size that is allowed for it."""
    for part in parts:
        if not isinstance(part.output, VideoFile):
            continue
        facts, length = part.output.facts, _length_us(piece, part)
        if (least := part.output.too_small_for(length)) is not None:
            raise BadInput(
                f"{part.output.most_mb:g} MB are too few for {length / SECOND:.0f} s of video. Allow {least:g} MB "
                "at least, or deliver a shorter stretch."
            )
        if facts.longest_us is not None and length > facts.longest_us:
            raise BadInput(
                f"{facts.name} is for stretches of {facts.longest_us // SECOND} s at most, "
                f"and this one has {length / SECOND:.0f} s. Deliver a stretch of the piece, or leave it out."
            )


def _number(db: sqlite3.Connection, piece_id: int) -> int:
    """Which of the piece's deliveries the next one is, from 1."""
    row = db.execute("SELECT count(*) FROM delivery WHERE piece_id = ?", (piece_id,)).fetchone()
    return int(row[0]) + 1


def ordered_sources(db: sqlite3.Connection, project_id: int) -> list[OrderedSource]:
    """The project's recordings, as an order names them."""
    return [
        OrderedSource(
            id=row.id,
            path=row.path,
            name=row.name,
            size_bytes=row.size_bytes,
            duration_us=row.duration_us,
            audio_track=row.audio_track,
            language=row.language,
            sound=row.laid_path,
            sound_key=_sound_key(row),
        )
        for row in projects.read_sources(db, project_id)
    ]


def _sound_key(row: Source) -> str:
    laid = row.microphone
    return laid.key if laid else ""


def order_of(db: sqlite3.Connection, delivery_id: int) -> Order | None:
    """What a delivery was ordered as; None of one from a version that did not keep that, or of which all is
    made."""
    row = db.execute("SELECT ordered FROM delivery WHERE id = ?", (delivery_id,)).fetchone()
    return Order.model_validate_json(row["ordered"]) if row and row["ordered"] else None


DELIVERY_COLUMNS = tuple(one.name for one in fields(Delivery))
FILES = (
    "SELECT delivered_file.id, delivered_file.kind, delivered_file.name, delivered_file.size, delivered_file.part, "
    "project.name AS project, "
    + ", ".join(f"delivery.{name} AS delivery_{name}" for name in DELIVERY_COLUMNS)
    + ", "
    + ", ".join(f"job.{name} AS job_{name}" for name in jobs.JOB_COLUMNS)
    + " FROM delivered_file "
    "JOIN delivery ON delivery.id = delivered_file.delivery_id "
    "JOIN project ON project.id = delivery.project_id "
    "JOIN job ON job.id = delivered_file.job_id "
)


def _file(row: sqlite3.Row) -> DeliveredFile:
    """The file in a row of FILES."""
    delivery = Delivery(**{name: row[f"delivery_{name}"] for name in DELIVERY_COLUMNS})
    part = OrderedFile.model_validate_json(row["part"]) if row["part"] else None
    about = {name: row[name] for name in ("id", "project", "kind", "name", "size")}
    return DeliveredFile(delivery=delivery, part=part, job=jobs.job_of(row, "job_"), **about)


def files_of_project(db: sqlite3.Connection, project_id: int) -> list[DeliveredFile]:
    """The files of the project's deliveries with their jobs: the newest delivery first, files in order."""
    rows = db.execute(
        FILES + "WHERE delivery.project_id = ? ORDER BY delivery_id DESC, delivered_file.id",
        (project_id,),
    )
    return list(map(_file, rows))


def files_of(db: sqlite3.Connection, delivery_id: int) -> list[DeliveredFile]:
    """A delivery's files with their jobs, in order."""
    rows = db.execute(
        FILES + "WHERE delivered_file.delivery_id = ? ORDER BY delivered_file.id", (delivery_id,)
    )
    return list(map(_file, rows))


def waiting(db: sqlite3.Connection) -> list[DeliveredFile]:
    """The files of all projects that are being made or wait, in the order they are made in."""
    rows = db.execute(
        FILES + "WHERE job.status IN ('running', 'queued') "
        "ORDER BY job.status = 'queued', job.paused, job.rank, job.id"
    )
    return list(map(_file, rows))


def file_of_job(db: sqlite3.Connection, job_id: int) -> DeliveredFile:
    """The file a job makes. Raises NotFound."""
    row = db.execute(FILES + "WHERE delivered_file.job_id = ?", (job_id,)).fetchone()
    if row is None:
        raise NotFound("That delivery is not there any more.")
    return _file(row)


def get(db: sqlite3.Connection, delivery_id: int) -> Delivery:
    """One delivery. Raises NotFound."""
    row = db.execute(
        f"SELECT {', '.join(DELIVERY_COLUMNS)} FROM delivery WHERE id = ?", (delivery_id,)
    ).fetchone()
    if row is None:
        raise NotFound("That delivery is not there any more.")
    return Delivery(*row)


def ids(db: sqlite3.Connection, project_id: int) -> list[int]:
    """The project's deliveries."""
    rows = db.execute("SELECT id FROM delivery WHERE project_id = ?", (project_id,))
    return [row["id"] for row in rows]


def set_made(database: Database, file_id: int, size: int) -> None:
    """Note a complete file of so many bytes; has room on a full disk, as a rule. An order of which all is made
    is not needed any more."""

    def noted(db: sqlite3.Connection) -> None:
        db.execute("UPDATE delivered_file SET size = ? WHERE id = ?", (size, file_id))
        db.execute(
            "UPDATE delivery SET ordered = '' WHERE id = (SELECT delivery_id FROM delivered_file "
            "WHERE id = ?) AND NOT EXISTS (SELECT 1 FROM delivered_file AS other WHERE "
            "other.delivery_id = delivery.id AND other.size = 0)",
            (file_id,),
        )

    database.without_fail(noted)


def remove(database: Database, delivery_id: int) -> None:
    """Forget a delivery of which nothing is being made; its files are the caller's to remove. Raises
    NotFound, Conflict."""
    with database.transaction() as db:
        get(db, delivery_id)
        for file in files_of(db, delivery_id):
            if file.job.status == "running":
                raise Conflict("A file of it is being made. Stop that first.")
        db.execute(
            "DELETE FROM job WHERE id IN (SELECT job_id FROM delivered_file WHERE delivery_id = ?)",
            (delivery_id,),
        )
        db.execute("DELETE FROM delivery WHERE id = ?", (delivery_id,))
