"""The workspace's own finishes, by name, and which one new pieces begin with."""

from __future__ import annotations

import sqlite3
from collections.abc import Sequence

from mortiser.core.common.errors import BadInput, NotFound
from mortiser.core.style.finish.builtin import DEFAULT_FINISH, FINISHES
from mortiser.core.style.finish.model import Finish
from mortiser.core.style.finish.stored import STORED
from mortiser.store.database import Database
from mortiser.store.preferences import prefer, preferred

MOST_LETTERS = 40
DEFAULT, LAST = "default_finish", "last_finish"


def saved(db: sqlite3.Connection) -> list[tuple[int, Finish]]:
    """(id, finish) of all, by name."""
    rows = db.execute("SELECT * FROM saved_finish ORDER BY name COLLATE NOCASE")
    return [(row["id"], STORED.read(row["finish"])) for row in rows]


def one(db: sqlite3.Connection, finish_id: int) -> Finish:
    """A saved finish. Raises NotFound."""
    row = db.execute("SELECT finish FROM saved_finish WHERE id = ?", (finish_id,)).fetchone()
    if row is None:
        raise NotFound("That finish is not there any more.")
    return STORED.read(row["finish"])


def named(db: sqlite3.Connection, name: str) -> Finish:
    """A finish by its name, built in or saved. Raises NotFound."""
    own = {finish.name: finish for _, finish in saved(db)}
    found = FINISHES.get(name) or own.get(name)
    if found is None:
        raise NotFound(f"There is no finish “{name}” any more.")
    return found


def add(database: Database, name: str, finish: Finish) -> tuple[int, Finish]:
    """Keep a finish under a new name. Raises BadInput when the name is taken or no name."""
    with database.transaction() as db:
        return _add(db, _free(db, name), finish)


def add_all(database: Database, finishes: Sequence[Finish]) -> list[tuple[int, Finish]]:
    """Keep finishes from elsewhere, each under its name or, where that is taken, a numbered one."""
    with database.transaction() as db:
        return [_add(db, _numbered(db, finish.name), finish) for finish in finishes]


def change(database: Database, finish_id: int, name: str | None, finish: Finish | None) -> Finish:
    """Rename a saved finish, put another look in its place, or both. Raises NotFound, BadInput."""
    with database.transaction() as db:
        old = one(db, finish_id)
        new_name = old.name if name is None else _free(db, name, finish_id)
        new = (finish or old).model_copy(update={"name": new_name})
        db.execute(
            "UPDATE saved_finish SET name = ?, finish = ? WHERE id = ?",
            (new_name, STORED.write(new), finish_id),
        )
        return new


def remove(database: Database, finish_id: int) -> None:
    """Forget a saved finish; pieces that have it keep it. Raises NotFound."""
    with database.transaction() as db:
        one(db, finish_id)
        db.execute("DELETE FROM saved_finish WHERE id = ?", (finish_id,))


def set_default(database: Database, finish: Finish | None) -> None:
    """Choose what new pieces begin with; None for whatever was used last."""
    _remember(database, DEFAULT, finish)


def note_used(database: Database, finish: Finish) -> None:
    """Remember the finish that a piece was given last."""
    _remember(database, LAST, finish)


def default(db: sqlite3.Connection) -> Finish | None:
    """What was chosen for new pieces."""
    return _preferred(db, DEFAULT)


def for_new_piece(db: sqlite3.Connection) -> Finish:
    """The chosen finish, else the one used last, else the first there is."""
    return _preferred(db, DEFAULT) or _preferred(db, LAST) or FINISHES[DEFAULT_FINISH]


def _preferred(db: sqlite3.Connection, name: str) -> Finish | None:
    text = preferred(db, name)
    return STORED.read(text) if text else None


def _remember(database: Database, name: str, finish: Finish | None) -> None:
    prefer(database, name, STORED.write(finish) if finish else None)


def _add(db: sqlite3.Connection, name: str, finish: Finish) -> tuple[int, Finish]:
    named = finish.model_copy(update={"name": name})
    cursor = db.execute(
        "INSERT INTO saved_finish (name, finish) VALUES (?, ?)", (name, STORED.write(named))
    )
    return int(cursor.lastrowid or 0), named


def _free(db: sqlite3.Connection, name: str, own_id: int = 0) -> str:
    """The name, tidied. Raises BadInput when it is none, or another finish has it."""
    clean = " ".join(name.split())
    if not clean or len(clean) > MOST_LETTERS:
        raise BadInput(f"A finish needs a name of 1 to {MOST_LETTERS} letters.")
    if _taken(db, clean, own_id):
        raise BadInput(f"There is a finish “{clean}” already. Choose another name.")
    return clean


def _numbered(db: sqlite3.Connection, name: str) -> str:
    clean = " ".join(name.split())[: MOST_LETTERS - 4] or "Finish"
    number, tried = 1, clean
    while _taken(db, tried, 0):
        number += 1
        tried = f"{clean} {number}"
    return tried


def _taken(db: sqlite3.Connection, name: str, own_id: int) -> bool:
    if name.casefold() in {known.casefold() for known in FINISHES}:
        return True
    row = db.execute(
        "SELECT 1 FROM saved_finish WHERE name = ? AND id <> ?", (name, own_id)
    ).fetchone()
    return row is not None
