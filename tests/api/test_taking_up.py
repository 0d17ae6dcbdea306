"""What a server that was ended left behind is taken up at the next start, and reading changes nothing."""

import sqlite3
from pathlib import Path

import pytest
from fastapi.testclient import TestClient

from mortiser.api.app import create_app
from mortiser.wiring import AppContext
from tests.api.test_trim import client, context, edit, project, view

__all__ = ["client", "context", "project"]


def test_typed_words_without_times_are_looked_for_at_the_start(
    client: TestClient, context: AppContext, project: int, monkeypatch: pytest.MonkeyPatch
) -> None:
    monkeypatch.setattr(context.typed_words, "look_over", lambda *_: None)
    cue = view(client, project)["cues"][0]
    words = " ".join(word["text"] for word in cue["words"])
    edit(
        client,
        project,
        kind="retype_cue",
        cue_id=cue["id"],
        text=f"{words} and much more than that",
    )
    asked: list[tuple[int, int]] = []
    monkeypatch.setattr(
        context.typed_words,
        "look_over",
        lambda project_id, cues: asked.extend((project_id, one.id) for one in cues),
    )
    view(client, project)
    assert asked == []
    with TestClient(create_app(context, with_worker=False), base_url="http://127.0.0.1"):
        pass
    assert asked == [(project, cue["id"])]


def rows(path: Path) -> list[str]:
    with sqlite3.connect(path) as db:
        return list(db.iterdump())


def test_reading_a_project_writes_nothing(
    client: TestClient, context: AppContext, project: int
) -> None:
    before = rows(context.database.path)
    for path in ("", "/status", "/history"):
        assert client.get(f"/api/projects/{project}{path}").status_code == 200
    assert rows(context.database.path) == before
