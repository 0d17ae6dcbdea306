"""What a piece is delivered as, all of it as one ZIP, and the text that goes with it."""

import csv
import io
import json
import zipfile
from pathlib import Path

import pytest
from fastapi.testclient import TestClient

from mortiser.api.app import create_app
from mortiser.core.project.output import USUAL_OUTPUTS
from mortiser.jobs.ingest import bring_in
from mortiser.settings import Settings
from mortiser.store import transcript
from mortiser.wiring import AppContext, open_context
from tests.api.routes import made as edit
from tests.api.routes import read as view
from tests.recordings import make_video
from tests.store.fixtures import spoken

USUAL = [one.model_dump() for one in USUAL_OUTPUTS]


@pytest.fixture
def context(tmp_path: Path) -> AppContext:
    return open_context(Settings(workspace=tmp_path / "w"), inline_jobs=True)


@pytest.fixture
def client(context: AppContext) -> TestClient:
    return TestClient(create_app(context, with_worker=False), base_url="http://127.0.0.1")


@pytest.fixture
def piece(context: AppContext, client: TestClient, tmp_path: Path) -> int:
    file = make_video(tmp_path / "a.mp4", seconds=3.0, size=(160, 90))
    made = bring_in(context.database, context.workspace, file, "Tea & toast.mp4")
    context.run(made.jobs[1])
    transcript.append_line(context.database, made.source_id, spoken("We mend kettles and chairs."))
    return made.piece_id


def files(client: TestClient, delivery: int) -> list[str]:
    found = next(one for one in view(client, 1)["deliveries"] if one["id"] == delivery)
    assert found["status"] == "done", found["files"]
    return [file["name"] for file in found["files"]]


def test_only_the_files_that_were_chosen_are_made(client: TestClient, piece: int) -> None:
    assert view(client, 1)["pieces"][0]["outputs"] == USUAL
    wanted = ["json", "ttml", "csv", "txt"]
    edit(client, 1, kind="set_outputs", piece_id=piece, outputs=wanted)
    made = client.post(f"/api/pieces/{piece}/deliveries").json()["id"]
    names = files(client, made)
    assert names == [f"Tea-toast.{kind}" for kind in wanted]
    bodies = {
        name: client.get(f"/api/deliveries/{made}/files/{name}").content.decode() for name in names
    }
    assert bodies["Tea-toast.txt"].split() == ["We", "mend", "kettles", "and", "chairs."]
    rows = list(csv.reader(io.StringIO(bodies["Tea-toast.csv"])))
    assert [row[1] for row in rows] == ["word", "We", "mend", "kettles", "and", "chairs."]
    assert len(json.loads(bodies["Tea-toast.json"])["words"]) == 5
    assert "imsc1.1/text" in bodies["Tea-toast.ttml"]
    client.post("/api/projects/1/undo", json={"base_revision": view(client, 1)["revision"]})
    assert view(client, 1)["pieces"][0]["outputs"] == USUAL
    made = client.post(f"/api/pieces/{piece}/deliveries").json()["id"]
    assert [name.rpartition(".")[2] for name in files(client, made)] == ["mp4", "srt", "vtt"]


def test_nothing_or_something_unknown_is_no_choice(client: TestClient, piece: int) -> None:
    for outputs in ([], ["exe"]):
        body = {
            "base_revision": view(client, 1)["revision"],
            "edit": {"kind": "set_outputs", "piece_id": piece, "outputs": outputs},
        }
        assert client.post("/api/projects/1/edits", json=body).status_code == 400


def test_all_files_come_as_one_zip(client: TestClient, piece: int) -> None:
    made = client.post(f"/api/pieces/{piece}/deliveries").json()["id"]
    answer = client.get(f"/api/deliveries/{made}/all.zip")
    assert answer.headers["content-disposition"].endswith('Tea-toast.zip"')
    with zipfile.ZipFile(io.BytesIO(answer.content)) as archive:
        assert archive.testzip() is None
        assert archive.namelist() == files(client, made)
        for name in archive.namelist():
            alone = client.get(f"/api/deliveries/{made}/files/{name}").content
            assert archive.read(name) == alone
    assert client.get("/api/deliveries/99/all.zip").status_code == 404


def test_a_post_is_proposed_kept_and_taken_back(client: TestClient, piece: int) -> None:
    found = client.get(f"/api/pieces/{piece}/post").json()
    assert found["post"]["title"] == "We mend kettles and chairs"
    assert found["reasons"][0] == "Title: the first sentence."
    edit(client, 1, kind="set_post", piece_id=piece, post=found["post"])
    assert view(client, 1)["pieces"][0]["post"] == found["post"]
    edit(client, 1, kind="new_piece", piece_id=piece, passages=[], name="Other")
    assert view(client, 1)["pieces"][1]["post"] == found["post"]
    for _ in range(2):
        client.post("/api/projects/1/undo", json={"base_revision": view(client, 1)["revision"]})
    assert view(client, 1)["pieces"][0]["post"] == {"title": "", "text": "", "tags": []}


def waiting(
    context: AppContext, client: TestClient, piece: int, tmp_path: Path
) -> tuple[TestClient, dict]:
    """A delivery of which nothing is made yet: no worker runs."""
    queued = open_context(Settings(workspace=context.workspace.root))
    page = TestClient(create_app(queued, with_worker=False), base_url="http://127.0.0.1")
    return page, page.post(f"/api/pieces/{piece}/deliveries").json()


def test_what_waits_is_paused_let_go_on_and_put_first(
    context: AppContext, client: TestClient, piece: int, tmp_path: Path
) -> None:
    page, made = waiting(context, client, piece, tmp_path)
    ids = [file["job_id"] for file in made["files"]]
    assert made["status"] == "queued"
    assert page.post(f"/api/jobs/{ids[2]}/first").status_code == 200
    assert page.post(f"/api/jobs/{ids[0]}/pause").status_code == 200
    found = page.get("/api/queue").json()
    assert [one["file"]["job_id"] for one in found] == [ids[2], ids[1], ids[0]]
    assert [one["file"]["paused"] for one in found] == [False, False, True]
    assert found[0]["project"] == "Tea & toast"
    # Whichever is asked for, the first one is made; what is paused is not.
    for asked in (ids[0], ids[1], ids[2]):
        context.run(asked)
    (left,) = page.get("/api/queue").json()
    assert left["file"]["job_id"] == ids[0]
    assert page.post(f"/api/jobs/{ids[0]}/resume").status_code == 200
    context.run(ids[0])
    assert page.get("/api/queue").json() == []
    assert view(client, 1)["deliveries"][0]["status"] == "done"
    for action in ("pause", "first", "cancel"):
        assert page.post(f"/api/jobs/{ids[0]}/{action}").status_code == 409


def test_one_file_may_fail_or_be_stopped_and_the_others_are_made(
    context: AppContext, client: TestClient, piece: int, tmp_path: Path
) -> None:
    page, made = waiting(context, client, piece, tmp_path)
    ids = [file["job_id"] for file in made["files"]]
    assert page.post(f"/api/jobs/{ids[1]}/cancel").status_code == 200
    for job in ids:
        context.run(job)
    (found,) = view(client, 1)["deliveries"]
    assert [file["status"] for file in found["files"]] == ["done", "cancelled", "done"]
    assert found["status"] == "cancelled"
    with zipfile.ZipFile(
        io.BytesIO(client.get(f"/api/deliveries/{made['id']}/all.zip").content)
    ) as archive:
        assert archive.namelist() == ["Tea-toast.mp4", "Tea-toast.vtt"]
    url = f"/api/deliveries/{made['id']}/files/Tea-toast.srt"
    assert client.get(url).status_code == 404
    assert page.post(f"/api/jobs/{ids[1]}/retry").status_code == 200
    context.run(ids[1])
    assert client.get(url).status_code == 200


def test_a_finished_file_plays_in_place_and_goes_when_it_is_removed(
    context: AppContext, client: TestClient, piece: int
) -> None:
    made = client.post(f"/api/pieces/{piece}/deliveries").json()["id"]
    url = f"/api/deliveries/{made}/files/Tea-toast.mp4"
    played = client.get(f"{url}?inline=true", headers={"range": "bytes=0-9"})
    assert played.status_code == 206
    assert played.headers["content-disposition"].startswith("inline")
    assert client.delete(f"/api/deliveries/{made}").status_code == 204
    assert client.get(url).status_code == 404
    assert view(client, 1)["deliveries"] == []
    assert not (context.workspace.root / "deliveries" / str(made)).exists()
    assert client.delete(f"/api/deliveries/{made}").status_code == 404


def test_files_are_planned_with_their_size_and_time(client: TestClient, piece: int) -> None:
    planned = client.post(f"/api/pieces/{piece}/planned").json()
    assert [one["name"] for one in planned] == [f"Tea-toast.{end}" for end in ("mp4", "srt", "vtt")]
    made = client.post(f"/api/pieces/{piece}/deliveries").json()
    sizes = [file["size"] for file in view(client, 1)["deliveries"][0]["files"]]
    again = client.post(f"/api/pieces/{piece}/planned").json()
    # What it came to is what the next one is expected to come to.
    assert again[0]["size"] == pytest.approx(sizes[0], rel=0.05)
    assert made["files"][0]["frames"] == pytest.approx(75, abs=1)
    edit(client, 1, kind="set_outputs", piece_id=piece, outputs=["srt"], naming="{piece} {number}")
    named = client.post(f"/api/pieces/{piece}/planned").json()
    assert named[0]["name"] == "Tea-toast-02.srt"
    bad = {"kind": "set_outputs", "piece_id": piece, "outputs": ["srt"], "naming": "{maker}"}
    body = {"base_revision": view(client, 1)["revision"], "edit": bad}
    assert "A pattern can have" in client.post("/api/projects/1/edits", json=body).json()["message"]


def test_stretches_become_files_of_their_own(client: TestClient, piece: int) -> None:
    edit(client, 1, kind="set_outputs", piece_id=piece, outputs=["json"])
    parts = [{"start_us": 0, "end_us": 10**6}, {"start_us": 10**6, "end_us": 2 * 10**6}]
    made = client.post(f"/api/pieces/{piece}/deliveries", json={"stretches": parts}).json()["id"]
    assert files(client, made) == ["Tea-toast-1.json", "Tea-toast-2.json"]
    for wrong in ({"start_us": 5, "end_us": 5}, {"start_us": 0, "end_us": 10**9}):
        answer = client.post(f"/api/pieces/{piece}/deliveries", json={"stretches": [wrong]})
        assert answer.status_code == 400
        assert "lies within the piece" in answer.json()["message"]


def test_a_picture_that_moves_by_itself_is_for_short_stretches(
    context: AppContext, client: TestClient, piece: int
) -> None:
    context.database.connection.execute("UPDATE clip SET end_us = 61000000")
    gif = {"kind": "video", "form": "gif"}
    edit(client, 1, kind="set_outputs", piece_id=piece, outputs=[gif])
    answer = client.post(f"/api/pieces/{piece}/deliveries")
    assert answer.status_code == 400
    assert "GIF is for stretches of 60 s at most" in answer.json()["message"]


def test_outputs_are_kept_under_a_name(client: TestClient) -> None:
    built_in = client.get("/api/output-sets").json()
    assert [one["id"] for one in built_in] == [None] * len(built_in)
    body = {"name": " Two  files ", "outputs": [{"kind": "text", "form": "ass"}, {"kind": "still"}]}
    made = client.post("/api/output-sets", json=body).json()
    assert made["name"] == "Two files"
    found = client.get("/api/output-sets").json()[-1]
    assert [one["kind"] for one in found["outputs"]] == ["text", "still"]
    assert client.post("/api/output-sets", json={**body, "name": "feed"}).status_code == 400
    assert client.post("/api/output-sets", json={**body, "name": " "}).status_code == 400
    assert client.delete(f"/api/output-sets/{made['id']}").status_code == 204
    assert client.delete(f"/api/output-sets/{made['id']}").status_code == 404
    assert {one["form"] for one in client.get("/api/forms").json()} >= {"h264", "overlay", "gif"}
