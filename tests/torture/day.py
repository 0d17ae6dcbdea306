"""A day's work in minutes: recordings come, are cut, framed, dressed, delivered and deleted, all the time.

Afterwards the server and its worker hold no more threads, files or memory than a server may.
"""

from __future__ import annotations

import random
import signal
import tempfile
import time
from collections.abc import Callable
from dataclasses import dataclass, field
from pathlib import Path
from typing import Any

import httpx

from mortiser.core.project.output import StillFile, TextFile, VideoFile
from tests.recordings import COUNTER, small_demo
from tests.serving import Server, bring_in
from tests.torture.state import jobs_ended, no_fault_inside, read, until, whole
from tests.torture.tally import Tally

MOST_SERVER_MB, MOST_WORKER_MB = 500, 1_300
MORE_THREADS, MORE_FILES = 8, 12
"""Than after the first recording: pools that fill."""
KEPT = 3
"""Projects that are worked on at once."""
SHAPES = ((1080, 1920), (1080, 1080), (1920, 1080), (1080, 1350))
FINISHES = ("Lacquer", "Pine", "Linen", "Chalk", "Bobbin", "Tide")


def attack(seconds: float, seed: int = 5) -> Tally:
    """So many seconds of it."""
    tally = Tally("steps of a day's work")
    with tempfile.TemporaryDirectory() as folder:
        clip = small_demo(Path(folder) / "clip.mp4", 6.0)
        server = Server(Path(folder) / "w")
        try:
            with server.client() as client:
                day = Day(client, random.Random(seed), (clip, COUNTER))
                day.bring_in()
                first = {name: Held.of(pid) for name, pid in _processes(server).items()}
                over = time.monotonic() + seconds
                while time.monotonic() < over:
                    step = day.chance.choice(day.STEPS)
                    with tally.trying(step.__name__):
                        step(day)
                for project in day.projects:
                    until(lambda project=project: jobs_ended(client, project), "a job", 300)
                    no_fault_inside(client, project)
            for name, pid in _processes(server).items():
                now, most = Held.of(pid), MOST_SERVER_MB if name == "server" else MOST_WORKER_MB
                tally.facts[name] = f"{first[name]} at first, {now} after it"
                with tally.trying(f"the {name} holds no more than it may"):
                    assert now.mb <= most, now
                    assert now.threads <= first[name].threads + MORE_THREADS, now
                    assert now.files <= first[name].files + MORE_FILES, now
            whole(server.workspace)
        finally:
            server.stop(signal.SIGKILL)
    tally.facts["steps"] = ", ".join(f"{name} {count}" for name, count in sorted(day.done.items()))
    return tally


@dataclass(frozen=True)
class Held:
    """What a process holds."""

    mb: float
    threads: int
    files: int

    @classmethod
    def of(cls, pid: int) -> Held:
        """As the kernel tells it."""
        status = Path(f"/proc/{pid}/status").read_text()
        told = dict(line.split(":", 1) for line in status.splitlines())
        files = len(list(Path(f"/proc/{pid}/fd").iterdir()))
        return cls(int(told["VmRSS"].split()[0]) / 1024, int(told["Threads"]), files)

    def __str__(self) -> str:
        return f"{self.mb:.0f} MB, {self.threads} threads, {self.files} files"


def _processes(server: Server) -> dict[str, int]:
    return {"server": server.pid, "worker": server.worker_pid()}


@dataclass
class Day:
    """Somebody at work on a few projects."""

    client: httpx.Client
    chance: random.Random
    recordings: tuple[Path, ...]
    projects: list[int] = field(default_factory=list)
    done: dict[str, int] = field(default_factory=dict)

    def bring_in(self) -> None:
        """A recording more; the oldest project goes where there are many."""
        if len(self.projects) >= KEPT:
            self.client.delete(f"/api/projects/{self.projects.pop(0)}").raise_for_status()
        view = bring_in(self.client, self.chance.choice(self.recordings))
        self.projects.append(view["id"])
        until(lambda: jobs_ended(self.client, view["id"]), "a recording is never heard", 300)
        self._did("brought in")

    def edit(self, project: int, **edit: Any) -> None:
        """One edit, or nothing where the server says that it cannot be."""
        view = read(self.client, project)
        edit = {"piece_id": self.chance.choice(view["pieces"])["id"], **edit}
        body = {"base_revision": view["revision"], "edit": edit}
        answer = self.client.post(f"/api/projects/{project}/edits", json=body)
        assert answer.status_code < 500, answer.text
        self._did(edit["kind"] if answer.is_success else f"{edit['kind']} refused")

    def cut(self) -> None:
        """A few words struck."""
        project = self._project()
        piece = self.chance.choice(read(self.client, project)["pieces"])["id"]
        talk = self.client.get(f"/api/pieces/{piece}/talk").raise_for_status().json()
        row = self.chance.choice(talk["rows"])
        words = [item["id"] for item in row["items"] if item["id"]]
        if words:
            at = self.chance.randrange(len(words))
            passage = {"strand_id": row["strand_id"], "first_word": words[at],
                       "last_word": words[min(at + 3, len(words) - 1)]}  # fmt: skip
            self.edit(project, kind="strike_words", piece_id=piece, passages=[passage])

    def frame(self) -> None:
        """A shape more."""
        width, height = self.chance.choice(SHAPES)
        self.edit(self._project(), kind="add_shape", width=width, height=height)

    def dress(self) -> None:
        """Another finish."""
        self.edit(self._project(), kind="set_finish", finish=self.chance.choice(FINISHES))

    def undo(self) -> None:
        """The newest edit taken back."""
        view = read(self.client, self._project())
        body = {"base_revision": view["revision"]}
        answer = self.client.post(f"/api/projects/{view['id']}/undo", json=body)
        assert answer.status_code < 500, answer.text
        self._did("undone")

    def look(self) -> None:
        """What a page asks for: the scene, checks, a still, the next second of the preview."""
        view = read(self.client, self._project())
        piece = self.chance.choice(view["pieces"])["id"]
        for path, asked in (
            ("scene", {"from_us": 0, "to_us": 10_000_000}),
            ("checks", {}),
            ("still.png", {"at_us": 900_000}),
            ("captions.srt", {}),
        ):
            answer = self.client.get(f"/api/pieces/{piece}/{path}", params=asked)
            assert answer.status_code < 500, answer.text[:300]
        self._did("looked")

    def deliver(self) -> None:
        """Files of a piece, waited for."""
        project = self._project()
        view = read(self.client, project)
        piece = self.chance.choice(view["pieces"])["id"]
        outputs = (VideoFile(lines=360), TextFile(), StillFile(at_us=500_000))
        body = {"outputs": [one.model_dump(mode="json") for one in outputs]}
        self.edit(project, kind="set_outputs", piece_id=piece, **body)
        answer = self.client.post(f"/api/pieces/{piece}/deliveries")
        assert answer.status_code < 500, answer.text
        until(lambda: jobs_ended(self.client, project), "a delivery", 300)
        self._did("delivered")

    def _project(self) -> int:
        return self.chance.choice(self.projects)

    def _did(self, what: str) -> None:
        self.done[what] = self.done.get(what, 0) + 1

    STEPS: tuple[Callable[[Day], None], ...] = (
        bring_in, deliver, *[cut] * 6, *[frame] * 2, *[dress] * 3, *[undo] * 3, *[look] * 8,
    )  # fmt: skip
