"""What several tests of the routes need."""

from pathlib import Path

from fastapi.testclient import TestClient

from mortiser.settings import Settings
from mortiser.wiring import AppContext, open_context


def context_in(folder: Path, **settings: object) -> AppContext:
    return open_context(Settings(workspace=folder, **settings), inline_jobs=True)


def read(client: TestClient, project: int) -> dict:
    return client.get(f"/api/projects/{project}").json()


def edit(client: TestClient, project: int, revision: int, **command: object):
    return client.post(
        f"/api/projects/{project}/edits", json={"base_revision": revision, "edit": command}
    )


def made(client: TestClient, project: int, **command: object) -> dict:
    """An edit that is taken, made against the newest revision."""
    answer = edit(client, project, read(client, project)["revision"], **command)
    assert answer.status_code == 200, answer.text
    return answer.json()
