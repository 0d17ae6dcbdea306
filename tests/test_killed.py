"""Work survives the worker's and the server's sudden end."""

import os
import signal
import socket
import time
from collections.abc import Iterator
from pathlib import Path

import av
import httpx
import pytest

from tests.recordings import KETTLE, small_demo
from tests.serving import Server, bring_in, wait_delivered, wait_for_job


@pytest.fixture
def server(tmp_path: Path) -> Iterator[Server]:
    running = Server(tmp_path / "w")
    yield running
    running.stop()


def delivering(client: httpx.Client, project: int, least: float = 0.1) -> dict:
    """The delivery once it is under way."""
    for _ in range(2400):
        delivery = client.get(f"/api/projects/{project}").json()["deliveries"][0]
        video = delivery["files"][0]
        if video["status"] == "running" and video["progress"] > least:
            return video
        assert delivery["status"] != "done", "the delivery ended too soon to be disturbed"
        time.sleep(0.05)
    raise AssertionError("the delivery does not start")


def files(server: Server) -> list[str]:
    """What is delivered: files half made lie in folders of their own."""
    return sorted(f.name for f in (server.workspace / "deliveries").glob("*/*") if f.is_file())


def gone(pid: int) -> bool:
    try:
        return Path(f"/proc/{pid}/stat").read_text().split()[2] == "Z"
    except FileNotFoundError:
        return True


@pytest.mark.parametrize("whole", [False, True], ids=["worker killed", "server killed"])
def test_a_killed_delivery_is_done_again(server: Server, tmp_path: Path, whole: bool) -> None:
    client = server.client()
    # Long enough that it is not over before the kill, though the machine stands still for some seconds.
    clip = small_demo(tmp_path / "clip.mp4", 18.0)
    view = bring_in(client, clip)
    project = view["id"]
    wait_for_job(client, project, "transcribe")
    client.post(f"/api/pieces/{view['pieces'][0]['id']}/deliveries")
    delivering(client, project)
    worker = server.worker_pid()
    if whole:
        server.stop(signal.SIGKILL)
        until = time.monotonic() + 10
        while not gone(worker):
            assert time.monotonic() < until, "the worker outlives its server"
            time.sleep(0.1)
        assert "clip.mp4" not in files(server)
        server.start()
    else:
        os.kill(worker, signal.SIGKILL)
        assert "clip.mp4" not in files(server)
    wait_delivered(client, project)
    assert files(server) == ["clip.mp4", "clip.srt", "clip.vtt"]
    with (
        av.open(str(next((server.workspace / "deliveries").rglob("*.mp4")))) as out,
        av.open(str(clip)) as source,
    ):
        assert out.streams.video[0].frames == source.streams.video[0].frames
    assert not list((server.workspace / "deliveries").rglob("*.partial"))


def test_killed_listening_goes_on_and_keeps_what_was_heard(server: Server) -> None:
    client = server.client()
    project = bring_in(client, KETTLE)["id"]
    while not (heard := client.get(f"/api/projects/{project}").json()["cues"]):
        time.sleep(0.05)
    os.kill(server.worker_pid(), signal.SIGKILL)
    wait_for_job(client, project, "transcribe")
    cues = client.get(f"/api/projects/{project}").json()["cues"]
    assert [w["id"] for w in cues[0]["words"]] == [w["id"] for w in heard[0]["words"]]
    said = " ".join(w["text"] for c in cues for w in c["words"])
    assert "tea is free" in said
    starts = [w["start_us"] for c in cues for w in c["words"]]
    assert starts == sorted(starts)


def test_a_cancelled_delivery_stops_and_can_be_done_again(server: Server, tmp_path: Path) -> None:
    client = server.client()
    view = bring_in(client, small_demo(tmp_path / "clip.mp4", 9.0))
    wait_for_job(client, view["id"], "transcribe")
    client.post(f"/api/pieces/{view['pieces'][0]['id']}/deliveries")
    job = delivering(client, view["id"])["job_id"]
    client.post(f"/api/jobs/{job}/cancel")
    wait_delivered(client, view["id"], "cancelled", seconds=20)
    assert "clip.mp4" not in files(server)
    client.post(f"/api/jobs/{job}/retry")
    wait_delivered(client, view["id"])
    assert len(files(server)) == 3


def test_a_paused_delivery_waits_and_is_made_when_it_goes_on(
    server: Server, tmp_path: Path
) -> None:
    client = server.client()
    view = bring_in(client, small_demo(tmp_path / "clip.mp4", 9.0))
    wait_for_job(client, view["id"], "transcribe")
    client.post(f"/api/pieces/{view['pieces'][0]['id']}/deliveries")
    job = delivering(client, view["id"])["job_id"]
    assert client.post(f"/api/jobs/{job}/pause").json()["status"] == "queued"
    until = time.monotonic() + 20
    while list((server.workspace / "deliveries").rglob("*.partial")):
        assert time.monotonic() < until, "the work goes on"
        time.sleep(0.1)
    time.sleep(4)  # Longer than between two looks for what nobody works on.
    video = client.get(f"/api/projects/{view['id']}").json()["deliveries"][0]["files"][0]
    assert (video["status"], video["paused"], video["size"]) == ("queued", True, 0)
    client.post(f"/api/jobs/{job}/resume")
    wait_delivered(client, view["id"])
    assert len(files(server)) == 3


def test_an_upload_that_breaks_off_leaves_nothing(server: Server) -> None:
    host, port = server.address.removeprefix("http://").split(":")
    head = f"POST /api/projects?name=a.mp4 HTTP/1.1\r\nHost: {host}:{port}\r\nContent-Length: 9000000\r\n\r\n"
    uploads = server.workspace / "uploads"
    with socket.create_connection((host, int(port))) as line:
        line.sendall(head.encode() + KETTLE.read_bytes()[:500_000])
        until = time.monotonic() + 10
        while not list(uploads.iterdir()):
            assert time.monotonic() < until
            time.sleep(0.02)
    while list(uploads.iterdir()):
        assert time.monotonic() < until, "the half upload is still there"
        time.sleep(0.05)
    assert server.client().get("/api/projects").json() == []
