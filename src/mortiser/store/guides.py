"""Guides as the workspace has them."""

from __future__ import annotations

import sqlite3

from mortiser.core.framing.guides import Guides, guides_of, guides_text
from mortiser.store.database import Database
from mortiser.store.preferences import prefer, preferred

NAME = "guides"


def all_of(db: sqlite3.Connection) -> Guides:
    """Every guide."""
    return guides_of(preferred(db, NAME))


def keep(database: Database, guides: Guides | None) -> None:
    """Have these guides from now on; None brings back those that there are at the beginning."""
    prefer(database, NAME, None if guides is None else guides_text(guides))
