"""A real server, Debian's Chromium, a page of 1280 by 800."""

from collections.abc import Iterator
from pathlib import Path
from typing import Any

import pytest

from tests.serving import Server


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
def browser_context_args() -> dict[str, Any]:
    return {"viewport": {"width": 1280, "height": 800}, "accept_downloads": True}


@pytest.fixture(scope="session")
def server(tmp_path_factory: pytest.TempPathFactory) -> Iterator[Server]:
    running = Server(tmp_path_factory.mktemp("workspace") / "w")
    yield running
    running.stop()


@pytest.fixture(scope="session")
def workspace(server: Server) -> Path:
    return server.workspace
