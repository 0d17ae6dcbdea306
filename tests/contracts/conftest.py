"""Every desk that edits work on, with one project of heard words."""

from collections.abc import Iterator
from pathlib import Path

import pytest

from mortiser.core.edits.desk import Desk
from mortiser.core.edits.pacing import Regroup
from mortiser.store.sql_desk import SqlDesk
from tests.memory_desk import MemoryDesk
from tests.store.fixtures import open_project, spoken


@pytest.fixture(params=["memory", "sql"])
def desk(request: pytest.FixtureRequest, tmp_path: Path) -> Iterator[Desk]:
    if request.param == "memory":
        memory = MemoryDesk(spoken())
        Regroup(piece_id=1).apply(memory)
        yield memory
        return
    database, project, _ = open_project(tmp_path)
    with database.transaction() as db:
        yield SqlDesk(db, project)
