"""Rows to values and back, where several modules need the same."""

from __future__ import annotations

import json
import sqlite3
from collections.abc import Iterable

from mortiser.core.cue_timing import Frames
from mortiser.core.spans import Span
from mortiser.core.words import Cue, Seam, Word

WORD_COLUMNS = (
    "word.id AS word_id, word.text, word.start_us AS word_start, word.end_us AS word_end, "
    "word.confidence, word.speaker, word.origin, word.aligned, word.alternatives, word.heard_as"
)


def word_values(word: Word) -> dict[str, object]:
    """A word's columns but for its id and its source."""
    return {
        "text": word.text,
        "start_us": word.start_us,
        "end_us": word.end_us,
        "confidence": word.confidence,
        "speaker": word.speaker,
        "origin": word.origin,
        "aligned": int(word.aligned),
        "alternatives": json.dumps(word.alternatives),
        "heard_as": word.heard_as,
    }


def insert(db: sqlite3.Connection, table: str, **values: object) -> int:
    """Insert a row; returns its id."""
    columns, marks = ", ".join(values), ", ".join("?" for _ in values)
    cursor = db.execute(f"INSERT INTO {table} ({columns}) VALUES ({marks})", tuple(values.values()))
    return int(cursor.lastrowid or 0)


PIECE_COLUMNS = ("seam", "accent", "look", "own")
"""What a word has in a piece, not in its source: columns of ``cue_word``."""


def piece_values(word: Word) -> tuple[object, ...]:
    """The values of PIECE_COLUMNS."""
    return word.seam, word.accent, word.look, word.own


def word_of(
    row: sqlite3.Row, seam: Seam = "free", accent: int = 0, look: str = "", own: str = ""
) -> Word:
    """The word in a row that has WORD_COLUMNS."""
    return Word(
        row["text"],
        row["word_start"],
        row["word_end"],
        row["confidence"],
        row["speaker"],
        row["origin"],
        bool(row["aligned"]),
        row["word_id"],
        () if row["alternatives"] == "[]" else tuple(json.loads(row["alternatives"])),
        row["heard_as"],
        seam,
        accent,
        look,
        own,
    )


def load_cues(db: sqlite3.Connection, where: str, values: Iterable[object]) -> list[Cue]:
    """Cues with their words, in time order, for an SQL condition on ``cue``."""
    found = db.execute(
        f"SELECT cue.*, cue_word.seam, cue_word.accent, cue_word.look, "
        f"cue_word.own, {WORD_COLUMNS} "
        "FROM cue JOIN cue_word ON cue_word.cue_id = cue.id "
        f"JOIN word ON word.id = cue_word.word_id WHERE {where} "
        "ORDER BY cue.start_us, cue.id, cue_word.position",
        tuple(values),
    )
    cues: list[Cue] = []
    words: list[Word] = []
    head: sqlite3.Row | None = None
    for row in found:
        if head is not None and row["id"] != head["id"]:
            cues.append(_cue(head, words))
            words = []
        head = row
        words.append(word_of(row, row["seam"], row["accent"], row["look"], row["own"]))
    if head is not None:
        cues.append(_cue(head, words))
    return cues


def _cue(row: sqlite3.Row, words: list[Word]) -> Cue:
    return Cue(
        row["piece_id"],
        tuple(words),
        row["start_us"],
        row["end_us"],
        bool(row["start_pinned"]),
        bool(row["end_pinned"]),
        row["id"],
    )


def load_spans(db: sqlite3.Connection, piece_id: int) -> list[Span]:
    """The piece's spans in play order."""
    rows = db.execute(
        "SELECT source_id, start_us, end_us FROM span WHERE piece_id = ? ORDER BY position",
        (piece_id,),
    )
    return [Span(row["source_id"], row["start_us"], row["end_us"]) for row in rows]


def load_frames(db: sqlite3.Connection, piece_id: int) -> Frames:
    """The frames of the piece's (first) source, where their rate is constant."""
    row = db.execute(
        "SELECT frame_rate, variable_rate FROM span JOIN source ON source.id = span.source_id "
        "WHERE piece_id = ? ORDER BY position LIMIT 1",
        (piece_id,),
    ).fetchone()
    return Frames() if row["variable_rate"] else Frames(row["frame_rate"])


def load_unshown(db: sqlite3.Connection, piece_id: int) -> list[Word]:
    """The words of the piece's (first) source that none of its cues has, in time order."""
    rows = db.execute(
        f"SELECT {WORD_COLUMNS} FROM word WHERE source_id = ? AND NOT EXISTS (SELECT 1 FROM cue_word "
        "JOIN cue ON cue.id = cue_id WHERE word_id = word.id AND piece_id = ?) "
        "ORDER BY start_us, end_us, id",
        (load_spans(db, piece_id)[0].source_id, piece_id),
    )
    return [word_of(row) for row in rows]
