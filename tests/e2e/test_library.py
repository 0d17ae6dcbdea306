"""The libraries searched from chosen captions, and what comes is seen over them."""

import httpx
import pytest
from playwright.sync_api import Page, expect

from mortiser.standins.shelf import ShelfServer
from tests.e2e.pages import undo_all, until
from tests.e2e.test_cutaways import pick
from tests.e2e.test_frame import view


@pytest.fixture
def cuts(bench: Page) -> Page:
    undo_all(bench)
    bench.keyboard.press("Shift+Digit6")
    bench.get_by_role("tab", name="Cuts").click()
    return bench


def test_what_a_library_has_of_the_talk_is_offered_where_it_is_said(cuts: Page) -> None:
    ideas = cuts.get_by_role("list", name="Where a cutaway would help")
    idea = ideas.get_by_role("listitem").filter(has_text="Kettle with steam")
    expect(idea).to_contain_text("“kettle” is said")
    idea.get_by_role("button", name="Show Kettle").click()
    listed = cuts.get_by_role("list", name="Cutaways")
    expect(listed.get_by_role("button", name="Kettle with steam.mp4").first).to_be_visible()
    undo_all(cuts)


def test_what_a_caption_says_is_found_and_seen_with_two_presses(cuts: Page) -> None:
    said = [[word["text"].lower() for word in cue["words"]] for cue in view(cuts)["cues"]]
    number = next(n for n, words in enumerate(said) if any("kettle" in word for word in words))
    pick(cuts, number)
    cuts.get_by_role("button", name="Look in the libraries").click()
    service = cuts.get_by_role("region", name="The clip service")
    service.get_by_role("button", name="See Kettle with steam").click()
    listed = cuts.get_by_role("list", name="Cutaways")
    expect(listed.get_by_role("button", name="Kettle with steam.mp4").first).to_be_visible()
    (shown,) = view(cuts)["pieces"][0]["cutaways"]
    cue = view(cuts)["cues"][number]
    assert shown["lies"][0]["start_us"] == cue["words"][0]["start_us"]
    until(cuts, "document.querySelector('video').src.startsWith('blob:')")
    undo_all(cuts)


def test_it_takes_three_keys_on_any_stage_of_captions(cuts: Page) -> None:
    number = next(n for n, cue in enumerate(view(cuts)["cues"])
                  if any("kettle" in word["text"].lower() for word in cue["words"]))  # fmt: skip
    pick(cuts, number)
    cuts.keyboard.press("Shift+Digit2")
    cuts.keyboard.press("Shift+KeyL")
    service = cuts.get_by_role("region", name="The clip service")
    expect(service.get_by_role("button", name="See Kettle with steam")).to_be_visible()
    cuts.keyboard.press("ArrowDown")
    expect(cuts.locator("li button:focus")).to_be_visible()
    cuts.get_by_label("Search for").focus()
    cuts.get_by_label("Search for").fill("swinging")
    expect(service.get_by_role("listitem")).to_contain_text("Lantern swinging")
    cuts.keyboard.press("Enter")
    expect(cuts.get_by_role("button", name="Undo: cut away to Lantern")).to_be_visible()
    undo_all(cuts)


def test_typing_searches_and_all_can_be_shown(cuts: Page) -> None:
    pick(cuts, 0)
    cuts.get_by_role("button", name="Look in the libraries").click()
    service = cuts.get_by_role("region", name="The clip service")
    field = cuts.get_by_label("Search for")
    field.fill("xylophone")
    expect(service).to_contain_text("Nothing here is called that.")
    service.get_by_role("button", name="Show all").click()
    expect(service.get_by_role("listitem")).to_have_count(10)
    field.fill("screw")
    expect(service.get_by_role("listitem")).to_have_count(1)
    cuts.keyboard.press("Escape")
    expect(field).to_be_hidden()


def test_a_library_that_fails_says_so_beside_those_that_answer(
    cuts: Page, shelf: ShelfServer
) -> None:
    httpx.put(f"{shelf.address}/faults", json={"garbled": True}).raise_for_status()
    try:
        pick(cuts, 2)
        cuts.get_by_role("button", name="Look in the libraries").click()
        service = cuts.get_by_role("region", name="The clip service")
        expect(service.get_by_role("alert")).to_contain_text("cannot be read")
        own = cuts.get_by_role("region", name="This workspace")
        expect(own.get_by_role("alert")).to_have_count(0)
    finally:
        httpx.put(f"{shelf.address}/faults", json={}).raise_for_status()
    service.get_by_role("button", name="Try again").click()
    expect(service.get_by_role("alert")).to_have_count(0)
    cuts.keyboard.press("Escape")


def test_what_does_not_come_is_told(cuts: Page, shelf: ShelfServer) -> None:
    httpx.put(f"{shelf.address}/faults", json={"gone": ["wall-clock"]}).raise_for_status()
    try:
        pick(cuts, 1)
        cuts.get_by_role("button", name="Look in the libraries").click()
        cuts.get_by_label("Search for").fill("clock")
        cuts.get_by_role("button", name="See Clock on the wall").click()
        told = cuts.get_by_role("alert").filter(has_text="does not have that any more")
        expect(told).to_be_visible()
    finally:
        httpx.put(f"{shelf.address}/faults", json={}).raise_for_status()
    assert view(cuts)["pieces"][0]["cutaways"] == []
