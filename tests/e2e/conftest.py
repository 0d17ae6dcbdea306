"""A real server, Debian's Chromium, a page of 1280 by 800."""

from collections.abc import Callable, Iterator
from contextlib import contextmanager
from pathlib import Path
from typing import Any

import pytest
from playwright.sync_api import Browser, ConsoleMessage, Error, Page, ViewportSize, expect

from mortiser.standins.shelf import ShelfServer
from tests.e2e.pages import until
from tests.recordings import small_demo
from tests.serving import Server, bring_in, wait_for_job

expect.set_options(timeout=30_000)
"""As patient as ``until``: a machine that is busy with other work takes its time."""
SIZE: ViewportSize = {"width": 1280, "height": 800}
POLICY = "Content Security Policy"
"""What the browser says when the page does what its policy forbids."""


@pytest.fixture(scope="session")
def browser_type_launch_args() -> dict[str, Any]:
    return {
        "executable_path": "/usr/bin/chromium-headless-shell",
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
    return {"viewport": SIZE, "accept_downloads": True, "base_url": server.address}


@pytest.fixture(scope="session")
def server(tmp_path_factory: pytest.TempPathFactory, shelf: ShelfServer) -> Iterator[Server]:
    folder = tmp_path_factory.mktemp("workspace") / "w"
    running = Server(folder, MORTISER_LIBRARY_SERVICE=shelf.address)
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


@pytest.fixture(scope="module")
def kept_page(
    browser: Browser, browser_context_args: dict[str, Any]
) -> Iterator[Callable[[], Page]]:
    """The page of a file's tests; another one where a test has closed it. Opening one and filling its cache
    takes longer than most tests."""
    context = browser.new_context(**browser_context_args)

    def at_hand() -> Page:
        there = context.pages
        for further in there[1:]:
            further.close()
        return there[0] if there else context.new_page()

    yield at_hand
    context.close()


@pytest.fixture
def page(kept_page: Callable[[], Page]) -> Iterator[Page]:
    """A page that remembers nothing of the tests before."""
    yield (page := kept_page())
    if page.is_closed():
        return
    page.unroute_all(behavior="ignoreErrors")
    page.set_viewport_size(SIZE)
    page.context.clear_permissions()
    if page.url.startswith("http"):
        page.evaluate("localStorage.clear(); sessionStorage.clear()")
    page.goto("about:blank")


@contextmanager
def workbench(page: Page, server: Server, project_id: int) -> Iterator[Page]:
    """A project open on the page, ready to play. It fails where a script of the page fails, or does what
    its policy forbids."""
    faults: list[str] = []

    def failed(error: Error) -> None:
        faults.append(str(error))

    def told(said: ConsoleMessage) -> None:
        if POLICY in said.text:
            faults.append(said.text)

    page.on("pageerror", failed)
    page.on("console", told)
    page.goto(f"{server.address}/projects/{project_id}")
    expect(page.locator("[data-cue-text]").first).to_be_visible()
    until(page, "document.querySelector('video').readyState >= 2")
    yield page
    page.remove_listener("pageerror", failed)
    page.remove_listener("console", told)
    assert faults == []


@pytest.fixture
def bench(page: Page, server: Server, project: dict) -> Iterator[Page]:
    with workbench(page, server, project["id"]) as opened:
        yield opened
