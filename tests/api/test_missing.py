"""A recording whose file is gone is named wherever it is needed, and comes back."""

import shutil
from pathlib import Path

import pytest
from fastapi.testclient import TestClient

from mortiser.api.app import create_app
from mortiser.core.project.job_payloads import SourcePayload
from mortiser.jobs.ingest import bring_in
from mortiser.store import jobs, transcript
from mortiser.wiring import AppContext
from tests.api.routes import context_in, read
from tests.recordings import make_video
from tests.store.fixtures import spoken


@pytest.fixture
def context(tmp_path: Path) -> AppContext:
    context = context_in(tmp_path / "w")
    film = make_video(tmp_path / "Tea & toast.mp4")
    shutil.copy(film, tmp_path / "kept.mp4")
    ids = bring_in(context.database, context.workspace, film, film.name)
    transcript.append_line(context.database, ids.source_id, spoken("We mend kettles and chairs."))
    return context


@pytest.fixture
def client(context: AppContext) -> TestClient:
    return TestClient(create_app(context, with_worker=False), base_url="http://127.0.0.1")


@pytest.mark.parametrize("whole", [False, True], ids=["file", "folder"])
def test_what_needs_it_names_it_and_the_rest_works(
    context: AppContext, client: TestClient, tmp_path: Path, whole: bool
) -> None:
    ((path,),) = context.database.connection.execute("SELECT path FROM source").fetchall()
    file = context.workspace.path(path)
    assert not read(client, 1)["sources"][0]["missing"]
    shutil.rmtree(file.parent) if whole else file.unlink()
    assert read(client, 1)["sources"][0]["missing"]
    segment = "/api/sources/1/segments/0-1000000.mp4?width=90&height=160"
    for way, address in (
        ("GET", "/api/sources/1/media"),
        ("GET", "/api/pieces/1/still.png?at_us=0"),
        ("GET", segment),
        ("POST", "/api/projects/1/duplicate"),
    ):
        answer = client.request(way, address)
        assert answer.status_code == 404, address
        told = answer.json()["message"]
        assert "“Tea & toast.mp4” is not where it was" in told
        assert "choose the file again in Gather" in told
    assert [card["name"] for card in client.get("/api/projects").json()] == ["Tea & toast"]
    job = jobs.add(context.database, 1, "thumbnails", SourcePayload(source_id=1))
    context.run(job)
    assert "“Tea & toast.mp4”" in jobs.get(context.database.connection, job).error
    other = make_video(tmp_path / "other.mp4", seconds=1.0)
    refused = client.post("/api/sources/1/recording", content=other.read_bytes())
    assert refused.status_code == 400
    assert "another file than “Tea & toast.mp4”" in refused.json()["message"]
    assert not file.exists()
    back = client.post("/api/sources/1/recording", content=(tmp_path / "kept.mp4").read_bytes())
    assert back.status_code == 204
    assert not read(client, 1)["sources"][0]["missing"]
    for address in ("/api/sources/1/media", "/api/pieces/1/still.png?at_us=0", segment):
        assert client.get(address).status_code == 200
    assert client.get("/api/sources/1/poster").status_code == 200
    assert list((context.workspace.root / "uploads").iterdir()) == []
