"""Apply, undo and redo edits: one transaction each, with the revision checked and raised."""

from __future__ import annotations

import sqlite3
from collections.abc import Callable
from dataclasses import dataclass

from mortiser.core.edits.commands import Edit
from mortiser.core.edits.desk import Desk
from mortiser.core.edits.projection import follow_times
from mortiser.core.errors import Conflict, NotFound, Stale
from mortiser.core.words import Cue
from mortiser.store import journal
from mortiser.store.database import Database, now_us
from mortiser.store.journal import Changes
from mortiser.store.projects import Piece, pieces, project_row
from mortiser.store.rows import load_cues
from mortiser.store.sql_desk import SqlDesk, batched


@dataclass(frozen=True)
class Outcome:
    """What an edit, undo or redo did: only what changed, as it is now."""

    revision: int
    label: str
    undo: str | None
    redo: str | None
    cues: list[Cue]
    gone: list[int]
    settings: tuple[str, list[Piece]] | None
    """The project's name and its pieces, where one of them changed (name, finish, grouping)."""


def apply(
    database: Database, project_id: int, base_revision: int, edit: Edit, *, goes_on: bool = False
) -> Outcome:
    """Make an edit; one that ``goes_on`` from the newest, of the same label, shares its undo.

    Raises Stale when ``base_revision`` is not the newest.
    """
    with database.transaction() as db:
        _check_revision(db, project_id, base_revision)
        desk = SqlDesk(db, project_id, database.rulers)
        return _apply(db, desk, project_id, edit, database.undo_steps, goes_on=goes_on)


def _apply(
    db: sqlite3.Connection,
    desk: SqlDesk,
    project_id: int,
    edit: Edit,
    undo_steps: int,
    *,
    goes_on: bool = False,
) -> Outcome:
    label = edit.label(desk)
    entry = None
    if goes_on and journal.labels(db, project_id) == (label, None):
        entry = journal.reopen_newest(db, project_id)
    if entry is None:
        entry = journal.open_entry(db, project_id, label, edit.model_dump_json(), undo_steps)
    try:
        edit.apply(desk)
        follow_times(desk)
    finally:
        changes = journal.close_entry(db, entry)
    return _outcome(db, project_id, label, changes)


def apply_now(database: Database, project_id: int, edit: Edit) -> Outcome:
    """Make an edit that a job has worked out, whatever the revision is by now."""
    with database.transaction() as db:
        row = db.execute("SELECT revision FROM project WHERE id = ?", (project_id,)).fetchone()
        if row is None:
            raise NotFound("That project is not there any more.")
        desk = SqlDesk(db, project_id, database.rulers)
        return _apply(db, desk, project_id, edit, database.undo_steps)


def amend(
    database: Database, project_id: int, base_revision: int, change: Callable[[Desk], None]
) -> Outcome:
    """Add to the newest edit what follows from it, under the same undo.

    Raises Stale like ``apply``, and Conflict when there is no edit to add to.
    """
    with database.transaction() as db:
        _check_revision(db, project_id, base_revision)
        entry = journal.reopen_newest(db, project_id)
        if entry is None:
            raise Conflict("The edit was undone in the meantime.")
        try:
            desk = SqlDesk(db, project_id, database.rulers)
            change(desk)
            follow_times(desk)
        finally:
            changes = journal.close_entry(db, entry)
        return _outcome(db, project_id, journal.labels(db, project_id)[0] or "", changes)


def undo(database: Database, project_id: int, base_revision: int) -> Outcome:
    """Take the newest edit back."""
    return _step(database, project_id, base_revision, back=True)


def redo(database: Database, project_id: int, base_revision: int) -> Outcome:
    """Make the last undone edit again."""
    return _step(database, project_id, base_revision, back=False)


def _step(database: Database, project_id: int, base_revision: int, *, back: bool) -> Outcome:
    with database.transaction() as db:
        _check_revision(db, project_id, base_revision)
        label, changes = (journal.undo if back else journal.redo)(db, project_id)
        return _outcome(db, project_id, label, changes)


def _check_revision(db: sqlite3.Connection, project_id: int, base_revision: int) -> None:
    row = db.execute("SELECT revision FROM project WHERE id = ?", (project_id,)).fetchone()
    if row is None:
        raise NotFound("That project is not there any more.")
    if row["revision"] != base_revision:
        raise Stale(
            "The project was changed elsewhere in the meantime. Nothing was lost: "
            "the newest state is being loaded, then make the change again."
        )


def _outcome(db: sqlite3.Connection, project_id: int, label: str, changes: Changes) -> Outcome:
    db.execute(
        "UPDATE project SET revision = revision + 1, changed_us = ? WHERE id = ?",
        (now_us(), project_id),
    )
    touched = set(changes.rows.get("cue", ()))
    words = changes.rows.get("word", set())
    for some in batched(words):
        marks = ", ".join("?" for _ in some)
        rows = db.execute(
            f"SELECT DISTINCT cue_id FROM shown_word WHERE word_id IN ({marks})", some
        )
        touched |= {row["cue_id"] for row in rows}
    cues: list[Cue] = []
    for some in batched(sorted(touched)):
        marks = ", ".join("?" for _ in some)
        cues += load_cues(db, f"cue.id IN ({marks})", some)
    undo_label, redo_label = journal.labels(db, project_id)
    revision = db.execute("SELECT revision FROM project WHERE id = ?", (project_id,)).fetchone()
    return Outcome(
        revision["revision"],
        label,
        undo_label,
        redo_label,
        cues,
        sorted(touched - {cue.id for cue in cues}),
        _settings(db, project_id) if changes.rows.keys() & {"project", "piece", "clip"} else None,
    )


def _settings(db: sqlite3.Connection, project_id: int) -> tuple[str, list[Piece]]:
    return project_row(db, project_id)["name"], pieces(db, project_id)
