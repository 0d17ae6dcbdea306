"""Something else is seen while words are said: put there, slipped, and gone with them."""

from pathlib import Path

import pytest
from playwright.sync_api import Page, expect

from tests.e2e.pages import choose, undo_all, until
from tests.e2e.test_frame import APART, READY, SEEN, view

LANTERN = Path("src/mortiser/demo/media/lantern.svg").absolute()
STREAMS = f"document.querySelector('video').src.startsWith('blob:') && {READY}"


@pytest.fixture
def cutaways(bench: Page) -> Page:
    undo_all(bench)
    bench.keyboard.press("Shift+Digit6")
    bench.get_by_role("tab", name="Cutaways").click()
    expect(bench.get_by_role("heading", name="Cut away")).to_be_visible()
    return bench


def pick(page: Page, number: int) -> None:
    page.locator("[data-cue-text]").nth(number).click()
    page.keyboard.press("Escape")


def test_a_picture_is_seen_over_the_chosen_caption_and_nowhere_else(cutaways: Page) -> None:
    until(cutaways, READY)
    plain = cutaways.evaluate(SEEN)
    cue = view(cutaways)["cues"][1]
    pick(cutaways, 1)
    with cutaways.expect_file_chooser() as chooser:
        cutaways.get_by_role("button", name="Choose a file").click()
    chooser.value.set_files(LANTERN)
    listed = cutaways.get_by_role("list", name="Cutaways")
    expect(listed.get_by_role("button", name="lantern.svg").first).to_be_visible()
    until(cutaways, STREAMS)
    (piece,) = view(cutaways)["pieces"]
    (lies,) = piece["cutaways"][0]["lies"]
    assert lies == {"start_us": cue["words"][0]["start_us"], "end_us": cue["words"][-1]["end_us"]}
    over = cutaways.evaluate(SEEN)
    assert cutaways.evaluate(f"([one, other]) => ({APART})(one, other)", [plain, over]) > 15
    # Before it the talk is seen; a mark beside the words leads back.
    pick(cutaways, 0)
    first = view(cutaways)["cues"][0]["start_us"] / 1e6
    until(cutaways, f"document.querySelector('video').currentTime < {first + 0.3} && {READY}")
    before = cutaways.evaluate(SEEN)
    assert cutaways.evaluate(f"([one, other]) => ({APART})(one, other)", [before, over]) > 15
    cutaways.get_by_role("button", name="Cutaway to lantern.svg", exact=True).click()
    until(
        cutaways, f"document.querySelector('video').currentTime >= {lies['start_us'] / 1e6 - 0.05}"
    )
    undo_all(cutaways)
    expect(listed).to_be_hidden()
    until(cutaways, f"!document.querySelector('video').src.startsWith('blob:') && {READY}")


def test_a_recording_is_seen_from_another_moment_on_and_taken_away(cutaways: Page) -> None:
    pick(cutaways, 0)
    choose(cutaways, "A recording to be seen", "Short kettle.mp4")
    listed = cutaways.get_by_role("list", name="Cutaways")
    begins = listed.get_by_role("textbox", name="Begins at, number")
    begins.fill("4.5")
    begins.press("Enter")
    seen = "fetch(location.pathname.replace('/projects', '/api/projects')).then((a) => a.json())"
    first = f"{seen}.then((p) => p.pieces[0].cutaways[0].cutaway)"
    until(cutaways, f"{first}.then((c) => c.seen.from_us === 4500000)")
    listed.get_by_role("radio", name="Whole").click()
    until(cutaways, f"{first}.then((c) => c.framing.fit === 'whole')")
    listed.get_by_role("button", name="Take the cutaway to Short kettle.mp4 away").click()
    expect(listed).to_be_hidden()
    undo_all(cutaways)
