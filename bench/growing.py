"""A store that grows: many recordings in one project, thousands of cuts and edits, a page that looks on."""

from __future__ import annotations

import tempfile
import time
from collections.abc import Iterator
from contextlib import contextmanager
from pathlib import Path

from fastapi.testclient import TestClient

from bench.editing import talk_of, with_talk
from bench.report import at_most
from mortiser.api.app import create_app
from mortiser.core.edits.captions.times import SetCueTimes
from mortiser.core.edits.cutting.trimming import Passage, StrikeWords
from mortiser.settings import Settings
from mortiser.store import editing, projects, transcript
from mortiser.store.rows import load_strands
from mortiser.wiring import AppContext, open_context

RECORDINGS = 20
WORDS = 10_000
CUTS = 3_000
EDITS = 4_000
LAST = 20
"""Of the cuts and edits so many count."""


def run() -> None:
    """Print the measurements of a workspace that has grown."""
    _many_recordings()
    _many_cuts()
    _many_edits()


@contextmanager
def _workspace() -> Iterator[AppContext]:
    with tempfile.TemporaryDirectory() as folder:
        yield open_context(Settings(workspace=Path(folder)), inline_jobs=True)


def _many_recordings() -> None:
    with _workspace() as context:
        project, _, piece = with_talk(context, WORDS)
        words, source = talk_of(WORDS)
        with TestClient(
            create_app(context, with_worker=False), base_url="http://127.0.0.1"
        ) as client:
            alone = _least(lambda: _read(client, project, piece))
            for number in range(1, RECORDINGS):
                more, _ = projects.add_source(context.database, project, f"Talk {number}", source)
                transcript.append_line(context.database, more, words)
            at_most(
                f"opening one of {RECORDINGS} x {WORDS:,} words",
                _least(lambda: _read(client, project, piece)), "ms", 1_000,
                f"one recording alone opens in {alone:.0f} ms",
            )  # fmt: skip


def _read(client: TestClient, project: int, piece: int) -> None:
    client.get(f"/api/projects/{project}", params={"shown": piece}).raise_for_status()


def _many_cuts() -> None:
    with _workspace() as context:
        project, source_id, piece = with_talk(context, 2 * CUTS + 100)
        db = context.database.connection
        (strand,) = load_strands(db, piece)
        ids = [word.id for word in transcript.source_words(db, source_id)]
        times, rows = [], []
        for number in range(CUTS):
            if LAST <= number < CUTS - LAST:
                continue
            if number == CUTS - LAST:
                _strike(
                    context, project, piece, [_one(strand.id, ids, n) for n in range(LAST, number)]
                )
            started, before = time.perf_counter(), _journal_rows(context)
            _strike(context, project, piece, [_one(strand.id, ids, number)])
            times.append((time.perf_counter() - started) * 1000)
            rows.append(_journal_rows(context) - before)
        first = min(times[:LAST])
        reference = f"one of the first {LAST} takes {first:.0f} ms and {min(rows[:LAST])} rows"
        at_most(f"the {CUTS:,}th cut", min(times[-LAST:]), "ms", 60, reference)
        at_most(
            f"rows of the journal for the {CUTS:,}th cut", max(rows[-LAST:]), "rows", 12, reference
        )


def _one(strand_id: int, ids: list[int], number: int) -> Passage:
    """Every other word is struck, the last ones first: each is a cut of its own before all others."""
    word = ids[2 * (CUTS - number) - 1]
    return Passage(strand_id=strand_id, first_word=word, last_word=word)


def _strike(context: AppContext, project: int, piece: int, passages: list[Passage]) -> None:
    editing.apply_now(context.database, project, StrikeWords(piece_id=piece, passages=passages))


def _journal_rows(context: AppContext) -> int:
    row = context.database.connection.execute("SELECT max(id) FROM edit_change").fetchone()
    return int(row[0] or 0)


def _many_edits() -> None:
    with _workspace() as context:
        project, _, piece = with_talk(context, 2_000)
        database = context.database
        cues = projects.piece_cues(database.connection, piece)
        _squeeze(context)
        before = _size(context)
        for number in range(EDITS):
            cue = cues[number % len(cues)]
            by = 10_000 if number // len(cues) % 2 else -10_000
            edit = SetCueTimes(cue_id=cue.id, end_us=cue.end_us + by)
            editing.apply_now(database, project, edit)
        _squeeze(context)
        grown = (_size(context) - before) / EDITS / 1000
        started = time.perf_counter()
        revision = projects.read_project(database.connection, project).revision
        editing.undo(database, project, revision)
        undone = (time.perf_counter() - started) * 1000
        started = time.perf_counter()
        again = open_context(Settings(workspace=context.settings.workspace))
        opened = (time.perf_counter() - started) * 1000
        again.database.close()
        reference = f"{EDITS:,} edits of a caption's time"
        at_most("growth of the database an edit", grown, "kB", 2, reference, 2)
        at_most("undo of one of them", undone, "ms", 200, reference)
        at_most("start with them", opened, "ms", 2_000, reference)


def _squeeze(context: AppContext) -> None:
    context.database.connection.execute("PRAGMA wal_checkpoint(TRUNCATE)")


def _size(context: AppContext) -> int:
    return (context.settings.workspace / "mortiser.db").stat().st_size


def _least(work) -> float:
    times = []
    for _ in range(3):
        started = time.perf_counter()
        work()
        times.append((time.perf_counter() - started) * 1000)
    return min(times)
