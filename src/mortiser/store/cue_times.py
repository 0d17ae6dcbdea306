"""When captions show, worked out from what is kept of them.

A caption's edges are kept in the time of its source, as far from its first and last word as they are,
so that a cut moves no row. What the piece's time makes of them stands beside them, for questions in
SQL; nothing of that is in the journal. A caption all of whose words are struck has none.
"""

from __future__ import annotations

import sqlite3
from bisect import bisect_right
from collections.abc import Collection, Iterator, Sequence
from itertools import accumulate, groupby, pairwise

from mortiser.core.captions.cue_timing import SHORTEST_SHOWN_US
from mortiser.core.editing.timeline import Placed, Shift, Timeline, changed_stretches, shifts
from mortiser.core.edits.apart import ROUNDING_US, crowded
from mortiser.store.rows import batched, insert

MOST_AT_ONCE = 8
"""Captions that show at one moment; no more are ever painted."""


def kept_edge(placed: Placed, piece_us: int) -> int:
    """An edge as it is kept: in source time, also beyond the clip that the word is in."""
    return piece_us - placed.at_us + placed.clip.start_us


def refresh(
    db: sqlite3.Connection,
    piece_id: int,
    timeline: Timeline,
    cue_ids: Collection[int] | None = None,
) -> set[int]:
    """Work out when captions of a piece show (all of them, or some); those that come or go, by id."""
    which, values = "cue.piece_id = ?", [piece_id]
    if cue_ids is not None:
        which += f" AND cue.id IN ({', '.join('?' for _ in cue_ids)})"
        values += cue_ids
    rows = db.execute(
        "SELECT cue.id, said_start_us, said_end_us, cue.start_us, cue.end_us, strand_id, "
        "(word.start_us + word.end_us) / 2 FROM cue JOIN shown_word ON shown_word.cue_id = cue.id "
        f"JOIN word ON word.id = shown_word.word_id WHERE {which} ORDER BY cue.id, position",
        values,
    )
    changed: list[tuple[int | None, int | None, int]] = []
    come_or_gone: set[int] = set()
    for cue_id, start, end, was in _times(rows, timeline):
        if (start, end) != was:
            changed.append((start, end, cue_id))
            if (start is None) != (was[0] is None):
                come_or_gone.add(cue_id)
    db.executemany("UPDATE cue SET start_us = ?, end_us = ? WHERE id = ?", changed)
    return come_or_gone


def touched(
    db: sqlite3.Connection, piece_id: int, stretches: Sequence[tuple[int, int, int]]
) -> set[int]:
    """The captions that reach into stretches (strand, start, end in source time), by id."""
    edges = sorted((start, end) for _, start, end in stretches)
    starts = [start for start, _ in edges]
    reached = list(accumulate((end for _, end in edges), max))
    near: list[int] = []
    # A caption whose words come from two places may end before it starts, in source time.
    rows = db.execute(
        "SELECT id, said_start_us, said_end_us FROM cue WHERE piece_id = ? "
        "AND max(said_start_us, said_end_us) >= ? AND min(said_start_us, said_end_us) <= ?",
        (piece_id, starts[0] if starts else 0, reached[-1] if reached else 0),
    )
    for cue_id, start, end in rows:
        low, high = min(start, end), max(start, end)
        at = bisect_right(starts, high)
        if at and reached[at - 1] >= low:
            near.append(cue_id)
    wanted = {strand_id for strand_id, _, _ in stretches}
    found: set[int] = set()
    for some in batched(near):
        marks = ", ".join("?" for _ in some)
        found |= {
            row["cue_id"]
            for row in db.execute(
                f"SELECT DISTINCT cue_id, strand_id FROM shown_word WHERE cue_id IN ({marks})", some
            )
            if row["strand_id"] in wanted
        }
    return found


def over_moves(db: sqlite3.Connection, piece_id: int, moves: Sequence[Shift]) -> set[int]:
    """The captions that begin where one thing has moved (or nothing has) and end where another has: one
    may lead in to words that went elsewhere than what shows when it begins."""
    found: set[int] = set()
    for edge in {at for one in moves for at in (one.from_us, one.to_us)}:
        rows = db.execute(
            "SELECT id, end_us FROM cue WHERE piece_id = ? AND start_us < ? "
            "ORDER BY start_us DESC LIMIT ?",
            (piece_id, edge, MOST_AT_ONCE),
        )
        found |= {cue_id for cue_id, end in rows if end > edge}
    return found


def move(db: sqlite3.Connection, piece_id: int, before: Timeline, after: Timeline) -> set[int]:
    """Work out when captions show after clips changed: those a change reaches into anew, the others
    where they have gone. Gives the former."""
    cut = touched(db, piece_id, changed_stretches(before.clips, after.clips))
    moves = [one for one in shifts(before, after) if one.by_us]
    cut |= over_moves(db, piece_id, moves) | _at_beginning(db, piece_id)
    starts = [one.from_us for one in moves]
    moved = []
    for cue_id, start, end in db.execute(
        "SELECT id, start_us, end_us FROM cue WHERE piece_id = ? AND start_us >= ?",
        (piece_id, starts[0] if starts else 0),
    ):
        at = bisect_right(starts, start) - 1
        if cue_id not in cut and at >= 0 and start < moves[at].to_us:
            moved.append((start + moves[at].by_us, end + moves[at].by_us, cue_id))
    db.executemany("UPDATE cue SET start_us = ?, end_us = ? WHERE id = ?", moved)
    for some in batched(cut):
        refresh(db, piece_id, after, some)
    return cut


def _at_beginning(db: sqlite3.Connection, piece_id: int) -> set[int]:
    """The captions that show from the piece's beginning on: some of their lead may not show."""
    rows = db.execute("SELECT id FROM cue WHERE piece_id = ? AND start_us = 0", (piece_id,))
    return {row["id"] for row in rows}


def crowding(db: sqlite3.Connection, piece_id: int) -> list[tuple[int, int]]:
    """Pairs of captions of one speaker that show at once, the earlier one first."""
    cursor = db.cursor()
    cursor.row_factory = None
    edges = cursor.execute(
        "SELECT start_us, end_us FROM cue WHERE piece_id = ? AND start_us IS NOT NULL "
        "ORDER BY start_us, id",
        (piece_id,),
    ).fetchall()
    if all(one[1] - after[0] <= ROUNDING_US for one, after in pairwise(edges)):
        return []  # As good as always: nobody's speaker has to be looked up.
    rows = cursor.execute(
        "SELECT cue.id, speaker, cue.start_us, cue.end_us, min(position) FROM cue "
        "JOIN shown_word ON shown_word.cue_id = cue.id JOIN word ON word.id = word_id "
        "WHERE piece_id = ? AND cue.start_us IS NOT NULL GROUP BY cue.id ORDER BY cue.start_us, cue.id",
        (piece_id,),
    )
    return crowded(row[:4] for row in rows)


def part_cues(db: sqlite3.Connection, strand_id: int, later: int) -> None:
    """Part the captions with words of two strands, one behind the other, where the later one begins."""
    over = db.execute(
        "SELECT cue_id, max(CASE WHEN strand_id = :first THEN word.end_us END) AS ends, "
        "min(CASE WHEN strand_id = :later THEN word.start_us END) AS begins "
        "FROM shown_word JOIN word ON word.id = word_id WHERE strand_id IN (:first, :later) "
        "GROUP BY cue_id HAVING count(DISTINCT strand_id) = 2",
        {"first": strand_id, "later": later},
    ).fetchall()
    for cue_id, ends, begins in over:
        cue = db.execute("SELECT * FROM cue WHERE id = ?", (cue_id,)).fetchone()
        end = max(cue["said_end_us"], begins + 1)
        fresh = {"piece_id": cue["piece_id"], "said_start_us": begins, "said_end_us": end}
        fresh |= {"start_pinned": 0, "end_pinned": cue["end_pinned"]}
        made = insert(db, "cue", **fresh)
        db.execute(
            "UPDATE shown_word SET cue_id = ? WHERE cue_id = ? AND strand_id = ?",
            (made, cue_id, later),
        )
        db.execute(
            "UPDATE cue SET said_end_us = ?, end_pinned = 0, end_us = CASE WHEN start_us IS NULL "
            "THEN NULL ELSE max(start_us + 1, end_us + ? - said_end_us) END WHERE id = ?",
            (ends, ends, cue_id),
        )


Times = tuple[int | None, int | None]


def _times(
    rows: sqlite3.Cursor, timeline: Timeline
) -> Iterator[tuple[int, int | None, int | None, Times]]:
    """(caption, start, end, both as they stand in the row)."""
    for cue_id, of_cue in groupby(rows, key=lambda row: row[0]):
        words = list(of_cue)
        _, said_start, said_end, *was = tuple(words[0])[:5]
        shown = [timeline.shows(row[5], row[6]) for row in words]
        kept = [one for one in shown if one is not None]
        if not kept:
            yield cue_id, None, None, (was[0], was[1])
            continue
        first, last = kept[0], kept[-1]
        start = max(0, said_start - first.clip.start_us + first.at_us)
        end = said_end - last.clip.start_us + last.at_us
        yield cue_id, start, max(end, start + SHORTEST_SHOWN_US), (was[0], was[1])
