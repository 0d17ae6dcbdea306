"""Copies of whole projects."""

from __future__ import annotations

import sqlite3
from collections.abc import Callable, Mapping
from dataclasses import dataclass

from mortiser.core.assembly.cutaway import STORED as CUTAWAYS
from mortiser.core.assembly.grade import STORED as GRADES
from mortiser.core.assembly.joining import STORED as JOINS
from mortiser.core.framing.layer import STORED as LAYERS
from mortiser.core.framing.shape import STORED as SHAPES
from mortiser.core.project.job import JOB_SPECS
from mortiser.store import jobs
from mortiser.store.database import Database, now_us
from mortiser.store.projects import read_project
from mortiser.store.rows import insert

CONTINUED = [kind for kind, spec in JOB_SPECS.items() if spec.continued]


@dataclass(frozen=True)
class Copied:
    """A project's copy, and the jobs that were queued for it."""

    project_id: int
    jobs: tuple[int, ...]


def duplicate_project(database: Database, project_id: int, new_paths: dict[str, str]) -> Copied:
    """A copy with its words, cues and looks; ``new_paths`` maps stored files to their copies.

    What is still being worked out for the original is queued for the copy as well.

    The journal and the deliveries stay with the original.
    """
    with database.transaction() as db:
        old = read_project(db, project_id)
        at = now_us()
        copy = insert(db, "project", name=f"{old.name} (copy)", created_us=at, changed_us=at)
        sources = _copy_rows(db, "source", "project_id = ?", project_id, {"project_id": copy})
        for new in sources.values():
            for column in ("path", "proxy_path"):
                row = db.execute(f"SELECT {column} FROM source WHERE id = ?", (new,)).fetchone()
                if row[0]:
                    # A browser copy that has come since then is made once more.
                    path = new_paths.get(row[0]) if column == "proxy_path" else new_paths[row[0]]
                    db.execute(f"UPDATE source SET {column} = ? WHERE id = ?", (path, new))
        for source, new in sources.items():
            for row in db.execute("SELECT * FROM microphone WHERE source_id = ?", (source,)):
                values = {key: row[key] for key in ("offset_us", "drift_ppm", "sure")}
                sound = sources[row["sound_id"]]
                insert(db, "microphone", source_id=new, sound_id=sound, **values)
        words: dict[int, int] = {}
        for source, new in sources.items():
            words |= _copy_rows(db, "word", "source_id = ?", source, {"source_id": new})
        for source, new in sources.items():
            db.execute(
                "INSERT INTO subject (source_id, tracks, looked) "
                "SELECT ?, tracks, looked FROM subject WHERE source_id = ?",
                (new, source),
            )
        pieces = _copy_rows(db, "piece", "project_id = ?", project_id, {"project_id": copy})
        _copy_shapes(db, pieces, sources)
        for old_piece, new_piece in pieces.items():
            strands: dict[int, int] = {}
            for row in db.execute("SELECT * FROM strand WHERE piece_id = ?", (old_piece,)):
                values = {key: row[key] for key in ("start_us", "end_us")}
                values["source_id"] = sources[row["source_id"]]
                strands[row["id"]] = insert(db, "strand", piece_id=new_piece, **values)
            for clip in db.execute("SELECT * FROM clip WHERE piece_id = ?", (old_piece,)):
                values = {key: clip[key] for key in ("position", "start_us", "end_us")}
                strand = strands[clip["strand_id"]]
                insert(db, "clip", piece_id=new_piece, strand_id=strand, **values)
            cues = _copy_rows(db, "cue", "piece_id = ?", old_piece, {"piece_id": new_piece})
            for cue, new_cue in cues.items():
                rows = db.execute("SELECT * FROM shown_word WHERE cue_id = ?", (cue,)).fetchall()
                for row in rows:
                    values = {key: row[key] for key in row.keys() if key != "id"}  # noqa: SIM118
                    values |= {
                        "cue_id": new_cue,
                        "word_id": words[row["word_id"]],
                        "strand_id": strands[row["strand_id"]],
                    }
                    insert(db, "shown_word", **values)
        return Copied(copy, _continued(db, project_id, copy, sources, pieces))


def _copy_shapes(db: sqlite3.Connection, pieces: dict[int, int], sources: dict[int, int]) -> None:
    """What names sources names those of the copies in the copies."""
    columns = ", ".join(NAMING_SOURCES)
    for new in pieces.values():
        row = db.execute(f"SELECT {columns} FROM piece WHERE id = ?", (new,)).fetchone()
        for column, copied in NAMING_SOURCES.items():
            if row[column]:
                text = copied(row[column], sources)
                db.execute(f"UPDATE piece SET {column} = ? WHERE id = ?", (text, new))


Sources = Mapping[int, int]
NAMING_SOURCES: dict[str, Callable[[str, Sources], str]] = {
    "shapes": lambda text, sources: SHAPES.write(
        tuple(one.of_copies(sources) for one in SHAPES.read(text))
    ),
    "layers": lambda text, sources: LAYERS.write(
        tuple(one.of_copies(sources) for one in LAYERS.read(text))
    ),
    "cutaways": lambda text, sources: CUTAWAYS.write(
        tuple(one.of_copies(sources) for one in CUTAWAYS.read(text))
    ),
    "joins": lambda text, sources: JOINS.write(JOINS.read(text).of_copies(sources)),
    "grades": lambda text, sources: GRADES.write(GRADES.read(text).of_copies(sources)),
}
"""Columns of pieces that name sources, and what they are for copies of these."""


def _continued(
    db: sqlite3.Connection,
    project_id: int,
    copy: int,
    sources: dict[int, int],
    pieces: dict[int, int],
) -> tuple[int, ...]:
    """Queue what is not done yet for the copy."""
    marks = ", ".join("?" for _ in CONTINUED)
    rows = db.execute(
        f"SELECT * FROM job WHERE project_id = ? AND kind IN ({marks}) AND "
        "status IN ('queued', 'running') ORDER BY id",
        (project_id, *CONTINUED),
    ).fetchall()
    found = []
    for row in rows:
        job = jobs.job_of(row)
        ids = {"source_id": sources, "sound_id": sources, "piece_id": pieces}
        found.append(jobs.add_in(db, copy, job.kind, job.payload.in_copy(ids)))
    return tuple(found)


def _copy_rows(
    db: sqlite3.Connection, table: str, where: str, value: int, change: dict[str, int]
) -> dict[int, int]:
    """Copy rows with some columns changed; old ids to new ids."""
    ids: dict[int, int] = {}
    rows = db.execute(f"SELECT * FROM {table} WHERE {where} ORDER BY id", (value,)).fetchall()
    for row in rows:
        values = {key: row[key] for key in row.keys() if key != "id"}  # noqa: SIM118
        ids[row["id"]] = insert(db, table, **(values | change))
    return ids
