"""What goes wrong is said where the user is, and strangers get no further than the door."""

import gzip
import json
import re
from pathlib import Path

from playwright.sync_api import Browser, Page, expect

from tests.e2e.pages import project_of
from tests.serving import Server


def test_a_still_that_cannot_be_made_is_said_and_the_page_stays(bench: Page) -> None:
    project = project_of(bench)

    def refuse(route) -> None:
        told = {"code": "no_space", "message": "The disk is full. Free some space and try again."}
        route.fulfill(status=507, content_type="application/json", body=json.dumps(told))

    bench.route("**/still.png*", refuse)
    bench.get_by_role("button", name="Take a still").click()
    expect(bench.get_by_test_id("notice")).to_contain_text("The disk is full")
    assert project_of(bench) == project
    expect(bench.locator("[data-cue-text]").first).to_be_visible()
    bench.unroute("**/still.png*")


def test_caption_files_have_the_projects_name_in_its_own_letters(
    bench: Page, server: Server
) -> None:
    project = project_of(bench)
    with server.client() as client:

        def rename(name: str) -> None:
            revision = client.get(f"/api/projects/{project}").json()["revision"]
            edit = {"kind": "rename_project", "name": name}
            sent = {"base_revision": revision, "edit": edit}
            assert client.post(f"/api/projects/{project}/edits", json=sent).is_success

        rename("Чайник 🫖 Übung")
        bench.get_by_role("button", name=re.compile("^Deliver")).click()
        bench.get_by_role("tab", name="Deliveries").click()
        for ending in ("srt", "vtt", "txt", "json"):
            with bench.expect_download() as coming:
                bench.get_by_role("button", name=ending.upper(), exact=True).click()
            assert coming.value.suggested_filename == f"Чайник-Übung.{ending}"
            assert Path(coming.value.path()).read_text()
        rename("Short kettle")


def test_the_start_page_waits_for_few_scripts(server: Server) -> None:
    with server.client() as client:
        page = client.get("/").text
        scripts = set(re.findall(r'(?:src|href)="(/[^"]+\.js)"', page))
        sizes = {name: len(gzip.compress(client.get(name).content)) for name in scripts}
    assert any("index" in name for name in sizes)
    assert sum(sizes.values()) < 150_000, sizes


def test_a_full_disk_is_said_for_as_long_as_it_is_full(bench: Page, server: Server) -> None:
    project = project_of(bench)
    with server.client() as client:
        status = client.get(f"/api/projects/{project}/status").json()
    assert status["disk_full"] is False
    full = json.dumps(status | {"disk_full": True})

    def say(route) -> None:
        text = f"retry: 1500\nevent: status\ndata: {full}\n\n"
        route.fulfill(status=200, content_type="text/event-stream", body=text)

    # Once: the page asks again by itself, and the server answers then.
    bench.route("**/events", say, times=1)
    bench.reload()
    note = bench.get_by_role("alert").filter(has_text="The disk is full")
    expect(note).to_contain_text("goes on by itself")
    expect(note).to_have_count(0, timeout=10_000)


def test_a_browser_beyond_the_machine_is_paired_by_its_code(
    browser: Browser, tmp_path: Path
) -> None:
    server = Server(
        tmp_path / "w", "--host", "0.0.0.0", MORTISER_PASS_PHRASE="beeswax and linen"
    )  # fmt: skip
    try:
        page = browser.new_page(base_url=server.address)
        page.goto("/projects/1")
        expect(page.get_by_role("heading", name="Pair this browser")).to_be_visible()
        code = page.get_by_label("Code or pass phrase")
        expect(code).to_be_focused()
        code.fill("varnish")
        page.keyboard.press("Enter")
        expect(page.get_by_role("alert")).to_contain_text("That is not the code")
        page.get_by_label("Code or pass phrase").fill("beeswax and linen")
        page.keyboard.press("Enter")
        expect(page.get_by_text("Drop recordings here").first).to_be_visible()
        page.reload()
        expect(page.get_by_text("Drop recordings here").first).to_be_visible()
        paired = page.get_by_role("region", name="Paired browsers")
        expect(paired.get_by_role("listitem")).to_contain_text("this one")
        paired.get_by_role("button", name="Remove").click()
        expect(page.get_by_role("heading", name="Pair this browser")).to_be_visible()
        page.close()
    finally:
        server.stop()
