"""The edit journal: each edit's row changes are kept, so undo and redo replay rows, not rules.

Of each row an entry keeps one change, as it was before and as it is after, however often the entry
touched it.

Temporary triggers write every change of a project's tables into ``edit_change`` while an entry
is open on the connection (the technique of SQLite's own "Automatic Undo/Redo" note). A new table
that edits may touch needs no more than its name in TABLES.
"""

from __future__ import annotations

import sqlite3
from dataclasses import dataclass, field
from itertools import groupby
from operator import itemgetter

from pydantic_core import from_json

from mortiser.core.common.errors import Conflict
from mortiser.store.database import now_us

TABLES = (
    "word",
    "cue",
    "shown_word",
    "piece",
    "strand",
    "clip",
    "project",
    "correction",
    "microphone",
    "source",
)
DEPENDENT = "shown_word"
"""Its rows go with their word or caption, and a place in a caption is given once: when changes are put
back they go first and come last."""
_NEWEST = "undone = 0 ORDER BY id DESC"
_OLDEST_UNDONE = "undone = 1 ORDER BY id"
"""Which entry is taken back, and which made again."""
BOOKKEEPING = {
    "project": {"revision", "changed_us", "created_us"},
    "cue": {"start_us", "end_us"},
    "source": {"audio_track", "language", "playable", "proxy_path"},
}
"""Columns that say when, or follow from others: left out of the journal."""


@dataclass
class Changes:
    """Row ids that an edit, an undo or a redo touched, by table; the captions that show other words
    than before, and the words that read otherwise."""

    rows: dict[str, set[int]] = field(default_factory=dict)
    rewritten: set[int] = field(default_factory=set)
    respelled: set[int] = field(default_factory=set)

    def add(self, table: str, row_id: int) -> None:
        """Note a touched row."""
        self.rows.setdefault(table, set()).add(row_id)


def touched(db: sqlite3.Connection, project_id: int) -> Changes:
    """What all edits of a project touch that could still be undone or made again."""
    return _changes(db, "entry_id IN (SELECT id FROM edit_entry WHERE project_id = ?)", project_id)


def _changes(db: sqlite3.Connection, where: str, value: int) -> Changes:
    """What entries touch; a caption counts as touched when the list of its words is."""
    changes = Changes()
    for row in db.execute(
        "SELECT table_name, row_id, json_extract(before, '$.cue_id') AS was, "
        "json_extract(after, '$.cue_id') AS now, "
        "json_extract(before, '$.word_id') IS NOT json_extract(after, '$.word_id') AS other, "
        "json_extract(before, '$.text') IS NOT json_extract(after, '$.text') AS respelled "
        f"FROM edit_change WHERE {where}",
        (value,),
    ):
        changes.add(row["table_name"], row["row_id"])
        cues = {row["was"], row["now"]} - {None}
        for cue_id in cues:
            changes.add("cue", cue_id)
        if row["other"]:
            changes.rewritten |= cues
        if row["respelled"]:
            changes.respelled.add(row["row_id"])
    return changes


def open_entry(db: sqlite3.Connection, project_id: int, label: str, command: str, most: int) -> int:
    """Start an entry: what this connection changes from now on belongs to it.

    Entries that had been undone can no longer be redone and go, and so do the oldest ones beyond
    ``most``.
    """
    _watch(db)
    db.execute(
        "DELETE FROM edit_entry WHERE project_id = ? AND id <= (SELECT id FROM edit_entry "
        "WHERE project_id = ? AND undone = 0 ORDER BY id DESC LIMIT 1 OFFSET ?)",
        (project_id, project_id, most - 1),
    )
    db.execute("DELETE FROM edit_entry WHERE project_id = ? AND undone = 1", (project_id,))
    cursor = db.execute(
        "INSERT INTO edit_entry (project_id, label, command, made_us) VALUES (?, ?, ?, ?)",
        (project_id, label, command, now_us()),
    )
    entry = int(cursor.lastrowid or 0)
    db.execute("INSERT INTO temp.open_entry VALUES (?)", (entry,))
    return entry


def reopen_newest(db: sqlite3.Connection, project_id: int) -> int | None:
    """Go on with the newest entry, so that one undo takes back what is added to it too.

    None when there is none, or when something has been undone since.
    """
    row = db.execute(
        "SELECT id, undone FROM edit_entry WHERE project_id = ? ORDER BY id DESC LIMIT 1",
        (project_id,),
    ).fetchone()
    if row is None or row["undone"]:
        return None
    _watch(db)
    db.execute("INSERT INTO temp.open_entry VALUES (?)", (row["id"],))
    return int(row["id"])


def close_entry(db: sqlite3.Connection, entry: int) -> Changes:
    """End the entry and say what it touched; an entry that changed nothing is dropped.

    Rows that are in the end as they were are not kept.
    """
    db.execute("DELETE FROM temp.open_entry")
    changes = _changes(db, "entry_id = ?", entry)
    db.execute("DELETE FROM edit_change WHERE entry_id = ? AND before IS after", (entry,))
    if not db.execute("SELECT 1 FROM edit_change WHERE entry_id = ?", (entry,)).fetchone():
        db.execute("DELETE FROM edit_entry WHERE id = ?", (entry,))
    return changes


def pieces_cut(db: sqlite3.Connection, project_id: int, *, back: bool) -> list[int]:
    """The pieces whose clips undo (``back``) or redo would change."""
    rows = db.execute(
        "SELECT DISTINCT json_extract(coalesce(before, after), '$.piece_id') AS piece_id "
        "FROM edit_change WHERE table_name = 'clip' AND entry_id = (SELECT id FROM edit_entry "
        f"WHERE project_id = ? AND {_NEWEST if back else _OLDEST_UNDONE} LIMIT 1)",
        (project_id,),
    )
    return [row["piece_id"] for row in rows]


def undo(db: sqlite3.Connection, project_id: int) -> tuple[str, Changes]:
    """Take the newest edit back; returns its label and what changed. Raises Conflict if none."""
    entry = _pick(db, project_id, _NEWEST, "There is nothing to undo.")
    return entry["label"], _replay(db, entry["id"], "before", undone=True)


def redo(db: sqlite3.Connection, project_id: int) -> tuple[str, Changes]:
    """Make the oldest undone edit again. Raises Conflict if there is none."""
    entry = _pick(db, project_id, _OLDEST_UNDONE, "There is nothing to redo.")
    return entry["label"], _replay(db, entry["id"], "after", undone=False)


def labels(db: sqlite3.Connection, project_id: int) -> tuple[str | None, str | None]:
    """What undo and redo would do, in words."""
    found: list[str | None] = []
    for rest in (_NEWEST, _OLDEST_UNDONE):
        row = db.execute(
            f"SELECT label FROM edit_entry WHERE project_id = ? AND {rest} LIMIT 1", (project_id,)
        ).fetchone()
        found.append(row["label"] if row else None)
    return found[0], found[1]


def past(db: sqlite3.Connection, project_id: int, most: int) -> tuple[list[str], list[str]]:
    """Labels of what redo would make again, last first, and of what was done, newest first."""
    found = []
    for undone, limit in ((1, -1), (0, most)):
        rows = db.execute(
            "SELECT label FROM edit_entry WHERE project_id = ? AND undone = ? "
            "ORDER BY id DESC LIMIT ?",
            (project_id, undone, limit),
        )
        found.append([row["label"] for row in rows])
    return found[0], found[1]


def _pick(db: sqlite3.Connection, project_id: int, rest: str, none: str) -> sqlite3.Row:
    row: sqlite3.Row | None = db.execute(
        f"SELECT id, label FROM edit_entry WHERE project_id = ? AND {rest} LIMIT 1", (project_id,)
    ).fetchone()
    if row is None:
        raise Conflict(none)
    return row


def _replay(db: sqlite3.Connection, entry: int, to: str, *, undone: bool) -> Changes:
    order = "DESC" if undone else "ASC"
    since = "after" if to == "before" else "before"
    rows = db.execute(
        f"SELECT *, CASE WHEN {to} IS NULL AND table_name = '{DEPENDENT}' THEN 0 "
        f"WHEN {since} IS NULL AND table_name <> '{DEPENDENT}' THEN 1 "
        f"WHEN {to} IS NOT NULL AND {since} IS NOT NULL THEN 2 WHEN {since} IS NULL THEN 3 ELSE 4 "
        f"END AS turn FROM edit_change WHERE entry_id = ? ORDER BY turn, table_name, id {order}",
        (entry,),
    ).fetchall()
    db.execute("PRAGMA defer_foreign_keys = ON")
    steps = (_restoring(row["table_name"], row["row_id"], *_states(row, to)) for row in rows)
    # Rows that are put back in the same way, one behind another, go in one call.
    for statement, alike in groupby((step for step in steps if step), key=itemgetter(0)):
        db.executemany(statement, (values for _, values in alike))
    db.execute("UPDATE edit_entry SET undone = ? WHERE id = ?", (int(undone), entry))
    return _changes(db, "entry_id = ?", entry)


def _states(row: sqlite3.Row, to: str) -> tuple[dict[str, object] | None, bool]:
    """The values to put back, and whether the row was there on both sides.

    Of a row that was changed only the changed columns are put back: what a job has noted on it
    since (how sure a word is, who speaks) stays.
    """
    before, after = (from_json(row[side]) if row[side] else None for side in ("before", "after"))
    if before is None or after is None:
        return (before if to == "before" else after), False
    wanted = before if to == "before" else after
    return {key: value for key, value in wanted.items() if before.get(key) != after.get(key)}, True


def _restoring(
    table: str, row_id: int, values: dict[str, object] | None, changed: bool
) -> tuple[str, tuple[object, ...]] | None:
    """The statement that puts a row back, and its values; None where nothing has to be."""
    if values is None:
        return f"DELETE FROM {table} WHERE id = ?", (row_id,)
    if not values:
        return None
    if changed:
        pairs = ", ".join(f"{column} = ?" for column in values)
        return f"UPDATE {table} SET {pairs} WHERE id = ?", (*values.values(), row_id)
    columns, marks = ", ".join(values), ", ".join("?" for _ in values)
    return f"INSERT INTO {table} ({columns}) VALUES ({marks})", tuple(values.values())


def _watch(db: sqlite3.Connection) -> None:
    """Put the triggers on this connection, once."""
    if db.execute("SELECT 1 FROM temp.sqlite_master WHERE name = 'open_entry'").fetchone():
        return
    db.execute("CREATE TEMP TABLE open_entry (entry_id INTEGER NOT NULL)")
    for table in TABLES:
        skip = BOOKKEEPING.get(table, set())
        columns = [
            r["name"] for r in db.execute(f"PRAGMA table_info({table})") if r["name"] not in skip
        ]
        old = _row_json("OLD", columns)
        new = _row_json("NEW", columns)
        moments = {"INSERT": ("NEW", "NULL", new), "DELETE": ("OLD", old, "NULL")}
        moments[f"UPDATE OF {', '.join(columns)}"] = ("NEW", old, new)
        for number, (moment, (row, before, after)) in enumerate(moments.items()):
            other = " OR ".join(f"OLD.{column} IS NOT NEW.{column}" for column in columns)
            really = f"WHEN {other} " if moment.startswith("UPDATE") else ""
            db.execute(
                f"CREATE TEMP TRIGGER watch_{table}_{number} AFTER {moment} ON main.{table} {really}"
                "BEGIN INSERT INTO edit_change (entry_id, table_name, row_id, before, after) "
                f"SELECT entry_id, '{table}', {row}.id, {before}, {after} FROM open_entry WHERE true "
                "ON CONFLICT (entry_id, table_name, row_id) DO UPDATE SET after = excluded.after; END"
            )


def _row_json(row: str, columns: list[str]) -> str:
    pairs = ", ".join(f"'{column}', {row}.{column}" for column in columns)
    return f"json_object({pairs})"
