"""The workspace's own jigs, by name."""

from __future__ import annotations

import sqlite3

from mortiser.core.common.errors import BadInput, NotFound
from mortiser.core.project.jig import JIGS, STORED, Jig
from mortiser.store.database import Database


def saved(db: sqlite3.Connection) -> list[tuple[int, Jig]]:
    """(id, jig) of all, by name."""
    rows = db.execute("SELECT id, jig FROM saved_jig ORDER BY name COLLATE NOCASE")
    return [(row["id"], STORED.read(row["jig"])) for row in rows]


def get(db: sqlite3.Connection, jig_id: int) -> Jig:
    """One of them. Raises NotFound."""
    row = db.execute("SELECT jig FROM saved_jig WHERE id = ?", (jig_id,)).fetchone()
    if row is None:
        raise NotFound("That jig is not there any more.")
    return STORED.read(row["jig"])


def save(database: Database, jig: Jig) -> int:
    """Keep a jig, in the place of one of its name; its id. Raises BadInput."""
    if any(jig.name.casefold() == one.name.casefold() for one in JIGS):
        raise BadInput(f"“{jig.name}” is built in. Choose another name.")
    with database.transaction() as db:
        db.execute(
            "INSERT INTO saved_jig (name, jig) VALUES (?, ?) "
            "ON CONFLICT (name) DO UPDATE SET jig = excluded.jig",
            (jig.name, STORED.write(jig)),
        )
        row = db.execute("SELECT id FROM saved_jig WHERE name = ?", (jig.name,)).fetchone()
        return int(row["id"])


def remove(database: Database, jig_id: int) -> None:
    """Forget a saved jig; pieces made with it stay as they are. Raises NotFound."""
    with database.transaction() as db:
        if not db.execute("DELETE FROM saved_jig WHERE id = ?", (jig_id,)).rowcount:
            raise NotFound("That jig is not there any more.")
