"""Full disks, real ones of a few megabytes: what fails says so, what was confirmed stays, and what
waited goes on once there is room."""

from __future__ import annotations

import os
import signal
import subprocess
import tempfile
from collections.abc import Callable, Iterator
from contextlib import contextmanager
from pathlib import Path

import httpx

from tests.recordings import KETTLE, small_demo
from tests.serving import Server, bring_in, wait_delivered
from tests.torture.state import (
    Confirmed,
    jobs_ended,
    no_fault_inside,
    none_runs,
    read,
    until,
    whole,
)
from tests.torture.tally import Tally

SIZE_MB = 96


class FullDisk:
    """A small file system with a workspace on it, to be filled and emptied."""

    def __init__(self, root: Path) -> None:
        self.root = root
        self._filler = root / "filler"

    def fill(self) -> None:
        """Leave not one block."""
        with self._filler.open("ab", buffering=0) as out:
            for size in (1 << 20, 1 << 12, 1):
                try:
                    while True:
                        out.write(b"x" * size)
                except OSError:
                    pass

    def empty(self) -> None:
        """Give the room back."""
        self._filler.unlink(missing_ok=True)


@contextmanager
def small_disk() -> Iterator[FullDisk]:
    """A disk of SIZE_MB. Raises OSError where none can be mounted."""
    with tempfile.TemporaryDirectory() as folder:
        size = f"size={SIZE_MB}m"
        command = ["mount", "-t", "tmpfs", "-o", size, "mortiser-test", folder]
        if subprocess.run(command, capture_output=True, check=False).returncode:
            raise OSError("no file system can be mounted here (it takes the rights of root)")
        try:
            yield FullDisk(Path(folder))
        finally:
            subprocess.run(["umount", "--lazy", folder], check=False)


class Bench:
    """A server on a small disk with one transcribed project."""

    def __init__(self, disk: FullDisk, clip: Path) -> None:
        self.disk, self.clip = disk, clip
        self.server = Server(disk.root / "w", MORTISER_SPARE_DISK="0")
        self.client = self.server.client()
        self.project = bring_in(self.client, clip)["id"]
        until(lambda: jobs_ended(self.client, self.project), "the first jobs", 120)
        self.confirmed = Confirmed(self.server, self.project)
        assert self.confirmed.edit(self.client)

    def restart(self, how: signal.Signals = signal.SIGTERM) -> None:
        self.server.stop(how)
        self.server.start()

    def check(self) -> None:
        """With room again all goes on, and nothing was lost."""
        self.disk.empty()
        self.confirmed.check(self.client)
        assert self.confirmed.edit(self.client)
        until(lambda: jobs_ended(self.client, self.project), "a job never ends", 120)
        no_fault_inside(self.client, self.project)
        whole(self.server.workspace)

    def piece(self) -> int:
        return int(read(self.client, self.project)["pieces"][0]["id"])

    def deliver(self) -> httpx.Response:
        return self.client.post(f"/api/pieces/{self.piece()}/deliveries")


def refused(answer: httpx.Response) -> None:
    """No room, said so that somebody knows what to do; or the little that was needed was there."""
    assert answer.status_code == 507 or answer.is_success, (answer.status_code, answer.text[:300])
    if answer.status_code == 507:
        assert "free some space" in answer.json()["message"], answer.text


def editing(bench: Bench) -> None:
    bench.disk.fill()
    for _ in range(30):
        bench.confirmed.edit(bench.client)


def undoing(bench: Bench) -> None:
    for _ in range(5):
        bench.confirmed.edit(bench.client)
    bench.disk.fill()
    for _ in range(5):
        bench.confirmed.undo(bench.client)


def ingest(bench: Bench) -> None:
    bench.disk.fill()
    answer = bench.client.post(
        "/api/projects", params={"name": "a.mp4"}, content=KETTLE.read_bytes()
    )
    assert answer.status_code == 507, answer.text
    assert not list((bench.server.workspace / "uploads").iterdir())
    assert len(list((bench.server.workspace / "sources").iterdir())) == 1


def filling_while_delivering(bench: Bench) -> None:
    assert bench.deliver().is_success
    bench.disk.fill()
    until(lambda: none_runs(bench.client, bench.project), "a delivery on a full disk")
    delivery = read(bench.client, bench.project)["deliveries"][0]
    for file in delivery["files"]:
        if file["status"] == "failed":
            assert "free some space" in file["error"], delivery
            bench.disk.empty()
            assert bench.client.post(f"/api/jobs/{file['job_id']}/retry").is_success
    bench.disk.empty()
    wait_delivered(bench.client, bench.project)


def cancelling(bench: Bench) -> None:
    assert bench.deliver().is_success
    bench.disk.fill()
    job = read(bench.client, bench.project)["deliveries"][0]["files"][0]["job_id"]
    answer = bench.client.post(f"/api/jobs/{job}/cancel")
    assert answer.is_success or answer.status_code == 409, answer.text  # 409: it had ended.
    until(lambda: jobs_ended(bench.client, bench.project), "a cancelled job on a full disk", 60)


def trying_again(bench: Bench) -> None:
    assert bench.deliver().is_success
    job = read(bench.client, bench.project)["deliveries"][0]["files"][0]["job_id"]
    bench.client.post(f"/api/jobs/{job}/cancel")
    until(lambda: jobs_ended(bench.client, bench.project), "a cancelled job", 60)
    bench.disk.fill()
    answer = bench.client.post(f"/api/jobs/{job}/retry")
    assert answer.is_success or answer.status_code == 409, answer.text
    until(lambda: none_runs(bench.client, bench.project), "a job tried again on a full disk")


def filling_while_hearing(bench: Bench) -> None:
    other = bring_in(bench.client, bench.clip)["id"]
    bench.disk.fill()
    until(lambda: none_runs(bench.client, other), "hearing on a full disk")
    no_fault_inside(bench.client, other)
    bench.disk.empty()
    for job in read(bench.client, other)["jobs"]:
        if job["status"] == "failed":
            assert "free some space" in job["error"], job
            assert bench.client.post(f"/api/jobs/{job['id']}/retry").is_success
    until(lambda: jobs_ended(bench.client, other), "hearing with room again", 120)
    assert read(bench.client, other)["cues"]


def removing(bench: Bench) -> None:
    other = bring_in(bench.client, bench.clip)["id"]
    until(lambda: jobs_ended(bench.client, other), "the other's jobs", 120)
    bench.disk.fill()
    answer = bench.client.delete(f"/api/projects/{other}")
    assert answer.is_success, answer.text
    assert len(list((bench.server.workspace / "sources").iterdir())) == 1


def copying(bench: Bench) -> None:
    bench.disk.fill()
    refused(bench.client.post(f"/api/projects/{bench.project}/duplicate"))
    count = len(bench.client.get("/api/projects").json())
    assert len(list((bench.server.workspace / "sources").iterdir())) == count


def taking_files_in(bench: Bench) -> None:
    bench.disk.fill()
    captions = b"1\n00:00:00,500 --> 00:00:01,500\nGood morning\n" * 400
    refused(bench.client.post(f"/api/projects/{bench.project}/captions", content=captions))
    refused(bench.client.post("/api/glossary.csv", content=b"Kettlewick,kettle wick\n" * 900))
    font = next(Path("src/mortiser/fonts").glob("Anton*.ttf")).read_bytes()
    refused(bench.client.post("/api/fonts", content=font))
    until(lambda: none_runs(bench.client, bench.project), "an import on a full disk")
    bench.disk.empty()
    until(lambda: jobs_ended(bench.client, bench.project), "an import with room again")
    # What was imported is an edit too.
    bench.confirmed = Confirmed(bench.server, bench.project)


def starting(bench: Bench) -> None:
    bench.disk.fill()
    bench.restart()
    assert read(bench.client, bench.project)["cues"]


def starting_with_work_left(bench: Bench) -> None:
    assert bench.deliver().is_success
    os.kill(bench.server.worker_pid(), signal.SIGKILL)
    bench.disk.fill()
    bench.restart(signal.SIGKILL)
    assert read(bench.client, bench.project)["cues"]
    job = read(bench.client, bench.project)["deliveries"][0]["files"][0]
    if job["status"] in ("queued", "running"):
        answer = bench.client.post(f"/api/jobs/{job['job_id']}/cancel")
        assert answer.is_success or answer.status_code == 409, answer.text
    until(lambda: jobs_ended(bench.client, bench.project), "work left on a full disk", 60)


SITUATIONS: tuple[Callable[[Bench], None], ...] = (
    editing, undoing, ingest, filling_while_delivering, cancelling, trying_again,
    filling_while_hearing, removing, copying, taking_files_in, starting, starting_with_work_left,
)  # fmt: skip


def attack(situations: tuple[Callable[[Bench], None], ...] = SITUATIONS) -> Tally:
    """Each situation on a disk and a server of its own."""
    tally = Tally("full disks")
    with tempfile.TemporaryDirectory() as folder:
        clip = small_demo(Path(folder) / "clip.mp4", 4.0)
        for situation in situations:
            with tally.trying(situation.__name__), small_disk() as disk:
                bench = Bench(disk, clip)
                try:
                    situation(bench)
                    bench.check()
                finally:
                    disk.empty()
                    bench.server.stop(signal.SIGKILL)
    return tally
