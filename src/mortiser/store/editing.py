"""Apply, undo and redo edits: one transaction each, with the revision checked and raised."""

from __future__ import annotations

import sqlite3
from collections.abc import Callable, Collection, Sequence
from dataclasses import dataclass, field

from mortiser.core.common.errors import Conflict
from mortiser.core.editing.timeline import Shift, changed_stretches, shifts
from mortiser.core.edits.apart import carry_out, kept_apart
from mortiser.core.edits.commands import Edit
from mortiser.core.edits.projection import follow_times
from mortiser.core.edits.session import EditSession
from mortiser.core.edits.text.laying import LayCaptions
from mortiser.core.edits.text.overtaken import brought_up
from mortiser.core.project.piece import Piece
from mortiser.core.transcript.words import Cue
from mortiser.store import cue_times, journal, revisions
from mortiser.store.database import Database, now_us
from mortiser.store.journal import Changes
from mortiser.store.projects import pieces, read_project
from mortiser.store.revisions import Kind
from mortiser.store.rows import Timelines, batched, load_cues
from mortiser.store.sql_session import SqlEditSession


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
    moved: list[tuple[int, Shift]] = field(default_factory=list)
    """By piece: where captions that did not change otherwise have gone."""


def apply(
    database: Database, project_id: int, base_revision: int, edit: Edit, *, goes_on: bool = False
) -> Outcome:
    """Make an edit; one that ``goes_on`` from the newest, of the same label, shares its undo.

    Raises Stale when ``base_revision`` is not the newest.
    """
    with database.transaction() as db:
        revisions.check(db, project_id, base_revision, edit)
        session = SqlEditSession(db, project_id, database.media_services)
        return _apply(db, session, project_id, edit, database.undo_steps, goes_on=goes_on)


def _apply(
    db: sqlite3.Connection,
    session: SqlEditSession,
    project_id: int,
    edit: Edit,
    undo_steps: int,
    *,
    goes_on: bool = False,
) -> Outcome:
    label = edit.label(session)
    entry = None
    if goes_on and journal.labels(db, project_id) == (label, None):
        entry = journal.reopen_newest(db, project_id)
    if entry is None:
        entry = journal.open_entry(db, project_id, label, edit.model_dump_json(), undo_steps)
    try:
        carry_out(edit, session)
    finally:
        changes = journal.close_entry(db, entry)
    return _outcome(db, project_id, "edit", label, changes, session.timelines)


def apply_now(database: Database, project_id: int, edit: Edit) -> Outcome:
    """Make an edit that a job has worked out, whatever the revision is by now."""
    with database.transaction() as db:
        revisions.newest(db, project_id)
        session = SqlEditSession(db, project_id, database.media_services)
        return _apply(db, session, project_id, edit, database.undo_steps)


def lay_now(
    database: Database, project_id: int, edit: LayCaptions, was: Piece, revision: int
) -> Outcome | None:
    """Lay captions that a job has worked out for a piece as it ``was`` at a revision.

    They go where the clips are by now; captions whose words were changed meanwhile keep them. None
    where nothing of the stretch is left.
    """
    with database.transaction() as db:
        session = SqlEditSession(db, project_id, database.media_services)
        now = session.timeline(was.id)
        then = revisions.since(db, project_id, revision)
        changed = then.rewritten if then is not None else ()
        kept = [
            (cue.words[0].start_us, cue.words[-1].end_us)
            for cue in session.cues(was.id)
            if cue.id in changed
        ]
        fresh = brought_up(edit, was.timeline, now, kept)
        if fresh is None:
            return None
        return _apply(db, session, project_id, fresh, database.undo_steps)


def amend(database: Database, project_id: int, change: Callable[[EditSession], None]) -> Outcome:
    """Add to the newest edit what follows from what was edited, under the same undo.

    Raises Conflict when there is no edit to add to, or it has been taken back.
    """
    with database.transaction() as db:
        revisions.newest(db, project_id)
        entry = journal.reopen_newest(db, project_id)
        if entry is None:
            raise Conflict("The edit was undone in the meantime.")
        session = SqlEditSession(db, project_id, database.media_services)
        try:
            with kept_apart(session):
                change(session)
                follow_times(session)
        finally:
            changes = journal.close_entry(db, entry)
        label = journal.labels(db, project_id)[0] or ""
        return _outcome(db, project_id, "follow", label, changes, session.timelines)


def undo(database: Database, project_id: int, base_revision: int) -> Outcome:
    """Take the newest edit back."""
    return _step(database, project_id, base_revision, back=True)


def redo(database: Database, project_id: int, base_revision: int) -> Outcome:
    """Make the last undone edit again."""
    return _step(database, project_id, base_revision, back=False)


def _step(database: Database, project_id: int, base_revision: int, *, back: bool) -> Outcome:
    with database.transaction() as db:
        revisions.check(db, project_id, base_revision, None)
        timelines = Timelines(db)
        cut = journal.pieces_cut(db, project_id, back=back)
        for piece_id in cut:
            timelines.of(piece_id)
        label, changes = (journal.undo if back else journal.redo)(db, project_id)
        for piece_id in cut:
            timelines.forget(piece_id)
        return _outcome(db, project_id, "step", label, changes, timelines)


def catch_up(database: Database, project_id: int, revision: int) -> Outcome | None:
    """All that was changed after a revision, as it is now; None where that is too long ago."""
    with database.snapshot() as db:
        then = revisions.since(db, project_id, revision)
        if then is None or then.moved:
            return None
        return _now(db, project_id, "", then.touched, Timelines(db), settings=then.settings)


def _outcome(
    db: sqlite3.Connection,
    project_id: int,
    kind: Kind,
    label: str,
    changes: Changes,
    timelines: Timelines,
) -> Outcome:
    db.execute("UPDATE project SET changed_us = ? WHERE id = ?", (now_us(), project_id))
    touched = set(changes.rows.get("cue", ())) | _showing(db, changes.rows.get("word", ()))
    cut, moved = _follow_clips(db, timelines, stepped=kind == "step")
    _time_again(db, timelines, touched)
    touched |= cut
    # What follows from an edit changes no words.
    rewritten = () if kind == "follow" else changes.rewritten | _showing(db, changes.respelled)
    settings = bool(changes.rows.keys() & {"project", "piece", "clip", "microphone"})
    revisions.note(db, project_id, kind, touched, rewritten, settings=settings, moved=bool(moved))
    return _now(db, project_id, label, touched, timelines, settings=settings, moved=moved)


def _follow_clips(
    db: sqlite3.Connection, timelines: Timelines, *, stepped: bool
) -> tuple[set[int], list[tuple[int, Shift]]]:
    """Work out when captions show now; those that a cut reaches into, and where the others went.

    An edit has moved captions with its clips; an undo or redo (``stepped``) put rows back alone.
    """
    cut: set[int] = set()
    moved: list[tuple[int, Shift]] = []
    for piece_id, was in timelines.was.items():
        timeline = timelines.of(piece_id)
        # Of a piece that has just come, or is gone, nothing has moved.
        if not was.clips or not timeline.clips or was == timeline:
            continue
        if stepped:
            cut |= cue_times.move(db, piece_id, was, timeline)
        else:
            back = [one for one in shifts(timeline, was) if one.by_us]
            cut |= cue_times.touched(db, piece_id, changed_stretches(was.clips, timeline.clips))
            cut |= cue_times.over_moves(db, piece_id, back)
        moved += [(piece_id, shift) for shift in shifts(was, timeline) if shift.by_us]
    return cut, moved


def _time_again(db: sqlite3.Connection, timelines: Timelines, cue_ids: Collection[int]) -> None:
    """Work out when captions show whose rows an edit has touched."""
    for some in batched(cue_ids):
        marks = ", ".join("?" for _ in some)
        rows = db.execute(f"SELECT DISTINCT piece_id FROM cue WHERE id IN ({marks})", some)
        for row in rows.fetchall():
            piece_id = row["piece_id"]
            cue_times.refresh(db, piece_id, timelines.of(piece_id), some)


def _showing(db: sqlite3.Connection, word_ids: Collection[int]) -> set[int]:
    """The captions that show some words."""
    found: set[int] = set()
    for some in batched(word_ids):
        marks = ", ".join("?" for _ in some)
        rows = db.execute(
            f"SELECT DISTINCT cue_id FROM shown_word WHERE word_id IN ({marks})", some
        )
        found |= {row["cue_id"] for row in rows}
    return found


def _now(
    db: sqlite3.Connection,
    project_id: int,
    label: str,
    touched: Collection[int],
    timelines: Timelines,
    *,
    settings: bool,
    moved: Sequence[tuple[int, Shift]] = (),
) -> Outcome:
    cues: list[Cue] = []
    for some in batched(sorted(touched)):
        marks = ", ".join("?" for _ in some)
        cues += load_cues(db, f"cue.id IN ({marks})", some, timelines)
    return Outcome(
        revisions.newest(db, project_id),
        label,
        *journal.labels(db, project_id),
        cues,
        sorted(set(touched) - {cue.id for cue in cues}),
        _settings(db, project_id, timelines) if settings else None,
        list(moved),
    )


def _settings(
    db: sqlite3.Connection, project_id: int, timelines: Timelines
) -> tuple[str, list[Piece]]:
    return read_project(db, project_id).name, pieces(db, project_id, timelines)
