"""Kill the worker or the server while files are made: none half made under its name, lost or doubled."""

from __future__ import annotations

import os
import random
import signal
import tempfile
import time
from pathlib import Path

import httpx

from mortiser.core.project.output import StillFile, TextFile, VideoFile
from mortiser.media.probe import probe
from tests.recordings import small_demo
from tests.serving import Server, bring_in, wait_for_job
from tests.torture.state import read, until, whole
from tests.torture.tally import Tally

OUTPUTS = (
    VideoFile(),
    VideoFile(form="vp9", lines=180),
    VideoFile(form="overlay", lines=180),
    TextFile(),
    TextFile(form="ass", timed=True),
    StillFile(at_us=1_000_000),
)
LONGEST_S = 2.5
"""How long after an order the kill comes, at most."""
TOGETHER = 4
"""Kills between two looks at what came of the orders."""


def attack(kills: int, seed: int = 29) -> Tally:
    """So many kills, every second one of the worker alone."""
    tally = Tally("kills while delivering")
    chance = random.Random(seed)
    made = failed = 0
    with tempfile.TemporaryDirectory() as folder:
        server = Server(Path(folder) / "w")
        try:
            with server.client() as client:
                view = bring_in(client, small_demo(Path(folder) / "clip.mp4", 4.0))
                project, piece = view["id"], view["pieces"][0]["id"]
                wait_for_job(client, project, "transcribe")
                until(lambda: _told(client, project, piece), "the outputs are taken")
            for number in range(kills):
                with tally.trying(f"kill {number}"):
                    ordered = number % TOGETHER == 0
                    _kill(server, piece, ordered, number % 2 == 1, chance.uniform(0.05, LONGEST_S))
                    if number % TOGETHER == TOGETHER - 1 or number == kills - 1:
                        done, lost = _look(server, project)
                        made, failed = made + done, failed + lost
            tally.facts["files made"] = str(made)
            tally.facts["given up and told"] = str(failed)
        finally:
            server.stop(signal.SIGKILL)
    return tally


def _told(client: httpx.Client, project: int, piece: int) -> bool:
    """Whether the piece has the outputs by now; its words still come, and edits may cross them."""
    outputs = [one.model_dump(mode="json") for one in OUTPUTS]
    edit = {"kind": "set_outputs", "piece_id": piece, "outputs": outputs}
    body = {"base_revision": read(client, project)["revision"], "edit": edit}
    return client.post(f"/api/projects/{project}/edits", json=body).is_success


def _kill(server: Server, piece: int, ordered: bool, alone: bool, after_s: float) -> None:
    with server.client() as client:
        if ordered:
            assert client.post(f"/api/pieces/{piece}/deliveries").is_success
    time.sleep(after_s)
    if alone:
        os.kill(server.worker_pid(), signal.SIGKILL)
    else:
        server.stop(signal.SIGKILL)
        server.start()


def _look(server: Server, project: int) -> tuple[int, int]:
    """How many files of the newest deliveries are made, and how many were given up; all of it is checked."""
    with server.client() as client:
        until(lambda: client.get("/api/queue").json() == [], "deliveries never end", 180)
        found = read(client, project)["deliveries"]
        made = failed = 0
        for delivery in found:
            folder = server.workspace / "deliveries" / str(delivery["id"])
            assert len(delivery["files"]) == len(OUTPUTS)
            names = [file["name"] for file in delivery["files"]]
            assert len(set(names)) == len(names)
            on_disk = {one.name: one.stat().st_size for one in folder.iterdir()}
            done = [file for file in delivery["files"] if file["status"] == "done"]
            for file in delivery["files"]:
                assert file["status"] == "done" or file["error"], file
            assert on_disk == {file["name"]: file["size"] for file in done}
            for name in on_disk:
                if name.endswith((".mp4", ".webm")):
                    assert probe(folder / name).duration_us > 3_500_000
            made, failed = made + len(done), failed + len(names) - len(done)
            assert client.delete(f"/api/deliveries/{delivery['id']}").is_success
    whole(server.workspace)
    return made, failed
