"""Whatever is asked, and however often: the server holds as much afterwards as before."""

import asyncio
import ctypes
import gc
import io
import json
import os
from collections.abc import Iterator
from pathlib import Path
from typing import Any
from urllib.parse import urlencode

import pytest
from fastapi.testclient import TestClient
from PIL import Image

from mortiser.api.app import create_app
from mortiser.jobs.ingest import bring_in
from mortiser.store import transcript
from mortiser.wiring import AppContext
from tests.api.routes import context_in, made
from tests.recordings import small_demo
from tests.store.fixtures import spoken

PEOPLE = 4
TIMES = 200
WARM = 40
"""So often each is asked first: caches fill, threads start."""
MORE_MB = 20
OTHERS = {"/api/projects/{project_id}/events": "it does not end; tests of its own follow it"}
VALUES: dict[str, Any] = {
    "project_id": 1, "piece_id": 1, "source_id": 1, "cue_id": 1, "word_id": 1, "shape_id": None,
    "delivery_id": 1, "jig_id": 1, "since": 1, "width": 90, "height": 160, "side": 64,
    "code": "1f600", "name": "A.srt", "ending": "srt", "text": "kettles", "find": "kettle", "x": 0.5,
    "y": 0.5, "library": "own", "from_us": 0, "to_us": 1_000_000, "at_us": 400_000,
}  # fmt: skip
ENDINGS = {"/api/pieces/{piece_id}/cuts.{ending}": "edl"}


@pytest.fixture(scope="module")
def context(tmp_path_factory: pytest.TempPathFactory) -> AppContext:
    return context_in(tmp_path_factory.mktemp("w"))


@pytest.fixture(scope="module")
def client(context: AppContext, tmp_path_factory: pytest.TempPathFactory) -> Iterator[TestClient]:
    """A workspace that has one of everything."""
    clip = small_demo(tmp_path_factory.mktemp("clip") / "a.mp4", 3.0, (180, 320))
    ids = bring_in(context.database, context.workspace, clip, "A.mp4")
    context.run(ids.jobs[1])
    words = spoken("We mend kettles. We mend chairs.")
    transcript.append_line(context.database, ids.source_id, words)
    with TestClient(create_app(context, with_worker=False), base_url="http://127.0.0.1") as client:
        out = io.BytesIO()
        Image.new("RGB", (80, 40), (220, 20, 20)).save(out, "PNG")
        picture = client.post("/api/pictures", params={"name": "a.png"}, content=out.getvalue())
        VALUES["digest"] = VALUES["ref"] = picture.json()["digest"]
        finish = client.get("/api/finishes").json()[0]["finish"]
        assert client.post("/api/finishes/file", json={**finish, "name": "Ours"}).status_code == 201
        assert client.post("/api/pieces/1/jig", json={"name": "Ours"}).status_code == 201
        assert client.post("/api/pieces/1/deliveries").status_code == 201
        made(client, 1, kind="name_piece", piece_id=1, name="A")
        view = client.get("/api/projects/1").json()
        VALUES["cue_id"] = view["cues"][0]["id"]
        VALUES["word_id"] = view["cues"][0]["words"][0]["id"]
        yield client


def gets() -> Iterator[tuple[str, dict[str, Any]]]:
    """Every address that can be read, with what has to be asked of it."""
    for path, ways in json.loads(Path("web/openapi.json").read_text())["paths"].items():
        if "get" not in ways or path in OTHERS:
            continue
        values = {**VALUES, "ending": ENDINGS.get(path, VALUES["ending"])}
        needed = [p for p in ways["get"].get("parameters", ()) if p.get("required")]
        query = {p["name"]: values[p["name"]] for p in needed if p["in"] == "query"}
        yield path.format(**values), query


def held() -> tuple[float, int, int]:
    """Memory (MB), threads and open files of this process; what is free is given back first."""
    ctypes.CDLL(None).malloc_trim(0)
    pages = int(Path("/proc/self/statm").read_text().split()[1])
    own = "/proc/self"
    return pages * 4096 / 1e6, len(os.listdir(f"{own}/task")), len(os.listdir(f"{own}/fd"))


@pytest.fixture
def uncollected() -> Iterator[None]:
    """In a server the collector of garbage seldom comes by: nothing may wait for it."""
    gc.collect()
    gc.disable()
    yield
    gc.enable()


@pytest.mark.usefixtures("uncollected")
def test_every_get_route_leaves_the_server_as_it_was(client: TestClient) -> None:
    grown = asyncio.run(_asked_often(client.app, list(gets())))
    assert grown == []


async def _asked_often(app: Any, addresses: list[tuple[str, dict[str, Any]]]) -> list[Any]:
    """What is held before and after, where it became more."""
    grown = []
    for path, query in addresses:

        async def ask(times: int, path: str = path, query: Any = query) -> None:
            for _ in range(times):
                assert await _status(app, path, query) == 200, path

        async def by_several(times: int, ask: Any = ask) -> None:
            await asyncio.gather(*[ask(times // PEOPLE) for _ in range(PEOPLE)])

        await by_several(WARM)
        before = held()
        await by_several(TIMES)
        after = held()
        most = (before[0] + MORE_MB, before[1] + 4, before[2] + 4)
        if any(now > limit for now, limit in zip(after, most, strict=True)):
            grown.append((path, before, after))
    return grown


async def _status(app: Any, path: str, query: dict[str, Any]) -> int:
    """Ask the application without a client, which would hold things of its own."""
    scope = {
        "type": "http", "asgi": {"version": "3.0"}, "http_version": "1.1", "method": "GET",
        "scheme": "http", "path": path, "raw_path": path.encode(), "root_path": "",
        "query_string": urlencode(query).encode(), "headers": [(b"host", b"127.0.0.1")],
        "client": ("127.0.0.1", 9), "server": ("127.0.0.1", 80),
    }  # fmt: skip
    found: list[int] = []

    async def receive() -> dict[str, Any]:
        await asyncio.Event().wait()
        return {}

    async def send(message: dict[str, Any]) -> None:
        if "status" in message:
            found.append(message["status"])

    await app(scope, receive, send)
    return found[0]
