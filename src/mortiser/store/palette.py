"""The workspace's own colours."""

from __future__ import annotations

import sqlite3

from mortiser.core.common.errors import BadInput
from mortiser.store.database import Database

MOST_COLOURS = 40


def colours(db: sqlite3.Connection) -> list[str]:
    """All of them as #rrggbb, in the order they were kept."""
    return [row["colour"] for row in db.execute("SELECT colour FROM palette ORDER BY rowid")]


def keep(database: Database, colour: str) -> None:
    """Keep a colour (#rrggbb). Raises BadInput where the palette is full."""
    with database.transaction() as db:
        if len(colours(db)) >= MOST_COLOURS:
            raise BadInput(f"The palette holds {MOST_COLOURS} colours. Take one out first.")
        db.execute("INSERT OR IGNORE INTO palette (colour) VALUES (?)", (colour.lower(),))


def forget(database: Database, colour: str) -> None:
    """Take a colour out."""
    with database.transaction() as db:
        db.execute("DELETE FROM palette WHERE colour = ?", (colour.lower(),))
