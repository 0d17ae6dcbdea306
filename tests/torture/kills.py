"""Kill the server or its worker at random moments of six phases; nothing confirmed may be lost."""

from __future__ import annotations

import os
import random
import signal
import subprocess
import tempfile
import threading
import time
from collections.abc import Callable
from contextlib import suppress
from pathlib import Path

import httpx

from tests.recordings import small_demo
from tests.serving import Server, bring_in, wait_for_job
from tests.torture.state import Confirmed, jobs_ended, no_fault_inside, until, whole
from tests.torture.tally import Tally

PHASES = ("arriving", "hearing", "editing", "undoing", "delivering", "starting")
LONGEST_S = 1.2
"""How far into a phase the kill comes, at most."""


def attack(kills: int, seed: int = 13) -> Tally:
    """So many kills, the phases in turn, every third one of the worker alone."""
    tally = Tally("kills")
    chance = random.Random(seed)
    with tempfile.TemporaryDirectory() as folder:
        clip = small_demo(Path(folder) / "clip.mp4", 4.0)
        server = Server(Path(folder) / "w")
        try:
            with server.client() as client:
                project = bring_in(client, clip)["id"]
                wait_for_job(client, project, "transcribe")
            confirmed = Confirmed(server, project)
            for number in range(kills):
                phase = PHASES[number % len(PHASES)]
                alone = number // len(PHASES) % 3 == 2 and phase != "starting"
                with tally.trying(f"{number} {phase}{' (worker alone)' if alone else ''}"):
                    _kill(server, confirmed, phase, alone, clip, chance.uniform(0.02, LONGEST_S))
            tally.facts["confirmed edits"] = str(confirmed.edits)
        finally:
            server.stop(signal.SIGKILL)
    return tally


def _kill(
    server: Server, confirmed: Confirmed, phase: str, alone: bool, clip: Path, after_s: float
) -> None:
    if phase == "starting":
        server.stop(signal.SIGKILL)
        starting = subprocess.Popen(
            server.command, stdout=subprocess.DEVNULL, stderr=subprocess.DEVNULL
        )
        time.sleep(2 * after_s)
        starting.kill()
        starting.wait()
        server.start()
    else:
        stop = threading.Event()
        work = threading.Thread(target=_busy, args=(server, confirmed, phase, clip, stop))
        work.start()
        time.sleep(after_s)
        if alone:
            os.kill(server.worker_pid(), signal.SIGKILL)
            stop.set()
            work.join(60)
        else:
            server.stop(signal.SIGKILL)
            stop.set()
            work.join(60)
            server.start()
        assert not work.is_alive(), "a request hangs"
    with server.client() as client:
        confirmed.check(client)
        for card in client.get("/api/projects").json():
            project = card["id"]
            until(lambda p=project: jobs_ended(client, p), "a job never ends", 120)
            no_fault_inside(client, project)
            if project != confirmed.project:
                assert client.delete(f"/api/projects/{project}").is_success
        assert confirmed.edit(client)
        folders = len(list((server.workspace / "sources").iterdir()))
        assert folders == 1 or alone, f"{folders} recordings of one project"
    whole(server.workspace)


def _busy(
    server: Server, confirmed: Confirmed, phase: str, clip: Path, stop: threading.Event
) -> None:
    steps: dict[str, Callable[[httpx.Client], object]] = {
        "arriving": lambda client: client.post(
            "/api/projects",
            params={"name": "another.mp4", "transcribe": False},
            content=clip.read_bytes(),
        ),
        "hearing": lambda client: (bring_in(client, clip), stop.wait(5)),
        "editing": confirmed.edit,
        "undoing": confirmed.undo,
        "delivering": lambda client: (
            client.post(f"/api/pieces/{_piece(client, confirmed.project)}/deliveries"),
            stop.wait(5),
        ),
    }
    # What is cut off by the kill fails here, as it does on a page.
    with suppress(httpx.HTTPError, AssertionError, KeyError), server.client() as client:
        while not stop.is_set():
            steps[phase](client)


def _piece(client: httpx.Client, project: int) -> int:
    return int(client.get(f"/api/projects/{project}").json()["pieces"][0]["id"])
