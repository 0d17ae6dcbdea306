"""Pictures of the user's own, by name."""

from __future__ import annotations

import sqlite3

from mortiser.core.framing.own_picture import OwnPicture
from mortiser.store.database import Database

MOST_LISTED = 60


def keep(database: Database, picture: OwnPicture) -> None:
    """Note a picture; its newest name counts."""
    with database.transaction() as db:
        db.execute(
            "INSERT INTO picture (digest, name, width, height) VALUES (?, ?, ?, ?) "
            "ON CONFLICT (digest) DO UPDATE SET name = excluded.name, added = CURRENT_TIMESTAMP",
            (picture.digest, picture.name, picture.width, picture.height),
        )


def newest(db: sqlite3.Connection) -> list[OwnPicture]:
    """The pictures brought in last, the newest first."""
    rows = db.execute(
        "SELECT * FROM picture ORDER BY added DESC, rowid DESC LIMIT ?", (MOST_LISTED,)
    )
    return [
        OwnPicture(digest=row["digest"], name=row["name"], width=row["width"], height=row["height"])
        for row in rows
    ]
