"""How long delivered files are kept."""

from __future__ import annotations

import sqlite3

from mortiser.store.database import Database, now_us

DAY_US = 24 * 3600 * 1_000_000
NAME = "keep_days"


def keep_days(db: sqlite3.Connection) -> int:
    """For how many days delivered files are kept; 0 until somebody removes them."""
    row = db.execute("SELECT value FROM setting WHERE name = ?", (NAME,)).fetchone()
    return int(row["value"]) if row else 0


def set_keep_days(database: Database, days: int) -> None:
    """Say for how many days delivered files are kept."""
    with database.transaction() as db:
        db.execute(
            "INSERT INTO setting (name, value) VALUES (?, ?) "
            "ON CONFLICT (name) DO UPDATE SET value = excluded.value",
            (NAME, str(days)),
        )


def too_old(db: sqlite3.Connection) -> list[int]:
    """Deliveries that are kept no longer, and of which nothing waits or is being made."""
    days = keep_days(db)
    if not days:
        return []
    rows = db.execute(
        "SELECT id FROM delivery WHERE created_us < ? AND NOT EXISTS (SELECT 1 FROM delivered_file "
        "JOIN job ON job.id = delivered_file.job_id WHERE delivery_id = delivery.id "
        "AND job.status IN ('queued', 'running'))",
        (now_us() - days * DAY_US,),
    )
    return [row["id"] for row in rows]
