"""What the workspace prefers: texts by name."""

from __future__ import annotations

import sqlite3

from mortiser.store.database import Database


def preferred(db: sqlite3.Connection, name: str) -> str | None:
    """What was chosen; None where nothing was."""
    row = db.execute("SELECT value FROM preference WHERE name = ?", (name,)).fetchone()
    return str(row["value"]) if row else None


def prefer(database: Database, name: str, value: str | None) -> None:
    """Choose something from now on; None chooses nothing."""
    with database.transaction() as db:
        if value is None:
            db.execute("DELETE FROM preference WHERE name = ?", (name,))
        else:
            db.execute(
                "INSERT INTO preference (name, value) VALUES (?, ?) "
                "ON CONFLICT (name) DO UPDATE SET value = excluded.value",
                (name, value),
            )
