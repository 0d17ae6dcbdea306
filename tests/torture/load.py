"""Three clients at once on a long project: edits, scenes, checks, undo; nothing waits for long."""

from __future__ import annotations

import tempfile
import threading
import time
from pathlib import Path

import httpx

from mortiser.store import projects, transcript
from mortiser.store.database import Database
from tests.serving import Server
from tests.store.fixtures import source, spoken
from tests.torture.state import read, whole
from tests.torture.tally import Tally

CLIENTS = 3
WORDS = 10_000
SENTENCE = "Good morning from Lantern Lane, where we mend things. "


def attack(seconds: float) -> Tally:
    """So many seconds of it."""
    tally = Tally("requests of three clients")
    with tempfile.TemporaryDirectory() as folder:
        workspace = Path(folder) / "w"
        Server(workspace).stop()
        database = Database(workspace / "mortiser.db")
        words = spoken(SENTENCE * (WORDS // 9 + 1))[:WORDS]
        project, source_id, piece = projects.create_project(
            database, "Long", source(words[-1].end_us + 1)
        )
        transcript.append_line(database, source_id, words)
        server = Server(workspace)
        try:
            over = time.monotonic() + seconds
            waits: list[float] = []
            edits: list[int] = []
            threads = [
                threading.Thread(
                    target=_client, args=(server, project, piece, n, over, tally, waits, edits)
                )
                for n in range(CLIENTS)
            ]
            for thread in threads:
                thread.start()
            for thread in threads:
                thread.join(seconds + 90)
                if thread.is_alive():
                    tally.failures.append("a client hangs")
            with server.client() as client, tally.trying("the last revision is there"):
                assert len(set(edits)) == len(edits)
                assert read(client, project)["revision"] >= max(edits)
            whole(workspace)
            waits.sort()
            tally.facts["edits a second"] = f"{len(edits) / seconds:.0f}"
            tally.facts["median"] = f"{1000 * waits[len(waits) // 2]:.0f} ms"
            tally.facts["99 %"] = f"{1000 * waits[int(0.99 * len(waits))]:.0f} ms"
            tally.facts["longest"] = f"{1000 * waits[-1]:.0f} ms"
        finally:
            server.stop()
    return tally


def _client(
    server: Server, project: int, piece: int, which: int, over: float, tally: Tally,
    waits: list[float], edits: list[int],
) -> None:  # fmt: skip
    with server.client() as client:
        view = read(client, project)
        revision, cues = view["revision"], [cue["id"] for cue in view["cues"]]
        number = 0
        while time.monotonic() < over:
            number += 1
            cue = cues[(number * 211 + which * 977) % len(cues)]
            if number % 20 == 0:
                _timed(client, "GET", f"/api/pieces/{piece}/scene", tally, waits,
                       params={"from_us": number * 10**5, "to_us": number * 10**5 + 10**7})  # fmt: skip
            if number % 100 == 50:
                _timed(client, "GET", f"/api/pieces/{piece}/checks", tally, waits)
            body: dict = {"base_revision": revision}
            route = "undo" if number % 10 == 0 else "edits"
            if route == "edits":
                text = f"Mended by {which} at {number}"
                body["edit"] = {"kind": "retype_cue", "cue_id": cue, "text": text}
            answer = _timed(client, "POST", f"/api/projects/{project}/{route}", tally, waits,
                            json=body)  # fmt: skip
            if answer is None:
                continue
            if answer.status_code == 409:  # Somebody else was first: the newest state, again.
                revision = client.get(f"/api/projects/{project}/status").json()["revision"]
            elif answer.is_success:
                revision = answer.json()["revision"]
                edits.append(revision)


def _timed(
    client: httpx.Client, method: str, address: str, tally: Tally, waits: list[float], **sent: object
) -> httpx.Response | None:  # fmt: skip
    with tally.trying(f"{method} {address}"):
        began = time.monotonic()
        answer = client.request(method, address, **sent)  # type: ignore[arg-type]
        waits.append(time.monotonic() - began)
        assert answer.status_code < 500, answer.text[:300]
        return answer
    return None
