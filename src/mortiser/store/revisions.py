"""What the last revisions of a project changed."""

from __future__ import annotations

import json
import sqlite3
from collections.abc import Collection
from dataclasses import dataclass
from typing import Literal

from mortiser.core.common.errors import NotFound, Stale
from mortiser.core.edits.base import BaseEdit

Kind = Literal["edit", "follow", "step"]
"""An edit; what followed from the newest edit, under its undo; an undo or redo."""
KEPT = 500


@dataclass(frozen=True)
class Since:
    """What several revisions changed together: captions touched in any way, those of them whose
    words are other ones, and whether the project or a piece itself was."""

    kinds: frozenset[str]
    touched: frozenset[int]
    rewritten: frozenset[int]
    settings: bool
    moved: bool
    """Whether clips changed, so that captions stand at other times."""


def note(
    db: sqlite3.Connection,
    project_id: int,
    kind: Kind,
    touched: Collection[int],
    rewritten: Collection[int],
    *,
    settings: bool,
    moved: bool = False,
) -> int:
    """Raise the project's revision by one and note what it changed; the new revision."""
    row = db.execute(
        "UPDATE project SET revision = revision + 1 WHERE id = ? RETURNING revision", (project_id,)
    ).fetchone()
    revision = int(row["revision"])
    db.execute(
        "INSERT INTO revision_change VALUES (?, ?, ?, ?, ?, ?, ?)",
        (
            project_id,
            revision,
            kind,
            json.dumps(sorted(touched)),
            json.dumps(sorted(rewritten)),
            settings,
            moved,
        ),
    )
    db.execute(
        "DELETE FROM revision_change WHERE project_id = ? AND revision <= ?",
        (project_id, revision - KEPT),
    )
    return revision


def since(db: sqlite3.Connection, project_id: int, revision: int) -> Since | None:
    """What was changed after a revision; None where that is too long ago, or is yet to come."""
    rows = db.execute(
        "SELECT * FROM revision_change WHERE project_id = ? AND revision > ?",
        (project_id, revision),
    ).fetchall()
    if len(rows) != newest(db, project_id) - revision:
        return None
    return Since(
        frozenset(row["kind"] for row in rows),
        frozenset(cue_id for row in rows for cue_id in json.loads(row["touched"])),
        frozenset(cue_id for row in rows for cue_id in json.loads(row["rewritten"])),
        any(row["settings"] for row in rows),
        any(row["moved"] for row in rows),
    )


def newest(db: sqlite3.Connection, project_id: int) -> int:
    """The project's revision. Raises NotFound."""
    row = db.execute("SELECT revision FROM project WHERE id = ?", (project_id,)).fetchone()
    if row is None:
        raise NotFound("That project is not there any more.")
    return int(row["revision"])


def check(db: sqlite3.Connection, project_id: int, base: int, edit: BaseEdit | None) -> None:
    """Whether an edit made against a revision still means what it meant; an undo or redo where None.

    It does as long as the words of the captions it names are the same, and no cut has moved what it
    says of times. Raises Stale.
    """
    if newest(db, project_id) == base:
        return
    then = since(db, project_id, base)
    if then is not None and not then.moved:
        if then.kinds <= {"follow"}:
            return
        named = edit.concerns() if edit is not None else None
        if named is not None and not named & then.rewritten:
            return
    raise Stale(
        "The project was changed elsewhere in the meantime. Nothing was lost: "
        "the newest state is being loaded, then make the change again."
    )
