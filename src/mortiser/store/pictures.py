"""Pictures of the user's own, by name."""

from __future__ import annotations

import sqlite3

from mortiser.core.framing.own_picture import OwnPicture
from mortiser.core.library.found import STORED as CREDIT
from mortiser.core.library.found import Credit
from mortiser.store.database import Database

MOST_LISTED = 60
COLUMNS = tuple(OwnPicture.model_fields)


def keep(database: Database, picture: OwnPicture, credit: Credit | None = None) -> None:
    """Note a picture; its newest name counts, and whose it is, once that is known."""
    with database.transaction() as db:
        db.execute(
            f"INSERT INTO picture ({', '.join(COLUMNS)}, credit) "
            f"VALUES ({', '.join('?' for _ in COLUMNS)}, ?) "
            "ON CONFLICT (digest) DO UPDATE SET name = excluded.name, added = CURRENT_TIMESTAMP, "
            "lasts_us = excluded.lasts_us, through = excluded.through, "
            "credit = iif(excluded.credit = '', credit, excluded.credit)",
            (*(getattr(picture, name) for name in COLUMNS), _text(credit)),
        )


def newest(db: sqlite3.Connection) -> list[OwnPicture]:
    """The pictures brought in last, the newest first."""
    rows = db.execute(
        "SELECT * FROM picture ORDER BY added DESC, rowid DESC LIMIT ?", (MOST_LISTED,)
    )
    return [_picture(row) for row in rows]


def credited(db: sqlite3.Connection) -> list[tuple[OwnPicture, Credit | None]]:
    """All pictures, the newest first, with whose they are where they were fetched from a library."""
    rows = db.execute("SELECT * FROM picture ORDER BY added DESC, rowid DESC")
    return [(_picture(row), CREDIT.read(row["credit"])) for row in rows]


def _picture(row: sqlite3.Row) -> OwnPicture:
    return OwnPicture(**{name: row[name] for name in COLUMNS})


def _text(credit: Credit | None) -> str:
    return CREDIT.write(credit) if credit else ""
