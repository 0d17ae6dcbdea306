"""Which files are delivered, and the text that goes with them, on the page."""

import re

import pytest
from playwright.sync_api import Page, expect

from tests.e2e.pages import texts, undo_all, until

PIECE = """fetch(location.pathname.replace('/projects', '/api/projects')).then((a) => a.json())
  .then((p) => p.pieces[0])"""

FORMS = "p.outputs.map((o) => o.form).join()"


def add(page: Page, name: str) -> None:
    page.get_by_role("combobox", name="Add a file").click()
    page.get_by_role("option", name=name).click()


@pytest.fixture
def deliver(bench: Page) -> Page:
    undo_all(bench)
    bench.keyboard.press("Shift+Digit7")
    expect(bench.get_by_role("list", name="Files to deliver")).to_be_visible()
    return bench


def test_files_are_chosen_delivered_and_taken_as_one(deliver: Page) -> None:
    deliver.get_by_role("button", name="Leave out MP4, H.264").click()
    add(deliver, "TTML captions")
    until(deliver, f"{PIECE}.then((p) => {FORMS} === 'srt,vtt,ttml')")
    deliver.get_by_role("button", name="Deliver this piece").click()
    link = deliver.get_by_role("link", name="All as one ZIP").first
    expect(link).to_be_visible()
    with deliver.expect_download() as coming:
        link.click()
    assert coming.value.suggested_filename.endswith(".zip")
    undo_all(deliver)


def test_text_that_was_typed_and_left_is_told_and_put_in(deliver: Page) -> None:
    before = texts(deliver)
    deliver.keyboard.press("Shift+Digit2")
    deliver.locator("[data-cue-text]").nth(1).click()
    deliver.keyboard.press("End")
    deliver.keyboard.type(" maybe")
    deliver.keyboard.press("Escape")
    deliver.keyboard.press("Shift+Digit7")
    left = deliver.get_by_role("region", name="Typed and not taken")
    expect(left).to_contain_text(f"{before[1]} maybe")
    left.get_by_role("button", name="Put it in").click()
    expect(left).to_have_count(0)
    until(
        deliver,
        f"{PIECE.replace('p.pieces[0]', 'p.cues[1].words.at(-1).text')}.then((t) => t === 'maybe')",
    )
    undo_all(deliver)


def test_tab_goes_on_from_a_button_whose_tooltip_shows(deliver: Page) -> None:
    first = deliver.get_by_role("button", name="Leave out MP4, H.264")
    first.focus()
    expect(deliver.get_by_role("tooltip", name="Leave out MP4, H.264")).to_be_attached()
    deliver.keyboard.press("Tab")
    expect(deliver.get_by_role("button", name=re.compile("^SubRip captions"))).to_be_focused()


def test_a_post_is_proposed_written_over_and_copied_with_a_key(deliver: Page) -> None:
    deliver.context.grant_permissions(["clipboard-read", "clipboard-write"])
    deliver.get_by_role("tab", name="Post").click()
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


def test_a_video_is_set_up_kept_as_a_set_and_looked_at_in_place(deliver: Page) -> None:
    # Quicker than the server answers: the second builds upon the first.
    deliver.evaluate(
        """async () => {
          for (const form of ['SRT', 'VTT']) {
            document.querySelector(`button[aria-label^="Leave out"][aria-label$="(${form})"]`).click();
            await new Promise((ready) => setTimeout(ready));
          }
        }"""
    )
    until(deliver, f"{PIECE}.then((p) => {FORMS} === 'h264')")
    files = deliver.get_by_role("list", name="Files to deliver")
    expect(files.get_by_role("button", name="Leave out MP4, H.264")).to_be_disabled()
    files.get_by_role("button", name=re.compile("^MP4, H.264")).click()
    deliver.get_by_role("radio", name="Small").click()
    deliver.get_by_role("combobox", name="Size").click()
    deliver.get_by_role("option", name="360 lines").click()
    deliver.get_by_role("combobox", name="Captions", exact=True).click()
    deliver.get_by_role("option", name="in the picture, and to switch on").click()
    expect(files).to_contain_text("360 lines · small · captions in the picture")
    deliver.get_by_role("textbox", name="Name for these files").fill("To look over")
    deliver.get_by_role("button", name="Keep", exact=True).click()
    expect(deliver.get_by_role("combobox", name="Set of files")).to_have_text("To look over")
    deliver.get_by_role("button", name="A stretch from here").click()
    end = deliver.get_by_role("textbox", name="Stretch 1 ends")
    end.fill("0:03.0")
    end.press("Enter")
    pattern = deliver.get_by_role("textbox", name="Pattern of the names")
    pattern.fill("Seen {number}")
    pattern.press("Enter")
    expect(deliver.get_by_text(re.compile(r"Now: Seen-\d\d\.mp4"))).to_be_visible()
    expect(deliver.get_by_text(re.compile(r"1 file, about .* kB"))).to_be_visible()
    deliver.get_by_role("button", name="Deliver this piece").click()
    look = deliver.get_by_role("button", name=re.compile(r"Look at Seen-\d\d\.mp4"))
    expect(look).to_be_visible()
    look.click()
    video = deliver.get_by_label(re.compile(r"^Seen-\d\d\.mp4"))
    until(deliver, "document.querySelector('video[controls]')?.videoWidth === 360")
    duration = video.evaluate("(v) => v.duration")
    assert duration == pytest.approx(3.0, abs=1.0)
    deliver.get_by_role("tab", name="Files").click()
    deliver.get_by_role("button", name="Forget To look over").click()
    undo_all(deliver)


def test_what_is_open_is_told_before_and_can_be_gone_to(deliver: Page) -> None:
    still_open = deliver.get_by_role("list", name="Still open")
    expect(still_open).to_contain_text("Proof:")
    still_open.get_by_role("button", name=re.compile("^Proof:")).click()
    expect(deliver.get_by_role("button", name="Listen through them")).to_be_visible()


def test_a_cover_frame_is_taken_on_the_preview(deliver: Page) -> None:
    add(deliver, "Cover frame")
    files = deliver.get_by_role("list", name="Files to deliver")
    files.get_by_role("button", name=re.compile("^Cover frame")).click()
    deliver.locator("[data-row-cue]").nth(2).click(position={"x": 20, "y": 12})
    take = deliver.get_by_role("button", name=re.compile("^Take this frame"))
    take.click()
    until(deliver, f"{PIECE}.then((p) => p.outputs.at(-1).at_us > 1000000)")
    deliver.get_by_role("checkbox", name="With its caption").click()
    until(deliver, f"{PIECE}.then((p) => p.outputs.at(-1).captions === false)")
    expect(files).to_contain_text("no caption")
    undo_all(deliver)


def test_projects_are_delivered_from_the_start_page(deliver: Page) -> None:
    address = deliver.url
    deliver.goto(address.split("/projects/")[0])
    cards = deliver.get_by_role("checkbox", name=re.compile("^Choose "))
    cards.first.click(force=True)
    deliver.get_by_role("button", name="Deliver 1 project").click()
    waiting = deliver.get_by_role("region", name="Being delivered")
    expect(waiting).to_contain_text(".mp4")
    waiting.get_by_role("button", name=re.compile(r"^Pause .*\.mp4")).first.click()
    expect(waiting).to_contain_text("Paused.")
    waiting.get_by_role("button", name=re.compile(r"^Cancel .*\.mp4")).first.click()
    expect(waiting).not_to_be_visible()
    deliver.goto(address)
    expect(deliver.locator("[data-row-cue]").first).to_be_visible()
