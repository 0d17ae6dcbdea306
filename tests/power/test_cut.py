"""After a power cut everything is there that was answered for: edits, recordings, pictures, files."""

import io
import sqlite3
from collections.abc import Iterator
from pathlib import Path

import pytest
from PIL import Image

from mortiser.jobs.ingest import bring_in
from mortiser.store import transcript
from tests.api.routes import context_in
from tests.power.cut import Disk
from tests.recordings import make_video
from tests.serving import Server, wait_delivered, wait_for_job
from tests.store.fixtures import spoken

EDITS = 25


@pytest.fixture
def disk(tmp_path: Path) -> Disk:
    """A workspace with a project, all of it on the disk."""
    context = context_in(tmp_path / "w")
    film = make_video(tmp_path / "a.mp4", seconds=1.0)
    ids = bring_in(context.database, context.workspace, film, "A.mp4")
    context.run(ids.jobs[1])
    transcript.append_line(context.database, ids.source_id, spoken("We mend kettles."))
    context.database.close()
    folder = tmp_path / "disk"
    folder.mkdir()
    return Disk(tmp_path / "w", folder)


@pytest.fixture
def server(disk: Disk, tmp_path: Path) -> Iterator[Server]:
    running = Server(tmp_path / "w", **disk.environment)
    yield running
    running.stop()


def rows(workspace: Path, ask: str) -> list[tuple]:
    with sqlite3.connect(workspace / "mortiser.db") as db:
        assert db.execute("PRAGMA integrity_check").fetchone() == ("ok",)
        return db.execute(ask).fetchall()


def test_every_edit_that_was_answered_is_there(disk: Disk, server: Server, tmp_path: Path) -> None:
    with server.client() as client:
        revision = client.get("/api/projects/1").json()["revision"]
        for number in range(EDITS):
            edit = {"kind": "rename_project", "name": f"Name {number}"}
            body = {"base_revision": revision, "edit": edit}
            revision = client.post("/api/projects/1/edits", json=body).json()["revision"]
            left = disk.after_a_cut(tmp_path / "left")
            assert rows(left, "SELECT name, revision FROM project") == [
                (f"Name {number}", revision)
            ]
        client.post("/api/projects/1/undo", json={"base_revision": revision})
        left = disk.after_a_cut(tmp_path / "left")
        assert rows(left, "SELECT name FROM project") == [(f"Name {EDITS - 2}",)]


def test_files_are_there_before_their_rows(disk: Disk, server: Server, tmp_path: Path) -> None:
    with server.client() as client:
        film = make_video(tmp_path / "b.mp4", seconds=1.0)
        query = {"name": "B.mp4", "transcribe": False}
        client.post("/api/projects", params=query, content=film.read_bytes())
        left = disk.after_a_cut(tmp_path / "left")
        ((path, size),) = rows(left, "SELECT path, size_bytes FROM source WHERE id = 2")
        assert (left / path).read_bytes() == film.read_bytes()
        assert size == film.stat().st_size
        assert (left / path).with_name("frames.npy").stat().st_size > 0
        out = io.BytesIO()
        Image.new("RGB", (8, 8), (200, 0, 0)).save(out, "PNG")
        picture = client.post("/api/pictures", params={"name": "a.png"}, content=out.getvalue())
        left = disk.after_a_cut(tmp_path / "left")
        with Image.open(left / "pictures" / f"{picture.json()['digest']}.png") as kept:
            assert kept.getpixel((4, 4))[0] == 200
        font = Path("src/mortiser/fonts/Rubik_500Medium.ttf").read_bytes()
        assert client.post("/api/fonts", content=font).status_code == 201
        left = disk.after_a_cut(tmp_path / "left")
        (added,) = (left / "fonts").iterdir()
        assert added.stat().st_size > 10_000
        made = client.post("/api/pieces/1/deliveries").json()["id"]
        wait_delivered(client, 1)
        left = disk.after_a_cut(tmp_path / "left")
        for name, size in rows(left, "SELECT name, size FROM delivered_file"):
            assert (left / "deliveries" / str(made) / name).stat().st_size == size
        wait_for_job(client, 2, "prepare")
        left = disk.after_a_cut(tmp_path / "left")
        assert (left / path).with_name("peaks.npz").stat().st_size > 0
