"""Every session that edits work on, with one project of heard words."""

from collections.abc import Iterator
from dataclasses import replace
from pathlib import Path

import pytest

from mortiser.core.editing.timeline import Clip, Timeline
from mortiser.core.edits.captions.pacing import Regroup
from mortiser.core.edits.session import EditSession
from mortiser.store.sql_session import SqlEditSession
from tests.memory_session import DURATION_US, MemoryEditSession
from tests.store.fixtures import OTHER, SHORT, open_project, open_two_pieces, spoken


@pytest.fixture(params=["memory", "sql"])
def session(request: pytest.FixtureRequest, tmp_path: Path) -> Iterator[EditSession]:
    if request.param == "memory":
        memory = MemoryEditSession(spoken())
        Regroup(piece_id=1).apply(memory)
        yield memory
        return
    database, project, _ = open_project(tmp_path)
    with database.transaction() as db:
        yield SqlEditSession(db, project)


@pytest.fixture(params=["memory", "sql"])
def two_pieces(request: pytest.FixtureRequest, tmp_path: Path) -> Iterator[EditSession]:
    """Two sources, a piece of one, and one of clips of both out of order."""
    heard = [*spoken(), *(replace(word, source_id=2) for word in spoken(OTHER))]
    if request.param == "memory":
        whole = Timeline([Clip(1, 0, DURATION_US, id=1, strand_id=1)])
        memory = MemoryEditSession(heard, {1: whole, 2: Timeline(SHORT)})
        for piece_id in (1, 2):
            Regroup(piece_id=piece_id).apply(memory)
        yield memory
        return
    database, project = open_two_pieces(tmp_path)
    with database.transaction() as db:
        yield SqlEditSession(db, project)
