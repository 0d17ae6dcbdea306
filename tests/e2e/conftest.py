"""A real server, Debian's Chromium, a page of 1280 by 800."""

from collections.abc import Iterator
from pathlib import Path
from typing import Any

import pytest
from playwright.sync_api import Page, expect

from tests.e2e.pages import until
from tests.recordings import small_demo
from tests.serving import Server, bring_in, wait_for_job

expect.set_options(timeout=30_000)
"""As patient as ``until``: a machine that is busy with other work takes its time."""
POLICY = "Content Security Policy"
"""What the browser says when the page does what its policy forbids."""


@pytest.fixture(scope="session")
def browser_type_launch_args() -> dict[str, Any]:
    return {
        "executable_path": "/usr/bin/chromium",
        "args": [
            "--no-sandbox",
            "--no-first-run",
            "--disable-background-networking",
            "--disable-component-update",
            "--disable-sync",
            "--autoplay-policy=no-user-gesture-required",
        ],
    }


@pytest.fixture(scope="session")
def browser_context_args(server: Server) -> dict[str, Any]:
    size = {"width": 1280, "height": 800}
    return {"viewport": size, "accept_downloads": True, "base_url": server.address}


@pytest.fixture(scope="session")
def server(tmp_path_factory: pytest.TempPathFactory) -> Iterator[Server]:
    running = Server(tmp_path_factory.mktemp("workspace") / "w")
    yield running
    running.stop()


@pytest.fixture(scope="session")
def workspace(server: Server) -> Path:
    return server.workspace


@pytest.fixture(scope="session")
def project(server: Server, tmp_path_factory: pytest.TempPathFactory) -> dict:
    with server.client() as client:
        clip = small_demo(tmp_path_factory.mktemp("clip") / "short.mp4", 9.0)
        view = bring_in(client, clip, "Short kettle.mp4")
        # What comes after it may change captions by itself, until the voices are told apart.
        for kind in ("transcribe", "prepare", "speakers"):
            wait_for_job(client, view["id"], kind)
        return client.get(f"/api/projects/{view['id']}").json()


@pytest.fixture
def bench(page: Page, server: Server, project: dict) -> Iterator[Page]:
    faults: list[str] = []
    page.on("pageerror", lambda error: faults.append(str(error)))
    page.on("console", lambda said: faults.append(said.text) if POLICY in said.text else None)
    page.goto(f"{server.address}/projects/{project['id']}")
    expect(page.locator("[data-cue-text]").first).to_be_visible()
    until(page, "document.querySelector('video').readyState >= 2")
    yield page
    assert faults == []
