"""The workspace's own paces, by name."""

from __future__ import annotations

import sqlite3

from mortiser.core.captions.pace import PACES, STORED, Pace
from mortiser.core.common.errors import BadInput, NotFound
from mortiser.store.database import Database

MOST_LETTERS = 40


def saved(db: sqlite3.Connection) -> list[tuple[int, str, Pace]]:
    """(id, name, pace) of all, by name."""
    rows = db.execute("SELECT * FROM saved_pace ORDER BY name COLLATE NOCASE")
    return [(row["id"], row["name"], STORED.read(row["pace"])) for row in rows]


def save(database: Database, name: str, pace: Pace) -> tuple[int, str]:
    """Keep a pace under a name, in the place of one of that name; its id and that name.

    Raises BadInput.
    """
    clean = " ".join(name.split())
    if not clean or len(clean) > MOST_LETTERS:
        raise BadInput(f"A pace needs a name of 1 to {MOST_LETTERS} letters.")
    if clean.casefold() in PACES:
        raise BadInput(f"“{clean}” is built in. Choose another name.")
    with database.transaction() as db:
        db.execute(
            "INSERT INTO saved_pace (name, pace) VALUES (?, ?) "
            "ON CONFLICT (name) DO UPDATE SET pace = excluded.pace",
            (clean, STORED.write(pace)),
        )
        row = db.execute("SELECT id FROM saved_pace WHERE name = ?", (clean,)).fetchone()
        return int(row["id"]), clean


def remove(database: Database, pace_id: int) -> None:
    """Forget a saved pace; pieces that have it keep it. Raises NotFound."""
    with database.transaction() as db:
        if not db.execute("DELETE FROM saved_pace WHERE id = ?", (pace_id,)).rowcount:
            raise NotFound("That pace is not there any more.")
