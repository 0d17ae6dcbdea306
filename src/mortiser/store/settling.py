"""Put what a second hearing changed in the place of what was heard first.

Not an edit, as the first hearing is none: the revision stays, and nothing that somebody made is
touched. A caption that any edit has been at keeps its words, since undo puts rows back as they were.
"""

from __future__ import annotations

import sqlite3
from collections.abc import Iterable, Sequence
from dataclasses import dataclass, replace

from mortiser.core.edits.desk import Desk
from mortiser.core.edits.retiming import CONTEXT, retime_run, untimed_cue
from mortiser.core.grouping import group
from mortiser.core.words import Cue, Word
from mortiser.store import journal
from mortiser.store.database import Database
from mortiser.store.journal import Changes
from mortiser.store.projects import piece
from mortiser.store.sql_desk import SqlDesk

APART_US = 350_000
"""Words added farther than this from their neighbours get a caption of their own."""


@dataclass(frozen=True)
class Replacement:
    """Words to put in the place of ``old`` (neighbours, as they were read), or behind ``before`` where
    none is old."""

    old: Sequence[Word]
    put: Sequence[Word]
    before: Word | None


def settle(database: Database, piece_id: int, replacements: Iterable[Replacement]) -> None:
    """Make those replacements that nobody has come in the way of, in the order given."""
    with database.transaction() as db:
        kept = piece(db, piece_id)
        desk = SqlDesk(db, kept.project_id, database.rulers)
        edited = journal.touched(db, kept.project_id)
        for one in replacements:
            near = list(one.old) if one.old else [one.before] if one.before else []
            cues = _owners(db, desk, piece_id, near)
            if cues is not None and not _settled(cues, near, edited):
                _make(desk, piece_id, cues, one)


def _make(desk: Desk, piece_id: int, cues: Sequence[Cue], one: Replacement) -> None:
    if one.old:
        _replace(desk, cues, one.old, one.put)
    elif one.before is not None and one.put[0].start_us - one.before.end_us <= APART_US:
        words = cues[0].words
        at = [word.id for word in words].index(one.before.id) + 1
        _save(desk, cues[0], (*words[:at], *one.put, *words[at:]), grown=True)
    else:
        _add(desk, piece_id, one.put)


def _owners(
    db: sqlite3.Connection, desk: Desk, piece_id: int, words: Sequence[Word]
) -> list[Cue] | None:
    """The captions the words are in, in order; None where one of them is in none."""
    found: list[int] = []
    for word in words:
        row = db.execute(
            "SELECT cue.id FROM cue_word JOIN cue ON cue.id = cue_word.cue_id "
            "WHERE word_id = ? AND piece_id = ?",
            (word.id, piece_id),
        ).fetchone()
        if row is None:
            return None
        found.append(row["id"])
    return [desk.cue(cue_id) for cue_id in dict.fromkeys(found)]


def _settled(cues: Sequence[Cue], words: Sequence[Word], edited: Changes) -> bool:
    """Whether somebody has been there, or the words are not what they were."""
    now = {word.id: word for cue in cues for word in cue.words}
    return (
        any(cue.id in edited.rows.get("cue", ()) for cue in cues)
        or any(cue.pinned for cue in cues)
        or any(word.id in edited.rows.get("word", ()) for word in now.values())
        or any(now[word.id].text != word.text or now[word.id].origin != "heard" for word in words)
    )


def _replace(desk: Desk, cues: Sequence[Cue], old: Sequence[Word], put: Sequence[Word]) -> None:
    gone = {word.id for word in old}
    now = {word.id: word for cue in cues for word in cue.words}
    if len(old) == len(put):
        fresh = [
            replace(
                now[was.id],
                text=new.text,
                start_us=new.start_us,
                end_us=new.end_us,
                confidence=new.confidence,
                alternatives=new.alternatives,
                aligned=new.aligned,
            )
            for was, new in zip(old, put, strict=True)
        ]
    else:
        first = now[old[0].id]
        fresh = [replace(new, speaker=first.speaker, look=first.look) for new in put]
    kept = {word.id for word in fresh}
    rest = list(fresh)
    for index, cue in enumerate(cues):
        mine = [word for word in cue.words if word.id in gone]
        last = index == len(cues) - 1
        edge = None if last else next(w.start_us for w in cues[index + 1].words if w.id in gone)
        taken = [word for word in rest if edge is None or word.start_us < edge]
        rest = rest[len(taken) :]
        at = cue.words.index(mine[0])
        words = (*cue.words[:at], *taken, *cue.words[at + len(mine) :])
        if words:
            _save(desk, cue, words, grown=len(words) > len(cue.words))
        else:
            desk.delete_cue(cue)
    desk.delete_words(sorted(gone - kept))


def _save(desk: Desk, cue: Cue, words: tuple[Word, ...], *, grown: bool) -> None:
    """The caption with other words, parted where they have become too many for it."""
    spans = desk.spans(cue.piece_id)
    parts = group(words, desk.pace(cue.piece_id), desk.ruler(cue.piece_id)) if grown else []
    before, after = desk.around(cue, CONTEXT)
    run = [untimed_cue(cue.piece_id, words[a:b], spans) for a, b in parts or [(0, len(words))]]
    run[0] = replace(run[0], id=cue.id)
    retime_run(desk, before, [desk.save_cue(one) for one in run], after)


def _add(desk: Desk, piece_id: int, words: Sequence[Word]) -> None:
    """New captions at a place where none is."""
    spans = desk.spans(piece_id)
    parts = group(words, desk.pace(piece_id), desk.ruler(piece_id))
    run = [desk.save_cue(untimed_cue(piece_id, words[a:b], spans)) for a, b in parts]
    before, _ = desk.around(run[0], CONTEXT)
    _, after = desk.around(run[-1], CONTEXT)
    retime_run(desk, before, run, after)
