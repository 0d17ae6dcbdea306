"""Put what a second hearing changed in the place of what was heard first.

Not an edit, as the first hearing is none: the revision stays, and nothing that somebody made is
touched. A caption that any edit has been at keeps its words, since undo puts rows back as they were.
"""

from __future__ import annotations

import sqlite3
from collections.abc import Iterable, Sequence
from dataclasses import dataclass, replace

from mortiser.core.captions.cue_timing import untimed_cue
from mortiser.core.captions.grouping import group
from mortiser.core.editing.timeline import Placed
from mortiser.core.edits.apart import kept_apart
from mortiser.core.edits.projection import add_captions, follow_times, rewrite
from mortiser.core.edits.retiming import CONTEXT, retime_run
from mortiser.core.edits.session import EditSession
from mortiser.core.transcript.words import Cue, Shown, Word
from mortiser.store import journal
from mortiser.store.database import Database
from mortiser.store.journal import Changes
from mortiser.store.projects import read_source
from mortiser.store.sql_session import SqlEditSession

APART_US = 350_000
"""Words added farther than this from their neighbours get a caption of their own."""


@dataclass(frozen=True)
class Replacement:
    """Words to put in the place of ``old`` (neighbours, as they were read), or behind ``before`` where
    none is old."""

    old: Sequence[Word]
    put: Sequence[Word]
    before: Word | None


def settle(database: Database, source_id: int, replacements: Iterable[Replacement]) -> None:
    """Make those replacements that nobody has come in the way of, in the order given.

    They are made in one piece that shows the words, and come into the others from there.
    """
    with database.transaction() as db:
        project_id = read_source(db, source_id).project_id
        session = SqlEditSession(db, project_id, database.media_services)
        edited = journal.touched(db, project_id)
        with kept_apart(session):
            for one in replacements:
                near = list(one.old) if one.old else [one.before] if one.before else []
                cues = _owners(db, session, near)
                if cues and not _settled(cues, near, edited):
                    _make(session, _shown_by_one(cues), one)


def _make(session: EditSession, cues: Sequence[Cue], one: Replacement) -> None:
    near = one.old[0] if one.old else one.before
    word_id = near.id if near else 0
    placed = session.timeline(cues[0].piece_id).place_of(_by_id(cues)[word_id])
    put = [placed.show(word) for word in one.put if placed.clip.holds(_of(word, placed))]
    if one.old:
        _replace(session, cues, one.old, put)
    elif not put or one.before is None:
        return
    elif put[0].start_us - _by_id(cues)[word_id].end_us <= APART_US:
        words = cues[0].words
        at = [word.id for word in words].index(word_id) + 1
        _save(session, cues[:1], [(*words[:at], *put, *words[at:])])
    else:
        add_captions(session, cues[0].piece_id, put)


def _of(word: Word, placed: Placed) -> Word:
    return replace(word, source_id=placed.clip.source_id)


def _by_id(cues: Sequence[Cue]) -> dict[int, Shown]:
    return {word.id: word for cue in cues for word in cue.words}


def _owners(db: sqlite3.Connection, session: EditSession, words: Sequence[Word]) -> list[Cue]:
    """The captions the words are in, by piece and in order; none where one of them is in none."""
    found: list[int] = []
    for word in words:
        rows = db.execute("SELECT cue_id FROM shown_word WHERE word_id = ?", (word.id,)).fetchall()
        if not rows:
            return []
        found += [row["cue_id"] for row in rows]
    cues = [session.cue(cue_id) for cue_id in dict.fromkeys(found)]
    return sorted(cues, key=lambda cue: cue.piece_id)


def _shown_by_one(cues: Sequence[Cue]) -> list[Cue]:
    """Those of the captions that are of the first piece."""
    return [cue for cue in cues if cue.piece_id == cues[0].piece_id]


def _settled(cues: Sequence[Cue], words: Sequence[Word], edited: Changes) -> bool:
    """Whether somebody has been there, or the words are not what they were."""
    now = _by_id(cues)
    return (
        any(cue.id in edited.rows.get("cue", ()) for cue in cues)
        or any(cue.pinned for cue in cues)
        or any(word.id in edited.rows.get("word", ()) for word in now.values())
        or any(now[word.id].text != word.text or now[word.id].origin != "heard" for word in words)
    )


def _replace(
    session: EditSession, cues: Sequence[Cue], old: Sequence[Word], put: Sequence[Shown]
) -> None:
    gone = {word.id for word in old}
    now = _by_id(cues)
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
    rest = list(fresh)
    runs: list[tuple[Shown, ...]] = []
    for index, cue in enumerate(cues):
        mine = [word for word in cue.words if word.id in gone]
        last = index == len(cues) - 1
        edge = None if last else next(w.start_us for w in cues[index + 1].words if w.id in gone)
        taken = [word for word in rest if edge is None or word.start_us < edge]
        rest = rest[len(taken) :]
        at = cue.words.index(mine[0])
        runs.append((*cue.words[:at], *taken, *cue.words[at + len(mine) :]))
    _save(session, cues, runs)


def _save(session: EditSession, cues: Sequence[Cue], runs: Sequence[tuple[Shown, ...]]) -> None:
    """Captions with other words, parted where these have become too many for one."""
    piece_id = cues[0].piece_id
    before, _ = session.around(cues[0], CONTEXT)
    _, after = session.around(cues[-1], CONTEXT)
    fresh: list[Cue] = []
    for cue, words in zip(cues, runs, strict=True):
        grown = len(words) > len(cue.words)
        parts = group(words, session.pace(piece_id), session.ruler(piece_id)) if grown else []
        made = [untimed_cue(piece_id, words[a:b]) for a, b in parts or [(0, len(words))] if b]
        if made:
            made[0] = replace(made[0], id=cue.id)
        fresh += made
    retime_run(session, before, rewrite(session, cues, fresh), after)
    follow_times(session)
