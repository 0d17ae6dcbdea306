"""Which files are delivered, and the text that goes with them, on the page."""

import re

import pytest
from playwright.sync_api import Page, expect

from tests.e2e.pages import undo_all, until

PIECE = """fetch(location.pathname.replace('/projects', '/api/projects')).then((a) => a.json())
  .then((p) => p.pieces[0])"""


@pytest.fixture
def deliver(bench: Page) -> Page:
    undo_all(bench)
    bench.keyboard.press("Shift+Digit7")
    expect(bench.get_by_role("heading", name="Text for the post")).to_be_visible()
    return bench


def test_files_are_chosen_delivered_and_taken_as_one(deliver: Page) -> None:
    deliver.get_by_role("checkbox", name="Video with captions (MP4)").click()
    deliver.get_by_role("checkbox", name="Captions, TTML (TTML)").click()
    until(deliver, f"{PIECE}.then((p) => p.outputs.join() === 'srt,vtt,ttml')")
    deliver.get_by_role("button", name="Deliver this piece").click()
    link = deliver.get_by_role("link", name="All of them as one ZIP").first
    expect(link).to_be_visible()
    with deliver.expect_download() as coming:
        link.click()
    assert coming.value.suggested_filename.endswith(".zip")
    undo_all(deliver)


def test_a_post_is_proposed_written_over_and_copied_with_a_key(deliver: Page) -> None:
    deliver.context.grant_permissions(["clipboard-read", "clipboard-write"])
    deliver.get_by_role("button", name="Propose").click()
    title = deliver.get_by_role("textbox", name="Title")
    expect(title).to_have_value(re.compile("Good morning"))
    expect(deliver.get_by_role("list", name="Why")).to_contain_text("the first sentence")
    title.fill("The cold kettle")
    title.blur()
    until(deliver, f"{PIECE}.then((p) => p.post.title === 'The cold kettle')")
    deliver.locator("[data-row-cue]").first.click(position={"x": 20, "y": 12})
    deliver.keyboard.press("Shift+C")
    expect(deliver.get_by_text("The text for the post is copied.").first).to_be_visible()
    copied = deliver.evaluate("navigator.clipboard.readText()")
    assert copied.startswith("The cold kettle\n\nGood morning")
    assert "#" in copied
    undo_all(deliver)
