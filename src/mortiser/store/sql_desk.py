"""The desk that edits work on, over the open transaction of one project."""

from __future__ import annotations

import sqlite3
from collections.abc import Callable
from dataclasses import replace

from mortiser.core.cue_timing import Frames
from mortiser.core.errors import NotFound
from mortiser.core.finish.model import Finish
from mortiser.core.finish.stored import finish_of, finish_text
from mortiser.core.grouping import Ruler
from mortiser.core.pace import Pace, RuleSet, pace_of, pace_text
from mortiser.core.spans import SpanMap
from mortiser.core.standing import Standing, standing_of, standing_text
from mortiser.core.words import Cue, Word
from mortiser.store.rows import (
    PIECE_COLUMNS,
    WORD_COLUMNS,
    insert,
    load_cues,
    load_frames,
    load_spans,
    load_unshown,
    piece_values,
    word_of,
    word_values,
)

Rulers = Callable[[Finish, tuple[int, int]], Ruler]
"""Makes the ruler of a finish on a frame (width, height)."""


class SqlDesk:
    """Desk (see core.edits.desk) in SQL; ids of other projects are not found."""

    def __init__(
        self, db: sqlite3.Connection, project_id: int, rulers: Rulers | None = None
    ) -> None:
        self._db = db
        self._rulers = rulers
        self._project_id = project_id
        rows = db.execute("SELECT id FROM piece WHERE project_id = ?", (project_id,))
        self._pieces = {row["id"] for row in rows}
        self._standing: dict[int, Standing] = {}
        """Asked for with every caption that is saved: read once a piece."""

    def cue(self, cue_id: int) -> Cue:
        found = load_cues(self._db, "cue.id = ?", (cue_id,))
        if not found or found[0].piece_id not in self._pieces:
            raise NotFound("That caption is not there any more. The page shows the newest state.")
        return found[0]

    def cues(self, piece_id: int) -> list[Cue]:
        self._known(piece_id)
        return load_cues(self._db, "cue.piece_id = ?", (piece_id,))

    def showing(self, piece_id: int, at_us: int) -> Cue | None:
        self._known(piece_id)
        where = "cue.piece_id = ? AND cue.start_us <= ? AND cue.end_us > ?"
        found = load_cues(self._db, where, (piece_id, at_us, at_us))
        return found[0] if found else None

    def around(self, cue: Cue, reach: int) -> tuple[list[Cue], list[Cue]]:
        key = (cue.piece_id, cue.start_us, cue.id, reach)
        before = self._near("<", "DESC", key)
        after = self._near(">", "ASC", key)
        return before, after

    def _near(self, side: str, order: str, key: tuple[int, int, int, int]) -> list[Cue]:
        return load_cues(
            self._db,
            f"cue.id IN (SELECT id FROM cue WHERE piece_id = ? AND (start_us, id) {side} (?, ?) "
            f"ORDER BY start_us {order}, id {order} LIMIT ?)",
            key,
        )

    def word_room(self, cue: Cue) -> tuple[int, int]:
        source = self._source_of(cue)
        first, last = cue.words[0], cue.words[-1]
        before = self._db.execute(
            "SELECT end_us FROM word WHERE source_id = ? AND start_us <= ? AND end_us <= ? "
            "AND id <> ? ORDER BY start_us DESC LIMIT 1",
            (source, first.start_us, first.start_us, first.id),
        ).fetchone()
        after = self._db.execute(
            "SELECT start_us FROM word WHERE source_id = ? AND start_us >= ? AND id <> ? "
            "ORDER BY start_us LIMIT 1",
            (source, last.end_us, last.id),
        ).fetchone()
        end = self._db.execute("SELECT duration_us FROM source WHERE id = ?", (source,)).fetchone()
        right = after["start_us"] if after else max(last.end_us, end["duration_us"])
        return (before["end_us"] if before else 0, right)

    def spans(self, piece_id: int) -> SpanMap:
        self._known(piece_id)
        return SpanMap(load_spans(self._db, piece_id))

    def save_cue(self, cue: Cue) -> Cue:
        self._known(cue.piece_id)
        if not cue.words:
            raise ValueError("a cue has words")
        old = load_cues(self._db, "cue.id = ?", (cue.id,)) if cue.id else []
        source = self._source_of(cue)
        known = {word.id: word for word in old[0].words} if old else {}
        standing = self.standing(cue.piece_id)
        coming = [
            standing.dressed(word, known.get(word.id)) if not word.id or word.id in known else word
            for word in cue.words
        ]
        words = tuple(self._save_word(word, known.get(word.id), source) for word in coming)
        values = (cue.piece_id, cue.start_us, cue.end_us, cue.start_pinned, cue.end_pinned)
        if cue.id:
            self._db.execute(
                "UPDATE cue SET piece_id = ?, start_us = ?, end_us = ?, start_pinned = ?, "
                "end_pinned = ? WHERE id = ?",
                (*values, cue.id),
            )
            saved = replace(cue, words=words)
        else:
            columns = ("piece_id", "start_us", "end_us", "start_pinned", "end_pinned")
            saved = replace(
                cue,
                words=words,
                id=insert(self._db, "cue", **dict(zip(columns, values, strict=True))),
            )
        shown = [(w.id, *piece_values(w)) for w in words]
        if not old or [(w.id, *piece_values(w)) for w in old[0].words] != shown:
            self._db.execute("DELETE FROM cue_word WHERE cue_id = ?", (saved.id,))
            self._db.executemany(
                f"INSERT INTO cue_word (cue_id, position, word_id, {', '.join(PIECE_COLUMNS)}) "
                "VALUES (?, ?, ?, ?, ?, ?, ?)",
                [(saved.id, position, *mark) for position, mark in enumerate(shown)],
            )
        return saved

    def _save_word(self, word: Word, old: Word | None, source: int) -> Word:
        if word.id == 0:
            return replace(word, id=insert(self._db, "word", source_id=source, **word_values(word)))
        if old is not None and old != word:
            values = word_values(word)
            sets = ", ".join(f"{column} = ?" for column in values)
            self._db.execute(f"UPDATE word SET {sets} WHERE id = ?", (*values.values(), word.id))
        return word

    def delete_cue(self, cue: Cue) -> None:
        self._known(cue.piece_id)
        self._db.execute("DELETE FROM cue_word WHERE cue_id = ?", (cue.id,))
        self._db.execute("DELETE FROM cue WHERE id = ?", (cue.id,))

    def delete_words(self, word_ids: list[int]) -> None:
        for word_id in word_ids:
            self._db.execute("DELETE FROM cue_word WHERE word_id = ?", (word_id,))
            self._db.execute("DELETE FROM word WHERE id = ?", (word_id,))

    def finish(self, piece_id: int) -> Finish:
        return finish_of(self._piece(piece_id)["finish"])

    def set_finish(self, piece_id: int, finish: Finish) -> None:
        self._known(piece_id)
        text = finish_text(finish)
        self._db.execute("UPDATE piece SET finish = ? WHERE id = ?", (text, piece_id))

    def pace(self, piece_id: int) -> Pace:
        return pace_of(self._piece(piece_id)["grouping"])

    def frames(self, piece_id: int) -> Frames:
        self._known(piece_id)
        return load_frames(self._db, piece_id)

    def checked_by(self, piece_id: int) -> RuleSet:
        rules: RuleSet = self._piece(piece_id)["checked_by"]
        return rules

    def set_pace(self, piece_id: int, pace: Pace) -> None:
        self._known(piece_id)
        self._db.execute("UPDATE piece SET grouping = ? WHERE id = ?", (pace_text(pace), piece_id))

    def set_checked_by(self, piece_id: int, rules: RuleSet) -> None:
        self._known(piece_id)
        self._db.execute("UPDATE piece SET checked_by = ? WHERE id = ?", (rules, piece_id))

    def ruler(self, piece_id: int) -> Ruler | None:
        row = self._piece(piece_id)
        size = row["width"], row["height"]
        return self._rulers(finish_of(row["finish"]), size) if self._rulers else None

    def standing(self, piece_id: int) -> Standing:
        if piece_id not in self._standing:
            self._standing[piece_id] = standing_of(self._piece(piece_id)["standing"])
        return self._standing[piece_id]

    def set_standing(self, piece_id: int, standing: Standing) -> None:
        self._known(piece_id)
        text = standing_text(standing)
        self._db.execute("UPDATE piece SET standing = ? WHERE id = ?", (text, piece_id))
        self._standing[piece_id] = standing

    def file_pace(self, piece_id: int) -> Pace | None:
        text = self._piece(piece_id)["file_pace"]
        return pace_of(text) if text else None

    def set_file_pace(self, piece_id: int, pace: Pace | None) -> None:
        self._known(piece_id)
        text = pace_text(pace) if pace else ""
        self._db.execute("UPDATE piece SET file_pace = ? WHERE id = ?", (text, piece_id))

    def _piece(self, piece_id: int) -> sqlite3.Row:
        self._known(piece_id)
        row: sqlite3.Row = self._db.execute(
            "SELECT * FROM piece WHERE id = ?", (piece_id,)
        ).fetchone()
        return row

    def show_speakers(self, piece_id: int, shown: bool) -> None:
        self._known(piece_id)
        self._db.execute("UPDATE piece SET show_speakers = ? WHERE id = ?", (shown, piece_id))

    def words_between(self, piece_id: int, from_us: int, to_us: int) -> list[Word]:
        self._known(piece_id)
        source = load_spans(self._db, piece_id)[0].source_id
        rows = self._db.execute(
            f"SELECT {WORD_COLUMNS} FROM word WHERE source_id = ? AND "
            "(start_us + end_us) / 2 >= ? AND (start_us + end_us) / 2 < ? "
            "ORDER BY start_us, end_us, id",
            (source, from_us, to_us),
        )
        return [word_of(row) for row in rows]

    def unshown(self, piece_id: int) -> list[Word]:
        self._known(piece_id)
        return load_unshown(self._db, piece_id)

    def note_correction(self, heard: str, written: str) -> None:
        insert(self._db, "correction", project_id=self._project_id, heard=heard, written=written)

    def rename_project(self, name: str) -> None:
        self._db.execute("UPDATE project SET name = ? WHERE id = ?", (name, self._project_id))

    def _known(self, piece_id: int) -> None:
        if piece_id not in self._pieces:
            raise NotFound("That piece is not part of this project.")

    def _source_of(self, cue: Cue) -> int:
        stored = [word.id for word in cue.words if word.id]
        if stored:
            row = self._db.execute("SELECT source_id FROM word WHERE id = ?", stored[:1]).fetchone()
            if row:
                return int(row["source_id"])
        return load_spans(self._db, cue.piece_id)[0].source_id
