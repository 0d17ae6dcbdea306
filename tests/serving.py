"""A real server in a process of its own, with its worker, on a fresh workspace."""

from __future__ import annotations

import os
import re
import signal
import subprocess
import sys
import time
from pathlib import Path

import httpx


class Server:
    """Start, stop, kill and start again ``mortiser serve`` on one workspace."""

    def __init__(self, workspace: Path, *options: str, **environment: str) -> None:
        self.workspace = workspace
        self._options = options
        self._environment = {**os.environ, **environment}
        self._process: subprocess.Popen[str] | None = None
        self.address = ""
        self.start()

    @property
    def command(self) -> list[str]:
        """What starts it; on the port it had before, once it had one."""
        port = self.address.rsplit(":", 1)[-1] if self.address else "0"
        command = [sys.executable, "-m", "mortiser", "serve", "--port", port]
        return [*command, "--workspace", str(self.workspace), *self._options]

    def start(self) -> None:
        self._process = subprocess.Popen(
            self.command, stdout=subprocess.PIPE, text=True, env=self._environment
        )
        assert self._process.stdout is not None
        found = re.search(r"http://\S+", self._process.stdout.readline())
        assert found is not None
        self.address = found.group()
        for _ in range(100):
            try:
                httpx.get(f"{self.address}/api/projects")
                return
            except httpx.TransportError:
                time.sleep(0.1)
        raise AssertionError("the server does not answer")

    def stop(self, how: signal.Signals = signal.SIGINT) -> None:
        assert self._process is not None
        self._process.send_signal(how)
        self._process.wait(timeout=20)

    @property
    def pid(self) -> int:
        """Of the server itself."""
        assert self._process is not None
        return self._process.pid

    def worker_pid(self) -> int:
        """The worker that this server watches."""
        assert self._process is not None
        children = Path(f"/proc/{self._process.pid}/task/{self._process.pid}/children")
        for _ in range(100):
            for tasks in Path(f"/proc/{self._process.pid}/task").iterdir():
                found = (tasks / "children").read_text().split()
                if found:
                    return int(found[0])
            time.sleep(0.1)
        raise AssertionError(f"no worker below {children}")

    def client(self) -> httpx.Client:
        return httpx.Client(base_url=self.address, timeout=60)


def bring_in(client: httpx.Client, recording: Path, name: str | None = None) -> dict:
    """Upload a recording; its project as the server tells it."""
    answer = client.post(
        "/api/projects", params={"name": name or recording.name}, content=recording.read_bytes()
    )
    assert answer.status_code == 201, answer.text
    return client.get(f"/api/projects/{answer.json()['project_id']}").json()


def wait_delivered(
    client: httpx.Client, project: int, status: str = "done", seconds: float = 480
) -> dict:
    """The newest delivery once it has the status: done when all of its files are."""
    until = time.monotonic() + seconds
    while time.monotonic() < until:
        delivery = client.get(f"/api/projects/{project}").json()["deliveries"][0]
        if delivery["status"] == status:
            return delivery
        assert delivery["status"] not in {"failed"} - {status}, delivery
        time.sleep(0.1)
    raise AssertionError(f"the delivery did not become {status}: {delivery}")


def wait_for_job(
    client: httpx.Client,
    project: int,
    kind: str,
    status: str = "done",
    seconds: float = 480,
    source: int | None = None,
) -> dict:
    """The newest job of a kind (for one recording, where that is given) once it has the status."""
    until = time.monotonic() + seconds
    while time.monotonic() < until:
        jobs = [
            j
            for j in client.get(f"/api/projects/{project}").json()["jobs"]
            if j["kind"] == kind and source in (None, j["source_id"])
        ]
        if jobs and jobs[-1]["status"] == status:
            return jobs[-1]
        assert not jobs or jobs[-1]["status"] not in {"failed"} - {status}, jobs[-1]
        time.sleep(0.1)
    raise AssertionError(f"{kind} did not become {status}: {jobs}")
