"""Rows to values and back, where several modules need the same."""

from __future__ import annotations

import json
import sqlite3
from collections.abc import Collection, Iterable
from typing import Any

from mortiser.core.common.frames import Frames
from mortiser.core.editing.strand import Strand
from mortiser.core.editing.timeline import Clip, Timeline
from mortiser.core.transcript.words import Cue, Shown, Word, capitalised

WORD_COLUMNS = (
    "word.id AS word_id, word.text, word.start_us AS word_start, word.end_us AS word_end, "
    "word.confidence, word.speaker, word.origin, word.aligned, word.alternatives, word.heard_as, "
    "word.source_id"
)


CUE_COLUMNS = "cue.id, cue.piece_id, cue.start_us, cue.end_us, cue.start_pinned, cue.end_pinned"
WORD_AT = 12
"""Where a word begins in a row of captions."""


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
        "alternatives": json.dumps(word.alternatives) if word.alternatives else "[]",
        "heard_as": word.heard_as,
    }


def insert(db: sqlite3.Connection, table: str, **values: object) -> int:
    """Insert a row; returns its id."""
    columns, marks = ", ".join(values), ", ".join("?" for _ in values)
    cursor = db.execute(f"INSERT INTO {table} ({columns}) VALUES ({marks})", tuple(values.values()))
    return int(cursor.lastrowid or 0)


PIECE_COLUMNS = ("strand_id", "seam", "accent", "look", "own", "capital")
"""What a word has in a piece, not in its source: columns of ``shown_word``."""


def piece_values(word: Shown, strand_id: int) -> tuple[object, ...]:
    """The values of PIECE_COLUMNS."""
    return strand_id, word.seam, word.accent, word.look, word.own, int(word.capital)


WordRow = tuple[Any, ...]
"""The values of WORD_COLUMNS."""


def word_of(row: sqlite3.Row | WordRow) -> Word:
    """The word in a row that begins with WORD_COLUMNS."""
    word_id, text, start, end, sure, speaker, origin, aligned, others, heard_as, of = row[:11]
    return Word(
        text, start, end, sure, speaker, origin, bool(aligned), word_id, _alternatives(others), heard_as, of
    )  # fmt: skip


def _alternatives(text: str) -> tuple[str, ...]:
    return () if text == "[]" else tuple(json.loads(text))


class Timelines:
    """The timelines of pieces, each read once. For one transaction: clips may change after it.

    ``was`` holds those of pieces whose clips have changed, as they were before.
    """

    def __init__(self, db: sqlite3.Connection) -> None:
        self._db = db
        self._found: dict[int, Timeline] = {}
        self.was: dict[int, Timeline] = {}

    def of(self, piece_id: int) -> Timeline:
        """A piece's timeline."""
        if piece_id not in self._found:
            self._found[piece_id] = Timeline(load_clips(self._db, piece_id))
        return self._found[piece_id]

    def forget(self, piece_id: int) -> None:
        """Read a piece's timeline anew when it is asked for next: its clips have changed."""
        if piece_id in self._found:
            self.was.setdefault(piece_id, self._found.pop(piece_id))


def load_cues(
    db: sqlite3.Connection,
    where: str,
    values: Iterable[object],
    timelines: Timelines | None = None,
    said: dict[int, WordRow] | None = None,
) -> list[Cue]:
    """Cues with the words that are not struck, in time order, for an SQL condition on ``cue``.

    ``said`` takes down the rows of the words as the transcript has them. Rows are taken apart by place:
    by name it takes twice as long, and most of reading is this.
    """
    timelines = timelines or Timelines(db)
    cursor = db.cursor()
    cursor.row_factory = None
    cursor.execute(
        f"SELECT {CUE_COLUMNS}, shown_word.strand_id, shown_word.seam, shown_word.accent, "
        f"shown_word.look, shown_word.own, shown_word.capital, {WORD_COLUMNS} "
        "FROM cue JOIN shown_word ON shown_word.cue_id = cue.id "
        f"JOIN word ON word.id = shown_word.word_id WHERE {where} AND cue.start_us IS NOT NULL "
        "ORDER BY cue.start_us, cue.id, shown_word.position",
        tuple(values),
    )
    cues: list[Cue] = []
    words: list[Shown] = []
    head: tuple[Any, ...] = ()
    for row in cursor:
        if head and row[0] != head[0]:
            if words:
                cues.append(_cue(head, words))
            words = []
        head = row
        strand_id, seam, accent, look, own, capital = row[6:WORD_AT]
        said_row = row[WORD_AT:]
        word_id, text, start, end, sure, speaker, origin, aligned, others, heard_as, of = said_row
        if said is not None:
            said[word_id] = said_row
        placed = timelines.of(row[1]).shows(strand_id, (start + end) // 2)
        if placed is None:
            continue
        words.append(
            Shown(
                capitalised(text) if capital else text, placed.to_piece(start), placed.to_piece(end),
                sure, speaker, origin, bool(aligned), word_id, _alternatives(others), heard_as, of,
                placed.clip.id, seam, accent, look, own, bool(capital),
            )
        )  # fmt: skip
    if head and words:
        cues.append(_cue(head, words))
    return cues


def _cue(row: tuple[Any, ...], words: list[Shown]) -> Cue:
    cue_id, piece_id, start, end, start_pinned, end_pinned, *_ = row
    return Cue(piece_id, tuple(words), start, end, bool(start_pinned), bool(end_pinned), cue_id)


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
        # Found by the word: by the strand (hence the plus) each would go through all its words.
        "AND NOT EXISTS (SELECT 1 FROM shown_word WHERE word_id = word.id "
        "AND +shown_word.strand_id = clip.strand_id)",
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
