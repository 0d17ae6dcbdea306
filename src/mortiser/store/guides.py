"""Guides as the workspace has them."""

from __future__ import annotations

import sqlite3

from mortiser.core.framing.guides import GUIDES, STORED, Guides
from mortiser.store.database import Database
from mortiser.store.preferences import prefer, preferred

NAME = "guides"


def all_of(db: sqlite3.Connection) -> Guides:
    """Every guide."""
    text = preferred(db, NAME)
    return GUIDES if text is None else STORED.read(text)


def keep(database: Database, guides: Guides | None) -> None:
    """Have these guides from now on; None brings back those that there are at the beginning."""
    prefer(database, NAME, None if guides is None else STORED.write(guides))
