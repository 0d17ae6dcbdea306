"""What a piece is delivered as, all of it as one ZIP, and the text that goes with it."""

import csv
import io
import json
import zipfile
from pathlib import Path

import pytest
from fastapi.testclient import TestClient

from mortiser.api.app import create_app
from mortiser.jobs.bringing_in import bring_in
from mortiser.settings import Settings
from mortiser.store import transcript
from mortiser.wiring import Shop, open_shop
from tests.api.routes import made as edit
from tests.api.routes import read as view
from tests.recordings import make_video
from tests.store.fixtures import spoken


@pytest.fixture
def shop(tmp_path: Path) -> Shop:
    return open_shop(Settings(workspace=tmp_path / "w"), inline_jobs=True)


@pytest.fixture
def client(shop: Shop) -> TestClient:
    return TestClient(create_app(shop, with_worker=False), base_url="http://127.0.0.1")


@pytest.fixture
def piece(shop: Shop, client: TestClient, tmp_path: Path) -> int:
    file = make_video(tmp_path / "a.mp4", seconds=3.0, size=(160, 90))
    made = bring_in(shop.database, shop.workspace, file, "Tea & toast.mp4")
    shop.run(made.jobs[1])
    transcript.append_line(shop.database, made.source_id, spoken("We mend kettles and chairs."))
    return made.piece_id


def files(client: TestClient, delivery: int) -> list[str]:
    found = next(one for one in view(client, 1)["deliveries"] if one["id"] == delivery)
    assert found["status"] == "done", found["error"]
    return [file["name"] for file in found["files"]]


def test_only_the_files_that_were_chosen_are_made(client: TestClient, piece: int) -> None:
    assert view(client, 1)["pieces"][0]["outputs"] == ["mp4", "srt", "vtt"]
    wanted = ["json", "ttml", "csv", "txt"]
    edit(client, 1, kind="set_outputs", piece_id=piece, outputs=wanted)
    made = client.post(f"/api/pieces/{piece}/deliveries").json()["id"]
    names = files(client, made)
    assert names == [f"Tea-toast.{kind}" for kind in ("ttml", "txt", "csv", "json")]
    bodies = {
        name: client.get(f"/api/deliveries/{made}/files/{name}").content.decode() for name in names
    }
    assert bodies["Tea-toast.txt"].split() == ["We", "mend", "kettles", "and", "chairs."]
    rows = list(csv.reader(io.StringIO(bodies["Tea-toast.csv"])))
    assert [row[1] for row in rows] == ["word", "We", "mend", "kettles", "and", "chairs."]
    assert len(json.loads(bodies["Tea-toast.json"])["words"]) == 5
    assert "imsc1.1/text" in bodies["Tea-toast.ttml"]
    client.post("/api/projects/1/undo", json={"base_revision": view(client, 1)["revision"]})
    assert view(client, 1)["pieces"][0]["outputs"] == ["mp4", "srt", "vtt"]
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
