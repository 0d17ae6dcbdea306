"""Faces that were found in recordings."""

from __future__ import annotations

import sqlite3
from collections.abc import Collection

from mortiser.core.subject import Tracks, tracks_of, tracks_text
from mortiser.store.database import Database


def keep(database: Database, source_id: int, tracks: Tracks) -> None:
    """Note the faces of a source, in place of those that were known."""
    with database.transaction() as db:
        db.execute(
            "INSERT INTO subject (source_id, tracks) VALUES (?, ?) "
            "ON CONFLICT (source_id) DO UPDATE SET tracks = excluded.tracks",
            (source_id, tracks_text(tracks)),
        )


def of_sources(db: sqlite3.Connection, source_ids: Collection[int]) -> dict[int, Tracks]:
    """The faces of sources, as far as somebody has looked for them."""
    marks = ", ".join("?" for _ in source_ids)
    rows = db.execute(
        f"SELECT source_id, tracks FROM subject WHERE source_id IN ({marks})", tuple(source_ids)
    )
    return {row["source_id"]: tracks_of(row["tracks"]) for row in rows}


def looked_for(db: sqlite3.Connection, project_id: int) -> set[int]:
    """The sources of a project whose faces are known."""
    rows = db.execute(
        "SELECT source_id FROM subject JOIN source ON source.id = source_id WHERE project_id = ?",
        (project_id,),
    )
    return {row["source_id"] for row in rows}
