"""Something else is seen while words are said: put there, slipped, and gone with them."""

from pathlib import Path

import pytest
from playwright.sync_api import Page, expect

from tests.e2e.pages import choose, undo_all, until
from tests.e2e.test_frame import APART, READY, SEEN, view
from tests.e2e.test_trim import STRUCK, select

LANTERN = Path("src/mortiser/demo/media/lantern.svg").absolute()
STREAMS = f"document.querySelector('video').src.startsWith('blob:') && {READY}"


@pytest.fixture
def cutaways(bench: Page) -> Page:
    undo_all(bench)
    bench.keyboard.press("Shift+Digit6")
    bench.get_by_role("tab", name="Cuts").click()
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
    first_us, last_us = cue["words"][0]["start_us"], cue["words"][-1]["end_us"]
    assert lies == {"start_us": first_us, "end_us": last_us, "whole_us": first_us}
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


def shown_beside_the_still(page: Page, at_us: int) -> float:
    """How far the preview is from the still that the server draws of the same moment, of 255, on average."""
    (piece,) = view(page)["pieces"]
    # Captions are painted by the page itself: the still is compared where there are none.
    return page.evaluate(
        """async ([id, at]) => {
            const image = new Image();
            image.src = `/api/pieces/${id}/still.png?at_us=${at}`;
            await image.decode();
            const side = [90, 160], rows = 70;
            const pixels = (drawn) => {
                const canvas = document.createElement("canvas");
                [canvas.width, canvas.height] = side;
                const context = canvas.getContext("2d");
                context.drawImage(drawn, 0, 0, ...side);
                return context.getImageData(0, 0, side[0], rows).data;
            };
            const [one, other] = [pixels(image), pixels(document.querySelector("video"))];
            let off = 0;
            for (let i = 0; i < one.length; i++) off += Math.abs(one[i] - other[i]);
            return off / one.length;
        }""",
        [piece["id"], at_us],
    )


def test_clips_go_over_into_each_other_as_they_are_delivered(cutaways: Page) -> None:
    between = cutaways.get_by_role("heading", name="Between clips").locator("..")
    expect(between).to_contain_text("no cuts yet")
    (piece,) = view(cutaways)["pieces"]
    cutaways.keyboard.press("Shift+Digit3")
    expect(cutaways.locator("[data-talk]").first).to_be_visible()
    select(cutaways, "Lantern", "where")
    cutaways.keyboard.press("Delete")
    expect(cutaways.locator(STRUCK)).to_have_count(3)
    cutaways.keyboard.press("Shift+Digit6")
    cutaways.get_by_role("radio", name="Every cut").click()
    kinds = cutaways.get_by_role("radiogroup", name="Transition between clips")
    expect(kinds.get_by_role("radio", name="Dissolve")).to_be_checked()
    listed = cutaways.get_by_role("list", name="Cuts")
    cut = listed.get_by_role("button", expanded=False).first
    expect(cut).to_contain_text("Dissolve0.40 s")
    cuts = f"fetch('/api/pieces/{piece['id']}/cuts').then((a) => a.json())"
    (first, *_) = cutaways.evaluate(cuts)
    middle = first["at_us"] + 40_000
    until(cutaways, STREAMS)
    cutaways.evaluate(f"document.querySelector('video').currentTime = {middle / 1e6}")
    until(cutaways, READY)
    assert shown_beside_the_still(cutaways, middle) < 6
    kinds.get_by_role("radio", name="Push").click()
    expect(cut).to_contain_text("Push")
    # This one is a plain cut, then as all others again.
    cut.click()
    one = listed.get_by_role("radiogroup", name="Transition at this cut")
    one.get_by_role("radio", name="Plain cut").click()
    until(cutaways, f"{cuts}.then(([first]) => first.own && first.transition === null)")
    listed.get_by_role("button", name="As all other cuts").click()
    until(cutaways, f"{cuts}.then(([first]) => !first.own && first.transition.kind === 'push')")
    undo_all(cutaways)


def test_the_picture_looks_as_it_is_delivered(cutaways: Page) -> None:
    until(cutaways, READY)
    plain = cutaways.evaluate(SEEN)
    cutaways.get_by_role("tab", name="Look").click()
    grades = cutaways.get_by_role("radiogroup", name="Grades")
    expect(grades.get_by_role("radio", name="As recorded")).to_be_checked()
    grades.get_by_role("radio", name="Graphite").click()
    expect(grades.get_by_role("radio", name="Graphite")).to_be_checked()
    until(cutaways, STREAMS)
    grey = cutaways.evaluate(SEEN)
    assert cutaways.evaluate(f"([one, other]) => ({APART})(one, other)", [plain, grey]) > 8
    at = round(cutaways.evaluate("document.querySelector('video').currentTime") * 1e6)
    assert shown_beside_the_still(cutaways, at) < 6
    warmth = cutaways.get_by_role("textbox", name="Warmth, number")
    warmth.fill("40")
    warmth.press("Enter")
    graded = "fetch(location.pathname.replace('/projects', '/api/projects')).then((a) => a.json())"
    until(
        cutaways,
        f"{graded}.then((p) => p.pieces[0].grades.whole.warmth === 0.4 "
        "&& p.pieces[0].grades.whole.saturation === -1)",
    )
    expect(grades.get_by_role("radio", checked=True)).to_have_count(0)
    cutaways.get_by_role("button", name="As recorded again").click()
    expect(grades.get_by_role("radio", name="As recorded")).to_be_checked()
    undo_all(cutaways)


def test_a_recording_is_a_picture_in_the_picture_that_comes(cutaways: Page) -> None:
    pick(cutaways, 1)
    choose(cutaways, "A recording to be seen", "Short kettle.mp4")
    listed = cutaways.get_by_role("list", name="Cutaways")
    listed.get_by_role("radio", name="In a part").click()
    until(cutaways, STREAMS)
    listed.get_by_role("button", name="Comes: at once").click()
    listed.get_by_role("radiogroup", name="How the cutaway comes").get_by_role(
        "radio", name="Iris"
    ).click()
    expect(listed.get_by_role("button", name="Comes: iris")).to_be_visible()
    (piece,) = view(cutaways)["pieces"]
    (shown,) = piece["cutaways"]
    assert shown["cutaway"]["place"]["width"] == 0.42
    (lies,) = shown["lies"]
    assert lies["whole_us"] - lies["start_us"] == min(
        400_000, (lies["end_us"] - lies["start_us"]) // 2
    )
    listed.get_by_role("button", name="Short kettle.mp4", expanded=True).click()
    until(
        cutaways, f"document.querySelector('video').currentTime >= {lies['whole_us'] / 1e6 - 0.05}"
    )
    until(cutaways, READY)
    assert shown_beside_the_still(cutaways, lies["whole_us"]) < 6
    undo_all(cutaways)
