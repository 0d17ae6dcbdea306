"""The database file: connections, transactions and migrations."""

from __future__ import annotations

import sqlite3
import threading
import time
from collections.abc import Callable, Iterator
from contextlib import contextmanager
from importlib.resources import files
from pathlib import Path

from mortiser.core.errors import NoSpace
from mortiser.core.finish.model import Finish
from mortiser.core.grouping import Ruler


def now_us() -> int:
    """The wall clock in microseconds since 1970."""
    return time.time_ns() // 1000


class Database:
    """One SQLite file; every thread gets its own connection."""

    def __init__(
        self, path: Path, rulers: Callable[[Finish, tuple[int, int]], Ruler] | None = None
    ) -> None:
        self.path = path
        self.rulers = rulers
        """Makes rulers for grouping (see store.sql_desk), where fonts are at hand."""
        self._local = threading.local()
        with self.transaction() as db:
            _migrate(db)

    @property
    def connection(self) -> sqlite3.Connection:
        """This thread's connection, opened when first asked for."""
        found: sqlite3.Connection | None = getattr(self._local, "connection", None)
        if found is None:
            found = sqlite3.connect(self.path, timeout=30, isolation_level=None)
            found.row_factory = sqlite3.Row
            found.execute("PRAGMA journal_mode = WAL")
            found.execute("PRAGMA synchronous = NORMAL")
            found.execute("PRAGMA foreign_keys = ON")
            self._local.connection = found
        return found

    @contextmanager
    def transaction(self) -> Iterator[sqlite3.Connection]:
        """A write transaction: all of it or nothing. A full disk becomes NoSpace."""
        db = self.connection
        try:
            db.execute("BEGIN IMMEDIATE")
            yield db
            db.execute("COMMIT")
        except BaseException as error:
            if db.in_transaction:
                db.execute("ROLLBACK")
            if isinstance(error, sqlite3.OperationalError) and "full" in str(error):
                raise NoSpace(
                    "The disk is full. The change was not made and nothing was lost; "
                    "free some space and try again."
                ) from error
            raise

    @contextmanager
    def snapshot(self) -> Iterator[sqlite3.Connection]:
        """A read transaction: everything read inside is of one moment."""
        db = self.connection
        db.execute("BEGIN")
        try:
            yield db
        finally:
            db.execute("ROLLBACK")

    def close(self) -> None:
        """Close this thread's connection."""
        found: sqlite3.Connection | None = getattr(self._local, "connection", None)
        if found is not None:
            found.close()
            self._local.connection = None


def _migrate(db: sqlite3.Connection) -> None:
    """Run the numbered files not run yet, each with its ledger row, in the open transaction."""
    db.execute(
        "CREATE TABLE IF NOT EXISTS migration (name TEXT PRIMARY KEY, run_us INTEGER NOT NULL) STRICT"
    )
    done = {row["name"] for row in db.execute("SELECT name FROM migration")}
    folder = files("mortiser.store") / "migrations"
    for name in sorted(entry.name for entry in folder.iterdir() if entry.name.endswith(".sql")):
        if name in done:
            continue
        for statement in _statements((folder / name).read_text(encoding="utf-8")):
            db.execute(statement)
        db.execute("INSERT INTO migration VALUES (?, ?)", (name, now_us()))


def _statements(script: str) -> Iterator[str]:
    """The statements of a script; executescript would end the transaction."""
    pending = ""
    for line in script.splitlines(keepends=True):
        pending += line
        if sqlite3.complete_statement(pending):
            yield pending
            pending = ""
    if pending.strip():
        raise ValueError(f"unfinished statement in migration: {pending.strip()[:60]}")
