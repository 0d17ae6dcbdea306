"""The workspace's own lists of fillers, by language."""

from __future__ import annotations

import json
import sqlite3
from collections.abc import Sequence

from mortiser.core.common.errors import BadInput
from mortiser.core.transcript.fillers import of_language
from mortiser.core.transcript.words import tokens
from mortiser.store.database import Database
from mortiser.store.preferences import prefer, preferred

MOST = 100
MOST_LETTERS = 60


def fillers(db: sqlite3.Connection, language: str) -> tuple[str, ...]:
    """The fillers of a language as they were listed last; its usual ones where they never were."""
    listed = preferred(db, _name(language))
    return tuple(json.loads(listed)) if listed else of_language(language)


def set_fillers(database: Database, language: str, texts: Sequence[str]) -> tuple[str, ...]:
    """List the fillers of a language anew; the usual ones where the list is empty. Raises BadInput."""
    tidied = list(dict.fromkeys(" ".join(tokens(text)) for text in texts))
    kept = [text for text in tidied if text]
    if len(kept) > MOST or any(len(text) > MOST_LETTERS for text in kept):
        raise BadInput(f"At most {MOST} fillers of {MOST_LETTERS} letters. Shorten the list.")
    prefer(database, _name(language), json.dumps(kept) if kept else None)
    return fillers(database.connection, language)


def _name(language: str) -> str:
    return f"fillers.{language}"
