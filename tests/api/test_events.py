"""A page that only looks on is told what changes, and costs next to nothing."""

import asyncio
import json
from pathlib import Path

import pytest
from starlette.requests import Request

from mortiser.api import event_routes
from mortiser.store import projects
from mortiser.store.database import Database
from mortiser.wiring import AppContext
from tests.api.routes import context_in
from tests.store.fixtures import source


class Looking(Request):
    """A page that stays."""

    def __init__(self) -> None:
        super().__init__({"type": "http", "method": "GET", "path": "/", "headers": []})

    async def is_disconnected(self) -> bool:
        return False


def test_a_change_of_any_connection_is_seen_without_reading(tmp_path: Path) -> None:
    database = Database(tmp_path / "w.db")
    other = Database(tmp_path / "w.db")
    with database.watch() as version:
        before = version()
        assert version() == before
        with other.transaction() as db:
            db.execute("INSERT INTO glossary_entry (written, heard) VALUES ('Marlo', '[]')")
        seen = version()
        assert seen != before
        with database.transaction() as db:
            db.execute("DELETE FROM glossary_entry")
        assert version() not in (before, seen)


def test_a_page_is_told_of_changes_and_reads_nothing_between(
    tmp_path: Path, monkeypatch: pytest.MonkeyPatch
) -> None:
    context: AppContext = context_in(tmp_path / "w")
    project, source_id, _ = projects.create_project(context.database, "Talk", source())
    reads: list[int] = []
    read = event_routes.read_status

    def counted(project_id: int, asked: AppContext) -> event_routes.ProjectStatus:
        reads.append(project_id)
        return read(project_id, asked)

    monkeypatch.setattr(event_routes, "read_status", counted)
    monkeypatch.setattr(event_routes, "PULSE_S", 0.01)
    monkeypatch.setattr(event_routes, "LOOK_AGAIN_PULSES", 1_000_000)
    monkeypatch.setattr(event_routes, "KEEP_ALIVE_PULSES", 5)

    async def look() -> None:
        events = event_routes._statuses(project, Looking(), context)
        first = await anext(events)
        assert json.loads(first.partition("data: ")[2])["revision"] == 0
        # So many times nothing was new.
        assert [await anext(events) for _ in range(3)] == [": still here\n\n"] * 3
        assert len(reads) == 1
        projects.choose_hearing(context.database, source_id, "de", 0)
        told = await anext(events)
        while not told.startswith("event"):
            told = await anext(events)
        assert json.loads(told.partition("data: ")[2])["sources"][0]["language"] == "de"
        assert len(reads) == 2
        await events.aclose()

    asyncio.run(look())
