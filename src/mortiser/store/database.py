"""The database file: connections, transactions and migrations."""

from __future__ import annotations

import os
import shutil
import sqlite3
import threading
import time
from collections.abc import Callable, Iterator
from contextlib import contextmanager
from importlib.resources import files
from pathlib import Path
from typing import TypeVar

from mortiser.core.common.errors import Busy, Damaged, MortiserError, NoSpace, NotFound, foreseen
from mortiser.store.media_services import NO_SERVICES, MediaServices
from mortiser.store.reserve import Reserve

T = TypeVar("T")
UNDO_STEPS = 5_000
LONGEST_PATH = 500
"""SQLite takes 512 bytes, with the names of the files beside the database."""
NO_ROOM = 1024**2
"""With less than this free (bytes), what SQLite calls an input or output error is a full disk."""


def now_us() -> int:
    """The wall clock in microseconds since 1970."""
    return time.time_ns() // 1000


class Database:
    """One SQLite file; every thread gets its own connection."""

    def __init__(
        self,
        path: Path,
        media_services: MediaServices = NO_SERVICES,
        undo_steps: int = UNDO_STEPS,
    ) -> None:
        self.path = path
        self.media_services = media_services
        """What desks know beyond the database."""
        self.undo_steps = undo_steps
        """How many edits of a project can be taken back."""
        self.reserve = Reserve(path.parent)
        self._local = threading.local()
        self.without_fail(_migrate)

    @property
    def connection(self) -> sqlite3.Connection:
        """This thread's connection, opened when first asked for."""
        found: sqlite3.Connection | None = getattr(self._local, "connection", None)
        if found is None:
            found = self._open()
            self._local.connection = found
        return found

    def _open(self) -> sqlite3.Connection:
        opened: sqlite3.Connection | None = None
        try:
            opened = sqlite3.connect(self.path, timeout=30, isolation_level=None)
            opened.row_factory = sqlite3.Row
            opened.execute("PRAGMA journal_mode = WAL")
            # What was answered outlasts a power cut.
            opened.execute("PRAGMA synchronous = FULL")
            opened.execute("PRAGMA foreign_keys = ON")
        except sqlite3.Error as error:
            if opened is not None:
                opened.close()
            raise self.explained(error) or error from error
        return opened

    @contextmanager
    def transaction(self) -> Iterator[sqlite3.Connection]:
        """A write transaction: all of it or nothing. Raises NoSpace on a full disk, Busy, Damaged."""
        db = self.connection
        try:
            db.execute("BEGIN IMMEDIATE")
            yield db
            db.execute("COMMIT")
        except BaseException as error:
            if db.in_transaction:
                db.execute("ROLLBACK")
            if isinstance(error, sqlite3.Error) and (said := self.explained(error)):
                raise said from error
            raise

    def without_fail(self, work: Callable[[sqlite3.Connection], T]) -> T:
        """Do ``work`` in a transaction; on a full disk the room set aside is given up for it.

        For what has to be noted then too: how work ended, and what makes room.
        """
        try:
            with self.transaction() as db:
                return work(db)
        except NoSpace:
            if not self.reserve.give_up():
                raise
            with self.transaction() as db:
                return work(db)

    def explained(self, error: BaseException) -> MortiserError | None:
        """What an error means to people; None where it means a fault of the program."""
        if isinstance(error, FileNotFoundError):
            return self._gone(error)
        if not isinstance(error, sqlite3.Error):
            return foreseen(error)
        name = getattr(error, "sqlite_errorname", "") or ""
        full = name == "SQLITE_FULL"
        if name.startswith(("SQLITE_IOERR", "SQLITE_CANTOPEN")):
            full = shutil.disk_usage(self.path.parent).free < NO_ROOM
        if full:
            return NoSpace(
                "The disk is full. The change was not made and nothing was lost; "
                "free some space and try again."
            )
        if name.startswith(("SQLITE_BUSY", "SQLITE_LOCKED")):
            return Busy("The workspace is busy with other work. Nothing was lost; try again.")
        if name.startswith(("SQLITE_NOTADB", "SQLITE_CORRUPT")):
            return Damaged(
                f"{self.path} is damaged or no database. Put a copy of it back in its place, or "
                "choose another folder with --workspace. It was left as it is."
            )
        if len(os.fsencode(self.path)) > LONGEST_PATH:
            return Damaged(
                f"The path of the workspace is longer than {LONGEST_PATH} letters, more than a database can have. "
                "Choose a folder with a shorter one with --workspace."
            )
        if name.startswith(("SQLITE_READONLY", "SQLITE_CANTOPEN", "SQLITE_PERM")):
            return Damaged(
                f"{self.path} cannot be written. Give yourself the right to write in its folder, "
                "or choose another with --workspace."
            )
        return None

    def _gone(self, error: FileNotFoundError) -> MortiserError | None:
        """What it means that a file is not there: of a recording's, which one it is."""
        root = self.path.parent
        try:
            inside = Path(str(error.filename)).relative_to(root)
        except ValueError:
            return None
        folder = "/".join(inside.parts[:2])
        row = self.connection.execute(
            "SELECT name FROM source WHERE path = ? OR path LIKE ? || '/%'", (folder, folder)
        ).fetchone()
        if row is None:
            return None
        return NotFound(
            f"The recording “{row['name']}” is not where it was: {root / inside} is missing. "
            "Put it back, or choose the file again in Gather."
        )

    @contextmanager
    def snapshot(self) -> Iterator[sqlite3.Connection]:
        """A read transaction: everything read inside is of one moment."""
        db = self.connection
        db.execute("BEGIN")
        try:
            yield db
        finally:
            db.execute("ROLLBACK")

    @contextmanager
    def watch(self) -> Iterator[Callable[[], int]]:
        """Gives a number that is another one whenever anybody has changed the database; asking for it
        reads no table. To be asked by one caller at a time, from any thread."""
        watching = sqlite3.connect(self.path, isolation_level=None, check_same_thread=False)
        try:
            yield lambda: int(watching.execute("PRAGMA data_version").fetchone()[0])
        finally:
            watching.close()

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
    known = sorted(entry.name for entry in folder.iterdir() if entry.name.endswith(".sql"))
    if newer := sorted(done - set(known)):
        raise Damaged(
            f"This workspace was last used by a newer Mortiser (it has {newer[-1].removesuffix('.sql')}, "
            f"this one knows up to {known[-1].removesuffix('.sql')}). Start the newer one, or choose "
            "another folder with --workspace. It was left as it is."
        )
    for name in known:
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
