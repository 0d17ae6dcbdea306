"""Copies of whole projects."""

from __future__ import annotations

import sqlite3

from mortiser.store.database import Database, now_us
from mortiser.store.projects import project_row
from mortiser.store.rows import insert


def duplicate_project(database: Database, project_id: int, new_paths: dict[str, str]) -> int:
    """A copy with its words, cues and looks; ``new_paths`` maps stored files to their copies.

    The journal and the deliveries stay with the original.
    """
    with database.transaction() as db:
        old = project_row(db, project_id)
        at = now_us()
        copy = insert(db, "project", name=f"{old['name']} (copy)", created_us=at, changed_us=at)
        sources = _copy_rows(db, "source", "project_id = ?", project_id, {"project_id": copy})
        for new in sources.values():
            for column in ("path", "proxy_path"):
                row = db.execute(f"SELECT {column} FROM source WHERE id = ?", (new,)).fetchone()
                if row[0]:
                    db.execute(
                        f"UPDATE source SET {column} = ? WHERE id = ?", (new_paths[row[0]], new)
                    )
        words: dict[int, int] = {}
        for source, new in sources.items():
            words |= _copy_rows(db, "word", "source_id = ?", source, {"source_id": new})
        for old_piece, new_piece in _copy_rows(
            db, "piece", "project_id = ?", project_id, {"project_id": copy}
        ).items():
            clips: dict[int, int] = {}
            for clip in db.execute(
                "SELECT * FROM clip WHERE piece_id = ?", (old_piece,)
            ).fetchall():
                clips[clip["id"]] = insert(
                    db,
                    "clip",
                    piece_id=new_piece,
                    position=clip["position"],
                    source_id=sources[clip["source_id"]],
                    start_us=clip["start_us"],
                    end_us=clip["end_us"],
                )
            cues = _copy_rows(db, "cue", "piece_id = ?", old_piece, {"piece_id": new_piece})
            for cue, new_cue in cues.items():
                rows = db.execute("SELECT * FROM shown_word WHERE cue_id = ?", (cue,)).fetchall()
                for row in rows:
                    values = {key: row[key] for key in row.keys() if key != "id"}  # noqa: SIM118
                    values |= {
                        "cue_id": new_cue,
                        "word_id": words[row["word_id"]],
                        "clip_id": clips[row["clip_id"]],
                    }
                    insert(db, "shown_word", **values)
        return copy


def _copy_rows(
    db: sqlite3.Connection, table: str, where: str, value: int, change: dict[str, int]
) -> dict[int, int]:
    """Copy rows with some columns changed; old ids to new ids."""
    ids: dict[int, int] = {}
    rows = db.execute(f"SELECT * FROM {table} WHERE {where} ORDER BY id", (value,)).fetchall()
    for row in rows:
        values = {key: row[key] for key in row.keys() if key != "id"}  # noqa: SIM118
        ids[row["id"]] = insert(db, table, **(values | change))
    return ids
