"""Faces that were found in recordings."""

from __future__ import annotations

import sqlite3
from collections.abc import Collection

from mortiser.core.framing.following import Turn
from mortiser.core.framing.subject import Track, Tracks, tracks_of, tracks_text
from mortiser.store.database import Database

MOST_DRAWN = 24


def keep(database: Database, source_id: int, tracks: Tracks) -> None:
    """Note the faces of a source, in place of those that were known; what was drawn by hand stays."""
    with database.transaction() as db:
        drawn = [one for one in of_sources(db, [source_id]).get(source_id, ()) if one.drawn]
        _set(db, source_id, (*tracks, *drawn))
        db.execute("UPDATE subject SET looked = 1 WHERE source_id = ?", (source_id,))


def add(database: Database, source_id: int, track: Track) -> None:
    """Note one more that is followed in a source; the oldest of too many that were drawn go."""
    with database.transaction() as db:
        known = of_sources(db, [source_id]).get(source_id, ())
        drawn = [one for one in known if one.drawn][-MOST_DRAWN + 1 :]
        _set(db, source_id, (*(one for one in known if not one.drawn), *drawn, track))


def turns_of(db: sqlite3.Connection, source_ids: Collection[int]) -> dict[int, tuple[Turn, ...]]:
    """Who speaks when in sources, in time order; words of one speaker on end are one turn."""
    marks = ", ".join("?" for _ in source_ids)
    rows = db.execute(
        f"SELECT source_id, speaker, start_us, end_us FROM word WHERE source_id IN ({marks}) "
        "AND speaker IS NOT NULL AND speaker != '' ORDER BY source_id, start_us",
        tuple(source_ids),
    )
    found: dict[int, list[Turn]] = {}
    for row in rows:
        turns = found.setdefault(row["source_id"], [])
        if turns and turns[-1].speaker == row["speaker"]:
            turns[-1] = Turn(turns[-1].start_us, row["end_us"], row["speaker"])
        else:
            turns.append(Turn(row["start_us"], row["end_us"], row["speaker"]))
    return {source_id: tuple(turns) for source_id, turns in found.items()}


def _set(db: sqlite3.Connection, source_id: int, tracks: Tracks) -> None:
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
        "SELECT source_id FROM subject JOIN source ON source.id = source_id "
        "WHERE project_id = ? AND looked",
        (project_id,),
    )
    return {row["source_id"] for row in rows}
