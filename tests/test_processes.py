"""Servers and workers as processes: who owns a workspace, who ends with whom, what is told."""

import os
import signal
import subprocess
import sys
import time
from collections.abc import Callable, Iterator
from pathlib import Path

import pytest

from mortiser.cli import main
from mortiser.core.project.job_payloads import SourcePayload
from mortiser.store import jobs
from mortiser.store.database import Database
from tests.recordings import COUNTER
from tests.serving import Server, bring_in, wait_for_job

PATIENCE_S = 60.0


@pytest.fixture
def server(tmp_path: Path) -> Iterator[Server]:
    running = Server(tmp_path / "w")
    yield running
    running.stop()


def mortiser(*arguments: object, **environment: str) -> subprocess.CompletedProcess[str]:
    return subprocess.run(
        [sys.executable, "-m", "mortiser", *map(str, arguments)],
        capture_output=True, text=True, timeout=60, check=False, env=os.environ | environment,
    )  # fmt: skip


def of_workspace(workspace: Path) -> list[int]:
    """Processes that were started on a workspace."""
    found = []
    for entry in Path("/proc").iterdir():
        try:
            command = (entry / "cmdline").read_bytes().decode()
            state = (entry / "stat").read_text().rsplit(")", 1)[1].split()[0]
        except (OSError, IndexError):
            continue
        if str(workspace) in command.split("\0") and state != "Z":
            found.append(int(entry.name))
    return found


@pytest.mark.parametrize("after_s", [0.0, 0.3])
def test_no_worker_outlives_its_server_however_young(tmp_path: Path, after_s: float) -> None:
    workspace = tmp_path / "w"
    server = subprocess.Popen(
        [sys.executable, "-m", "mortiser", "serve", "--workspace", workspace, "--port", "0"],
        stdout=subprocess.DEVNULL,
        stderr=subprocess.DEVNULL,
    )
    until = time.monotonic() + PATIENCE_S
    while len(of_workspace(workspace)) < 2:
        assert time.monotonic() < until, "there is no worker"
        time.sleep(0.005)
    time.sleep(after_s)
    server.kill()
    server.wait()
    while of_workspace(workspace):
        assert time.monotonic() < until, "a worker is left"
        time.sleep(0.1)


def test_a_second_server_is_told_and_touches_nothing(server: Server) -> None:
    upload = server.workspace / "uploads" / ("ab" * 16)
    upload.write_bytes(b"still arriving")
    second = mortiser("serve", "--workspace", server.workspace, "--port", "0")
    assert second.returncode == 1
    assert f"Another Mortiser works in {server.workspace}" in second.stderr
    assert server.address in second.stderr
    assert "--workspace" in second.stderr
    assert "Traceback" not in second.stderr
    assert upload.read_bytes() == b"still arriving"
    demo = mortiser("demo", "--workspace", server.workspace, "--port", "0")
    assert demo.returncode == 1
    assert "Another Mortiser" in demo.stderr


def test_what_nobody_works_on_is_handed_out_while_the_worker_lives(server: Server) -> None:
    with server.client() as client:
        view = bring_in(client, COUNTER)
        wait_for_job(client, view["id"], "prepare")
        wait_for_job(client, view["id"], "transcribe")
        database = Database(server.workspace / "mortiser.db")
        payload = SourcePayload(source_id=view["sources"][0]["id"])
        lost = jobs.add(database, view["id"], "prepare", payload)
        jobs.take(database, lost)
        with database.transaction() as db:
            db.execute("UPDATE job SET lease_until_us = 1 WHERE id = ?", (lost,))
        assert wait_for_job(client, view["id"], "prepare", seconds=PATIENCE_S)["id"] == lost


def test_stopping_in_order_never_uses_up_attempts(server: Server) -> None:
    with server.client() as client:
        view = bring_in(client, COUNTER)
    database = Database(server.workspace / "mortiser.db")
    job = next(j["id"] for j in view["jobs"] if j["kind"] == "transcribe")
    for _ in range(2):
        until = time.monotonic() + PATIENCE_S
        while jobs.get(database.connection, job).status == "queued":
            assert time.monotonic() < until, "the work does not begin"
            time.sleep(0.02)
        server.stop(signal.SIGTERM)
        assert of_workspace(server.workspace) == []
        row = jobs.get(database.connection, job)
        assert (row.status, row.attempts) in {("queued", 0), ("done", 1)}
        server.start()
    with server.client() as client:
        wait_for_job(client, view["id"], "transcribe")


def test_a_damaged_queue_is_begun_anew(tmp_path: Path) -> None:
    workspace = tmp_path / "w"
    workspace.mkdir()
    (workspace / "queue.db").write_bytes(b"no database" * 1000)
    server = Server(workspace)
    try:
        with server.client() as client:
            view = bring_in(client, COUNTER)
            wait_for_job(client, view["id"], "prepare")
    finally:
        server.stop()


@pytest.fixture
def told(capsys: pytest.CaptureFixture[str]) -> Iterator[Callable[..., tuple[int, str]]]:
    """What a command that ends at once returns and says, without a process of its own."""
    mask = os.umask(0o022)
    os.umask(mask)

    def run(*arguments: object) -> tuple[int, str]:
        code = main([str(argument) for argument in arguments])
        return code, capsys.readouterr().err

    yield run
    os.umask(mask)


def test_faults_at_the_start_are_explained(
    tmp_path: Path, told: Callable[..., tuple[int, str]]
) -> None:
    file = tmp_path / "file"
    file.write_text("no folder")
    rubbish = tmp_path / "rubbish"
    rubbish.mkdir()
    (rubbish / "mortiser.db").write_bytes(b"no database" * 1000)
    folder = tmp_path / "folder"
    (folder / "mortiser.db").mkdir(parents=True)
    loop = tmp_path / "loop"
    loop.symlink_to(loop)
    for workspace, says in (
        (file, "cannot be used as a workspace"),
        (file / "below", "cannot be used as a workspace"),
        (Path("/proc/mortiser"), "cannot be used as a workspace"),
        (loop, "cannot be used as a workspace"),
        (rubbish, "is damaged or no database"),
        (folder, "cannot be written"),
    ):
        code, said = told("serve", "--workspace", workspace, "--port", "0")
        assert code == 1, workspace
        assert says in said
        assert "--workspace" in said
    assert (rubbish / "mortiser.db").read_bytes() == b"no database" * 1000


@pytest.mark.skipif(os.geteuid() != 0, reason="only root can mount")
def test_a_workspace_that_can_only_be_read_is_said(
    tmp_path: Path, told: Callable[..., tuple[int, str]]
) -> None:
    Server(tmp_path).stop()
    mount = ["mount", "--bind", str(tmp_path), str(tmp_path)]
    if subprocess.run(mount, capture_output=True, check=False).returncode:
        pytest.skip("nothing can be mounted here")
    try:
        subprocess.run(["mount", "-o", "remount,bind,ro", str(tmp_path)], check=True)
        code, said = told("serve", "--workspace", tmp_path, "--port", "0")
        assert code == 1
        assert "cannot be written" in said or "Read-only" in said
        assert "--workspace" in said
    finally:
        subprocess.run(["umount", str(tmp_path)], check=True)


@pytest.mark.parametrize(
    ("arguments", "environment", "says"),
    [
        (("--port", "99999"), {}, "--port or MORTISER_PORT"),
        (("--port", "kettle"), {}, "--port or MORTISER_PORT"),
        ((), {"MORTISER_PORT": "-1"}, "MORTISER_PORT"),
        ((), {"MORTISER_SPARE_DISK": "much"}, "MORTISER_SPARE_DISK"),
        ((), {"MORTISER_PASS_PHRASE": "short"}, "MORTISER_PASS_PHRASE"),
        (("--port", "0", "--host", "no such host"), {}, "cannot be used"),
        (("--port", "0", "--host", "x" * 300), {}, "cannot be used"),
    ],
)
def test_wrong_settings_are_explained(
    tmp_path: Path,
    told: Callable[..., tuple[int, str]],
    monkeypatch: pytest.MonkeyPatch,
    arguments: tuple[str, ...],
    environment: dict[str, str],
    says: str,
) -> None:
    for name, value in environment.items():
        monkeypatch.setenv(name, value)
    code, said = told("serve", "--workspace", tmp_path / "w", *arguments)
    assert code in (1, 2)
    assert says in said
    assert "short" not in said  # A pass phrase is never shown.


def test_nobody_else_may_look_into_a_workspace(server: Server) -> None:
    with server.client() as client:
        bring_in(client, COUNTER)
    for path in server.workspace.rglob("*"):
        mode = path.stat().st_mode & 0o777
        assert mode == (0o700 if path.is_dir() else 0o600), path
    assert server.workspace.stat().st_mode & 0o777 == 0o700
