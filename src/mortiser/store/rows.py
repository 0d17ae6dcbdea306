"""Rows to values and back, where several modules need the same."""

from __future__ import annotations

import json
import sqlite3
from collections.abc import Collection, Iterable

from mortiser.core.cue_timing import Frames
from mortiser.core.strand import Strand
from mortiser.core.timeline import Clip, Placed, Timeline
from mortiser.core.words import Cue, Shown, Word

WORD_COLUMNS = (
    "word.id AS word_id, word.text, word.start_us AS word_start, word.end_us AS word_end, "
    "word.confidence, word.speaker, word.origin, word.aligned, word.alternatives, word.heard_as, "
    "word.source_id"
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


PIECE_COLUMNS = ("strand_id", "seam", "accent", "look", "own")
"""What a word has in a piece, not in its source: columns of ``shown_word``."""


def piece_values(word: Shown, strand_id: int) -> tuple[object, ...]:
    """The values of PIECE_COLUMNS."""
    return strand_id, word.seam, word.accent, word.look, word.own


def word_of(row: sqlite3.Row) -> Word:
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
        row["source_id"],
    )


class Timelines:
    """The timelines of pieces, each read once. For one transaction: clips may change after it."""

    def __init__(self, db: sqlite3.Connection) -> None:
        self._db = db
        self._found: dict[int, Timeline] = {}

    def of(self, piece_id: int) -> Timeline:
        """A piece's timeline."""
        if piece_id not in self._found:
            self._found[piece_id] = Timeline(load_clips(self._db, piece_id))
        return self._found[piece_id]

    def forget(self, piece_id: int) -> None:
        """Read a piece's timeline anew when it is asked for next: its clips have changed."""
        self._found.pop(piece_id, None)


def load_cues(
    db: sqlite3.Connection,
    where: str,
    values: Iterable[object],
    timelines: Timelines | None = None,
    said: dict[int, Word] | None = None,
) -> list[Cue]:
    """Cues with the words that are not struck, in time order, for an SQL condition on ``cue``.

    ``said`` takes down the words as the transcript has them.
    """
    timelines = timelines or Timelines(db)
    found = db.execute(
        "SELECT cue.*, shown_word.strand_id, shown_word.seam, shown_word.accent, shown_word.look, "
        f"shown_word.own, {WORD_COLUMNS} "
        "FROM cue JOIN shown_word ON shown_word.cue_id = cue.id "
        f"JOIN word ON word.id = shown_word.word_id WHERE {where} AND cue.start_us IS NOT NULL "
        "ORDER BY cue.start_us, cue.id, shown_word.position",
        tuple(values),
    )
    cues: list[Cue] = []
    words: list[Shown] = []
    head: sqlite3.Row | None = None
    for row in found:
        if head is not None and row["id"] != head["id"]:
            if words:
                cues.append(_cue(head, words))
            words = []
        head = row
        if said is not None:
            said[row["word_id"]] = word_of(row)
        middle = (row["word_start"] + row["word_end"]) // 2
        placed = timelines.of(row["piece_id"]).shows(row["strand_id"], middle)
        if placed is not None:
            words.append(_shown(row, placed))
    if head is not None and words:
        cues.append(_cue(head, words))
    return cues


def _shown(row: sqlite3.Row, placed: Placed) -> Shown:
    """The same as what the clip makes of the word, without a step between: most of reading is this."""
    return Shown(
        row["text"],
        placed.to_piece(row["word_start"]),
        placed.to_piece(row["word_end"]),
        row["confidence"],
        row["speaker"],
        row["origin"],
        bool(row["aligned"]),
        row["word_id"],
        () if row["alternatives"] == "[]" else tuple(json.loads(row["alternatives"])),
        row["heard_as"],
        row["source_id"],
        placed.clip.id,
        row["seam"],
        row["accent"],
        row["look"],
        row["own"],
    )


def _cue(row: sqlite3.Row, words: list[Shown]) -> Cue:
    return Cue(
        row["piece_id"],
        tuple(words),
        row["start_us"],
        row["end_us"],
        bool(row["start_pinned"]),
        bool(row["end_pinned"]),
        row["id"],
    )


def load_clips(db: sqlite3.Connection, piece_id: int) -> list[Clip]:
    """The piece's clips in play order."""
    rows = db.execute(
        "SELECT clip.id, source_id, clip.start_us, clip.end_us, strand_id FROM clip "
        "JOIN strand ON strand.id = clip.strand_id WHERE clip.piece_id = ? ORDER BY position",
        (piece_id,),
    )
    columns = ("source_id", "start_us", "end_us", "id", "strand_id")
    return [Clip(*(row[column] for column in columns)) for row in rows]


def load_strands(db: sqlite3.Connection, piece_id: int) -> list[Strand]:
    """What was put into the piece, oldest first."""
    rows = db.execute(
        "SELECT id, source_id, start_us, end_us FROM strand WHERE piece_id = ? ORDER BY id",
        (piece_id,),
    )
    return [Strand(*row) for row in rows]


def load_frames(db: sqlite3.Connection, piece_id: int) -> Frames:
    """The frames of the piece where their rate is constant: those of its first source as it is, or
    (cut, or put together) at that one's rate from the piece's beginning on."""
    row = db.execute(
        "SELECT frame_rate, variable_rate, first_frame_us, clip.start_us, "
        "(SELECT count(*) FROM clip AS every WHERE every.piece_id = clip.piece_id) AS clips "
        "FROM clip JOIN strand ON strand.id = clip.strand_id "
        "JOIN source ON source.id = strand.source_id "
        "WHERE clip.piece_id = ? ORDER BY position LIMIT 1",
        (piece_id,),
    ).fetchone()
    if row["variable_rate"]:
        return Frames()
    untouched = row["clips"] == 1 and row["start_us"] == 0
    return Frames(row["frame_rate"], row["first_frame_us"] if untouched else 0)


def load_unshown(db: sqlite3.Connection, piece_id: int, timeline: Timeline) -> list[Shown]:
    """The words said in the piece that none of its cues has, in time order."""
    rows = db.execute(
        f"SELECT {WORD_COLUMNS}, clip.id AS clip_id FROM clip "
        "JOIN strand ON strand.id = clip.strand_id JOIN word ON "
        "word.source_id = strand.source_id AND (word.start_us + word.end_us) / 2 >= clip.start_us "
        "AND (word.start_us + word.end_us) / 2 < clip.end_us AND word.start_us < clip.end_us "
        # The index is by beginnings: no word lasts longer than the longest.
        "AND word.start_us >= clip.start_us - (SELECT max(every.end_us - every.start_us) "
        "FROM word AS every WHERE every.source_id = strand.source_id) WHERE clip.piece_id = ? "
        "AND NOT EXISTS (SELECT 1 FROM shown_word WHERE word_id = word.id "
        "AND strand_id = clip.strand_id)",
        (piece_id,),
    )
    found = [(timeline.clip(row["clip_id"]), word_of(row)) for row in rows]
    return sorted(
        (placed.show(word) for placed, word in found if placed), key=lambda w: (*times(w), w.id)
    )


def times(word: Word) -> tuple[int, int]:
    """When a word begins and ends."""
    return word.start_us, word.end_us


def batched(ids: Collection[int], size: int = 500) -> list[list[int]]:
    """Ids in lists short enough for one statement."""
    whole = list(ids)
    return [whole[at : at + size] for at in range(0, len(whole), size)]
