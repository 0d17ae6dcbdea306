"""Things of a library fetched into a project, and seen over captions at once."""

from collections.abc import Iterator
from pathlib import Path

import httpx
import pytest
from fastapi.testclient import TestClient

from mortiser.api.app import create_app
from mortiser.jobs.ingest import bring_in
from mortiser.standins.shelf import ShelfServer
from mortiser.store import transcript
from mortiser.wiring import AppContext
from tests.api.routes import context_in, made, read
from tests.recordings import small_demo
from tests.store.fixtures import spoken


@pytest.fixture
def context(tmp_path: Path, shelf: ShelfServer) -> AppContext:
    context = context_in(tmp_path / "w", library_service=shelf.address)
    clip = small_demo(tmp_path / "a.mp4", 3.0, (180, 320))
    ids = bring_in(context.database, context.workspace, clip, "A.mp4")
    context.run(ids.jobs[1])
    transcript.append_line(context.database, ids.source_id, spoken("We mend kettles. And chairs."))
    return context


@pytest.fixture
def client(context: AppContext) -> Iterator[TestClient]:
    app = create_app(context, with_worker=False)
    with TestClient(app, base_url="http://127.0.0.1") as client:
        made(client, 1, kind="name_piece", piece_id=1, name="A")
        yield client


def fetch(client: TestClient, ref: str, library: str = "service") -> dict:
    cue = read(client, 1)["cues"][0]["id"]
    body = {"library": library, "ref": ref, "name": ref, "piece_id": 1, "cue_ids": [cue]}
    answer = client.post("/api/projects/1/fetched", json=body)
    assert answer.status_code == 201, answer.text
    return answer.json()


def seen(client: TestClient) -> list[dict]:
    return [one["cutaway"]["seen"] for one in read(client, 1)["pieces"][0]["cutaways"]]


def test_all_libraries_are_listed_and_searched(client: TestClient) -> None:
    listed = client.get("/api/libraries").json()
    assert [one["name"] for one in listed] == ["own", "service"]
    query = {"text": "We mend kettles", "kinds": ["film", "picture"]}
    found = client.get("/api/libraries/service/items", params=query).json()["found"]
    assert [one["ref"] for one in found] == ["kettle-steam", "green-spool"]
    small = client.get("/api/libraries/service/small", params={"ref": "kettle-steam"})
    assert small.headers["content-type"] == "image/jpeg"
    assert client.get("/api/libraries/nowhere/items").status_code == 404


def test_what_a_library_has_of_the_talk_is_offered_until_it_is_here(client: TestClient) -> None:
    def offered() -> list[tuple[str, str]]:
        found = client.get("/api/pieces/1/library-ideas").json()
        return [(one["ref"], one["reason"]) for one in found]

    assert ("kettle-steam", "“kettle” is said") in offered()
    assert ("kitchen-chair", "“chair” is said") in offered()
    fetch(client, "kettle-steam")
    assert "kettle-steam" not in dict(offered())


def test_a_film_is_fetched_once_and_seen(client: TestClient) -> None:
    assert fetch(client, "kettle-steam")["status"] == "done"
    project = read(client, 1)
    assert len(project["pieces"]) == 1
    assert [one["name"] for one in project["sources"]] == ["A.mp4", "Kettle with steam.mp4"]
    assert [one["kind"] for one in seen(client)] == ["recording"]
    fetch(client, "kettle-steam")
    assert len(read(client, 1)["sources"]) == 2
    assert len({one["source_id"] for one in seen(client)}) == 1
    own = client.get("/api/libraries/own/items", params={"text": "steam"}).json()["found"]
    assert [(one["name"], one["licence"]) for one in own] == [
        ("Kettle with steam.mp4", "CC BY 4.0")
    ]
    fetch(client, own[0]["ref"], "own")
    assert len(read(client, 1)["sources"]) == 2


def test_a_picture_is_fetched_and_seen_and_undone(client: TestClient) -> None:
    fetch(client, "blown-fuse")
    (shown,) = seen(client)
    assert (shown["kind"], shown["picture"]["name"]) == ("picture", "A blown fuse")
    revision = read(client, 1)["revision"]
    client.post("/api/projects/1/undo", json={"base_revision": revision})
    assert seen(client) == []


def test_what_is_only_heard_is_not_seen(client: TestClient) -> None:
    job = fetch(client, "shop-bell")
    assert (job["status"], "only heard" in job["error"]) == ("failed", True)
    assert seen(client) == []


def test_a_fetch_that_fails_says_so_and_leaves_nothing(
    client: TestClient, context: AppContext, shelf: ShelfServer
) -> None:
    faults = f"{shelf.address}/faults"
    httpx.put(faults, json={"gone": ["rain-window"]}).raise_for_status()
    try:
        job = fetch(client, "rain-window")
    finally:
        httpx.put(faults, json={}).raise_for_status()
    assert job["status"] == "failed"
    assert "does not have that any more" in job["error"]
    assert len(read(client, 1)["sources"]) == 1
    assert list((context.workspace.root / "uploads").iterdir()) == []


def test_captions_that_are_gone_lose_nothing_that_came(client: TestClient) -> None:
    body = {"library": "service", "ref": "wall-clock", "piece_id": 1, "cue_ids": [999]}
    job = client.post("/api/projects/1/fetched", json=body).json()
    assert "is in the project now" in job["error"]
    assert len(read(client, 1)["sources"]) == 2


def test_what_is_seen_is_to_be_credited(client: TestClient) -> None:
    fetch(client, "kettle-steam")
    fetch(client, "blown-fuse")
    assert client.post("/api/pieces/1/deliveries").status_code == 201
    (files,) = [one["files"] for one in read(client, 1)["deliveries"]]
    said = {one["name"].rpartition(".")[2]: [n["text"] for n in one["report"]] for one in files}
    assert "To be credited: A blown fuse by Ada Wickstead (CC BY 4.0)" in said["mp4"]
    assert not any("credited" in text for text in said.get("srt", ()))
