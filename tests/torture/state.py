"""A workspace under attack: what was confirmed, and whether it is all still there."""

from __future__ import annotations

import sqlite3
import time
from collections.abc import Callable
from pathlib import Path
from typing import Any

import httpx

from tests.serving import Server

PATIENCE_S = 60.0
INSIDE = "Something went wrong inside"


def until(holds: Callable[[], bool], what: str, seconds: float = PATIENCE_S) -> None:
    """Wait for something; what takes too long hangs."""
    end = time.monotonic() + seconds
    while not holds():
        if time.monotonic() > end:
            raise AssertionError(f"hangs: {what}")
        time.sleep(0.05)


def read(client: httpx.Client, project: int) -> dict[str, Any]:
    """A project as the server tells it."""
    answer = client.get(f"/api/projects/{project}")
    answer.raise_for_status()
    return dict(answer.json())


def texts(view: dict[str, Any]) -> list[str]:
    """Its captions' texts."""
    return [" ".join(word["text"] for word in cue["words"]) for cue in view["cues"]]


def jobs_ended(client: httpx.Client, project: int) -> bool:
    """Whether no job of a project is to be done any more."""
    return not any(job["status"] in ("queued", "running") for job in read(client, project)["jobs"])


def none_runs(client: httpx.Client, project: int) -> bool:
    """Whether no job is under way: what is queued waits for room, and says so."""
    status = client.get(f"/api/projects/{project}/status").json()
    states = {job["status"] for job in status["jobs"]}
    return "running" not in states and ("queued" not in states or status["disk_full"])


def no_fault_inside(client: httpx.Client, project: int) -> None:
    """No job may have failed without saying why."""
    for job in read(client, project)["jobs"]:
        assert INSIDE not in (job["error"] or ""), job


def whole(workspace: Path) -> None:
    """The database is whole: no page damaged, no row without what it belongs to."""
    db = sqlite3.connect(f"file:{workspace / 'mortiser.db'}?mode=ro", uri=True)
    try:
        assert db.execute("PRAGMA integrity_check").fetchone()[0] == "ok"
        assert db.execute("PRAGMA foreign_key_check").fetchall() == []
    finally:
        db.close()


class Confirmed:
    """Edits of one project, and the state the server last said was saved."""

    def __init__(self, server: Server, project: int) -> None:
        self.server, self.project = server, project
        self.edits = 0
        with server.client() as client:
            view = read(client, project)
        self.revision: int = view["revision"]
        self.texts: list[str] | None = texts(view)
        self._asked: list[str] | None = None
        self._open = False
        """Whether something was sent that has not been answered."""

    def edit(self, client: httpx.Client) -> bool:
        """One retyped caption; False where the server had no room for it."""
        view = read(client, self.project)
        cue = view["cues"][self.edits % len(view["cues"])]
        text = f"Mended {self.edits} of them"
        self._asked = [*texts(view)]
        self._asked[self.edits % len(view["cues"])] = text
        edit = {"kind": "retype_cue", "cue_id": cue["id"], "text": text}
        return self._sent(client, "edits", {"base_revision": view["revision"], "edit": edit})

    def undo(self, client: httpx.Client) -> bool:
        """The newest edit taken back."""
        view = read(client, self.project)
        if view["history"]["undo"] is None:
            return self.edit(client)
        self._asked = None
        return self._sent(client, "undo", {"base_revision": view["revision"]})

    def _sent(self, client: httpx.Client, route: str, body: dict[str, Any]) -> bool:
        self._open = True
        answer = client.post(f"/api/projects/{self.project}/{route}", json=body)
        if answer.status_code == 507:
            self._open = False
            return False
        answer.raise_for_status()
        self.edits += 1
        self.revision, self.texts, self._asked = answer.json()["revision"], self._asked, None
        self._open = False
        if self.texts is None:  # What an undo gives is read, which a kill may come before.
            self.texts = texts(read(client, self.project))
        return True

    def check(self, client: httpx.Client) -> None:
        """Everything confirmed is there; an edit that was cut off is there whole or not at all.

        What follows from edits by itself raises the revision too, and changes no text.
        """
        view = read(client, self.project)
        assert view["revision"] >= self.revision, "a confirmed edit is lost"
        now = texts(view)
        if not self._open:
            assert self.texts in (None, now), "the captions are not those that were confirmed"
        elif self._asked is not None:
            assert now in (self.texts, self._asked), "half an edit"
        self.revision, self.texts, self._asked, self._open = view["revision"], now, None, False
