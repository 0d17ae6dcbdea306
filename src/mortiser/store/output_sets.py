"""The workspace's own sets of outputs, by name."""

from __future__ import annotations

import sqlite3
from collections.abc import Sequence

from mortiser.core.common.errors import BadInput, NotFound
from mortiser.core.project.output import (
    OUTPUT_SETS,
    STORED,
    Output,
    Outputs,
    built_in,
    each_once,
)
from mortiser.store.database import Database

MOST_LETTERS = 40


def saved(db: sqlite3.Connection) -> list[tuple[int, str, Outputs]]:
    """(id, name, outputs) of all, by name."""
    rows = db.execute("SELECT * FROM saved_outputs ORDER BY name COLLATE NOCASE")
    return [(row["id"], row["name"], STORED.read(row["outputs"])) for row in rows]


def named(db: sqlite3.Connection, name: str) -> Outputs:
    """The outputs of a set, one of the workspace's own or a built-in one. Raises BadInput."""
    own = {named.casefold(): outputs for _, named, outputs in saved(db)}
    return own.get(name.casefold()) or built_in(name)


def save(database: Database, name: str, outputs: Sequence[Output]) -> tuple[int, str]:
    """Keep outputs under a name, in the place of those of that name; the id and that name.

    Raises BadInput.
    """
    clean = " ".join(name.split())
    if not clean or len(clean) > MOST_LETTERS:
        raise BadInput(f"Outputs need a name of 1 to {MOST_LETTERS} letters.")
    if clean.casefold() in {one.name.casefold() for one in OUTPUT_SETS}:
        raise BadInput(f"“{clean}” is built in. Choose another name.")
    with database.transaction() as db:
        db.execute(
            "INSERT INTO saved_outputs (name, outputs) VALUES (?, ?) "
            "ON CONFLICT (name) DO UPDATE SET outputs = excluded.outputs",
            (clean, STORED.write(each_once(outputs))),
        )
        row = db.execute("SELECT id FROM saved_outputs WHERE name = ?", (clean,)).fetchone()
        return int(row["id"]), clean


def remove(database: Database, set_id: int) -> None:
    """Forget a saved set; pieces that have its outputs keep them. Raises NotFound."""
    with database.transaction() as db:
        if not db.execute("DELETE FROM saved_outputs WHERE id = ?", (set_id,)).rowcount:
            raise NotFound("Those outputs are not there any more.")
