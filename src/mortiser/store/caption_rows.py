"""Captions and their words written to rows: many in as few statements as one takes.

What differs from what is stored is written, and nothing else: each written row is one in the journal.
"""

from __future__ import annotations

import sqlite3
from collections import defaultdict
from collections.abc import Collection, Iterable, Sequence
from dataclasses import replace
from operator import attrgetter
from typing import Any

from mortiser.core.captions.standing import Standing
from mortiser.core.common.errors import NotFound
from mortiser.core.editing.timeline import Timeline
from mortiser.core.transcript.words import Cue, Shown, Word, capitalised
from mortiser.store.cue_times import kept_edge
from mortiser.store.rows import (
    PIECE_COLUMNS,
    WORD_COLUMNS,
    Timelines,
    WordRow,
    batched,
    insert,
    load_cues,
    piece_values,
    times,
    word_of,
    word_values,
)

Mark = tuple[object, ...]
"""What a row says of a shown word: the word, then PIECE_COLUMNS."""
ShownRow = tuple[Any, ...]
"""Id and position of a row, its Mark, the word's start and end."""
TIME_COLUMNS = (
    "said_start_us", "said_end_us", "start_pinned", "end_pinned", "start_us", "end_us",
)  # fmt: skip


class CaptionRows:
    """The captions of a project in one open transaction, read and written."""

    def __init__(self, db: sqlite3.Connection, timelines: Timelines) -> None:
        self._db = db
        self._timelines = timelines
        self._said: dict[int, Word] = {}
        self._read: dict[int, WordRow] = {}
        """Words that were read or written, as the transcript has them; of those that were read with their
        captions the rows, until one is asked for."""
        self._found: dict[int, Cue] = {}
        self._whole: dict[int, list[Cue]] = {}
        """Captions that were read since the last change, and those of whole pieces: an edit's label, what
        it does and what is written ask for the same ones."""
        self._spelled: dict[int, dict[str, object]] = {}
        """Words whose rows are still to be written, with the values of all columns."""
        self.moved: set[int] = set()
        """Words whose times have changed."""

    def load(self, where: str, values: Iterable[object]) -> list[Cue]:
        """Cues for an SQL condition on ``cue``, in time order."""
        return load_cues(self._db, where, values, self._timelines, self._read)

    def of_piece(self, piece_id: int) -> list[Cue]:
        """All cues of a piece, in time order."""
        if piece_id not in self._whole:
            self._whole[piece_id] = self.load("cue.piece_id = ?", (piece_id,))
            self._found |= {cue.id: cue for cue in self._whole[piece_id]}
        return list(self._whole[piece_id])

    def some(self, cue_ids: Collection[int]) -> list[Cue]:
        """The cues of these ids that are there, in no order."""
        wanted = set(cue_ids)
        for some in batched(wanted - self._found.keys()):
            read = self.load(f"cue.id IN ({', '.join('?' for _ in some)})", some)
            self._found |= {cue.id: cue for cue in read}
        return [self._found[cue_id] for cue_id in wanted if cue_id in self._found]

    def forget(self) -> None:
        """Read captions anew: what they show, or when, has changed."""
        self._found.clear()
        self._whole.clear()

    def word(self, word_id: int) -> Word:
        """A word as the transcript has it. Raises NotFound."""
        if word_id in self._read:
            self._said[word_id] = word_of(self._read.pop(word_id))
        elif word_id not in self._said:
            row = self._db.execute(
                f"SELECT {WORD_COLUMNS} FROM word WHERE id = ?", (word_id,)
            ).fetchone()
            if row is None:
                raise NotFound("That word is not there any more. The page shows the newest state.")
            self._said[word_id] = word_of(row)
        return self._said[word_id]

    def save(self, cues: Sequence[Cue], standing: Standing) -> list[Cue]:
        """Insert (id 0) or update cues of one piece with their words; gives them with all ids."""
        if not all(cue.words for cue in cues):
            raise ValueError("a cue has words")
        if not cues:
            return []
        timeline = self._timelines.of(cues[0].piece_id)
        stored = {cue.id for cue in cues} - {0}
        known = {cue.id: cue.words for cue in self.some(stored)}
        self.forget()
        saved: list[Cue] = []
        for cue in cues:
            before = {word.id: word for word in known.get(cue.id, ())}
            words = [
                standing.dressed(word, before.get(word.id))
                if not word.id or word.id in before
                else word
                for word in cue.words
            ]
            said = (self._say(word, before.get(word.id), timeline) for word in words)
            saved.append(cue.with_words(tuple(said)))
        self._spell()
        self.save_times([cue for cue in saved if cue.id])
        saved = [cue if cue.id else self._insert(cue, timeline) for cue in saved]
        self._show(saved, stored, timeline)
        return saved

    def _insert(self, cue: Cue, timeline: Timeline) -> Cue:
        values = dict(zip(TIME_COLUMNS, _times_of(cue, timeline), strict=True))
        return replace(cue, id=insert(self._db, "cue", piece_id=cue.piece_id, **values))

    def save_times(self, cues: Sequence[Cue]) -> None:
        """Update when stored cues of one piece show, and nothing else of them."""
        if not cues:
            return
        self.forget()
        timeline = self._timelines.of(cues[0].piece_id)
        sets = ", ".join(f"{column} = ?" for column in TIME_COLUMNS)
        self._db.executemany(
            f"UPDATE cue SET {sets} WHERE id = ?",
            [(*_times_of(cue, timeline), cue.id) for cue in cues],
        )

    def _say(self, word: Shown, before: Shown | None, timeline: Timeline) -> Shown:
        """Take down what differs from the transcript; the word as its clip shows it."""
        if before is not None and _says(word) == _says(before) and word.id not in self._spelled:
            return word
        placed = timeline.place_of(word)
        if word.id == 0:
            said = placed.said(word)
            values = word_values(said)
            said = replace(
                said, id=insert(self._db, "word", source_id=placed.clip.source_id, **values)
            )
        else:
            stored = self.word(word.id)
            said = placed.said(word, (placed.show(stored), stored))
            if said != stored:
                self._spelled[said.id] = word_values(said)
            if times(said) != times(stored):
                self.moved.add(said.id)
            if word.capital and word.text != capitalised(word.text):
                # Somebody has written it small.
                word = replace(word, capital=False)
        self._said[said.id] = said
        self._read.pop(said.id, None)
        at = placed.to_piece(said.start_us), placed.to_piece(said.end_us)
        known = said.id, said.source_id, placed.clip.id
        if known != (word.id, word.source_id, word.clip_id):
            word = replace(word, id=said.id, source_id=said.source_id, clip_id=placed.clip.id)
        return word if at == times(word) else word.at(*at)

    def _spell(self) -> None:
        """Write the words that read otherwise, or are said at other times."""
        if not self._spelled:
            return
        sets = ", ".join(f"{column} = ?" for column in next(iter(self._spelled.values())))
        self._db.executemany(
            f"UPDATE word SET {sets} WHERE id = ?",
            [(*values.values(), word_id) for word_id, values in self._spelled.items()],
        )
        self._spelled.clear()

    def _show(self, cues: Sequence[Cue], stored: set[int], timeline: Timeline) -> None:
        """Write which words cues show, and how; rows that stay as they are are not written.

        Struck words stay behind the word they stood behind.
        """
        rows = self._shown(stored)
        changed: list[Mark] = []
        gone: list[tuple[int]] = []
        fresh: list[Mark] = []
        for cue in cues:
            shown = [
                (word.id, *piece_values(word, timeline.place_of(word).clip.strand_id))
                for word in cue.words
            ]
            there = rows[cue.id]
            marks = _with_struck(shown, there, timeline)
            changed += [
                (*mark, row[0])
                for row, mark in zip(there, marks, strict=False)
                if row[2:-2] != mark
            ]
            gone += [(row[0],) for row in there[len(marks) :]]
            free = there[-1][1] + 1 if there else 0
            fresh += [(cue.id, free + step, *mark) for step, mark in enumerate(marks[len(there) :])]
        columns = ("word_id", *PIECE_COLUMNS)
        sets = ", ".join(f"{column} = ?" for column in columns)
        self._db.executemany(f"UPDATE shown_word SET {sets} WHERE id = ?", changed)
        self._db.executemany("DELETE FROM shown_word WHERE id = ?", gone)
        self._db.executemany(
            f"INSERT INTO shown_word (cue_id, position, {', '.join(columns)}) "
            "VALUES (?, ?, ?, ?, ?, ?, ?, ?, ?)",
            fresh,
        )

    def _shown(self, cue_ids: set[int]) -> dict[int, list[ShownRow]]:
        """By cue the rows of what it shows."""
        found: dict[int, list[ShownRow]] = defaultdict(list)
        cursor = self._db.cursor()
        cursor.row_factory = None
        for some in batched(cue_ids):
            for cue_id, *row in cursor.execute(
                f"SELECT cue_id, shown_word.id, position, word_id, {', '.join(PIECE_COLUMNS)}, "
                "start_us, end_us FROM shown_word JOIN word ON word.id = word_id "
                f"WHERE cue_id IN ({', '.join('?' for _ in some)}) ORDER BY cue_id, position",
                some,
            ):
                found[cue_id].append(tuple(row))
        return found

    def delete(self, cues: Sequence[Cue]) -> None:
        """Take cues away; their words stay."""
        self.forget()
        ids = [(cue.id,) for cue in cues]
        self._db.executemany("DELETE FROM shown_word WHERE cue_id = ?", ids)
        self._db.executemany("DELETE FROM cue WHERE id = ?", ids)

    def delete_words(self, word_ids: Iterable[int]) -> None:
        """Remove words and what shows them; cues that have no other words go."""
        ids = [(word_id,) for word_id in word_ids]
        if ids:
            self.forget()
        cue_ids: set[int] = set()
        for some in batched([word_id for (word_id,) in ids]):
            marks = ", ".join("?" for _ in some)
            rows = self._db.execute(
                f"SELECT cue_id FROM shown_word WHERE word_id IN ({marks})", some
            )
            cue_ids |= {row["cue_id"] for row in rows}
        self._db.executemany("DELETE FROM shown_word WHERE word_id = ?", ids)
        self._db.executemany("DELETE FROM word WHERE id = ?", ids)
        for (word_id,) in ids:
            self._said.pop(word_id, None)
            self._read.pop(word_id, None)
        self._db.executemany(
            "DELETE FROM cue WHERE id = ? AND NOT EXISTS "
            "(SELECT 1 FROM shown_word WHERE cue_id = cue.id)",
            [(cue_id,) for cue_id in cue_ids],
        )


_says = attrgetter(
    "text", "start_us", "end_us", "confidence", "speaker", "origin", "aligned", "alternatives",
    "heard_as", "clip_id",
)  # fmt: skip
"""What a word has of its source, as a clip shows it."""


def _times_of(cue: Cue, timeline: Timeline) -> tuple[int | bool, ...]:
    """The values of TIME_COLUMNS."""
    left, right = (timeline.place_of(cue.words[index]) for index in (0, -1))
    edges = kept_edge(left, cue.start_us), kept_edge(right, cue.end_us)
    return (*edges, cue.start_pinned, cue.end_pinned, cue.start_us, cue.end_us)


def _with_struck(shown: list[Mark], rows: Sequence[ShownRow], timeline: Timeline) -> list[Mark]:
    """What a cue shows, with the struck words among its rows at their places."""
    here = {mark[:2] for mark in shown}
    struck: dict[Mark | None, list[Mark]] = {}
    before: Mark | None = None
    for row in rows:
        mark = row[2:-2]
        if timeline.shows(mark[1], (row[-2] + row[-1]) // 2) is None:
            struck.setdefault(before, []).append(mark)
        elif mark[:2] in here:
            before = mark[:2]
    if not struck:
        return shown
    merged = struck.get(None, [])
    for mark in shown:
        merged += [mark, *struck.get(mark[:2], [])]
    return merged
