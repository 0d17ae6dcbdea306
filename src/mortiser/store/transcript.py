"""The words of a source: read, added as they are heard, judged. Nothing here is an edit."""

from __future__ import annotations

import json
import sqlite3
from collections.abc import Sequence
from dataclasses import replace

from mortiser.core.edits.projection import add_captions
from mortiser.core.project.piece import Piece
from mortiser.core.transcript.words import Cue, Shown, Word
from mortiser.store.database import Database
from mortiser.store.projects import pieces, read_source
from mortiser.store.rows import WORD_COLUMNS, insert, load_cues, word_of, word_values
from mortiser.store.sql_session import SqlEditSession


def source_words(db: sqlite3.Connection, source_id: int) -> list[Word]:
    """All words of a source in time order."""
    rows = db.execute(
        f"SELECT {WORD_COLUMNS} FROM word WHERE source_id = ? ORDER BY start_us, end_us, id",
        (source_id,),
    )
    return [word_of(row) for row in rows]


def piece_words(db: sqlite3.Connection, piece: Piece) -> list[Shown]:
    """All words said in a piece, in its order."""
    sources = dict.fromkeys(clip.source_id for clip in piece.timeline.clips)
    return piece.timeline.shown([word for one in sources for word in source_words(db, one)])


def word_count(db: sqlite3.Connection, source_id: int) -> int:
    """How many words a source has."""
    row = db.execute("SELECT count(*) FROM word WHERE source_id = ?", (source_id,)).fetchone()
    return int(row[0])


def typed_texts(db: sqlite3.Connection, project_id: int) -> list[str]:
    """What was typed for words of any recording of a project, each text once."""
    rows = db.execute(
        "SELECT DISTINCT word.text FROM word JOIN source ON source.id = word.source_id "
        "WHERE source.project_id = ? AND word.origin = 'typed'",
        (project_id,),
    )
    return [row["text"] for row in rows]


def typed_cues(db: sqlite3.Connection) -> list[tuple[int, Cue]]:
    """(project, caption) of captions with typed words that were not found in the sound."""
    cues = load_cues(
        db,
        "cue.id IN (SELECT shown_word.cue_id FROM word JOIN shown_word ON word_id = word.id "
        "WHERE word.origin = 'typed' AND NOT word.aligned)",
        (),
    )
    projects = dict(db.execute("SELECT id, project_id FROM piece").fetchall())
    return [(projects[cue.piece_id], cue) for cue in cues]


def judge_words(database: Database, judged: Sequence[Word]) -> None:
    """Note new confidences and alternatives of heard words; those changed since are left alone.

    Not an edit: nothing a person made is touched, and the revision stays.
    """
    with database.transaction() as db:
        db.executemany(
            "UPDATE word SET confidence = ?, alternatives = ? "
            "WHERE id = ? AND text = ? AND origin = 'heard' AND confidence < 1.0",
            [(w.confidence, json.dumps(w.alternatives), w.id, w.text) for w in judged],
        )


def append_line(database: Database, source_id: int, words: Sequence[Word]) -> None:
    """Add freshly heard words to a source, grouped into captions of every piece that shows them.

    Captions that were there may be retimed (a gap closed), never regrouped.
    """
    if not words:
        return
    with database.transaction() as db:
        project_id = read_source(db, source_id).project_id
        stored = [
            replace(
                word,
                id=insert(db, "word", source_id=source_id, **word_values(word)),
                source_id=source_id,
            )
            for word in words
        ]
        session = SqlEditSession(db, project_id, database.media_services)
        for piece in pieces(db, project_id):
            for placed in piece.timeline.placed:
                shown = [
                    piece.settings.standing.dressed(placed.show(word))
                    for word in stored
                    if placed.clip.holds(word)
                ]
                if shown:
                    add_captions(session, piece.id, shown)
