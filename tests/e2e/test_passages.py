"""Text over several captions: selected, copied, cut, pasted, typed over; input methods and emoji."""

import re

import pytest
from playwright.sync_api import Page, Route, expect

from tests.e2e.pages import texts, undo_all


def boxes(page: Page):
    return page.locator("[data-cue-text]")


def drag(page: Page, first: int, last: int) -> None:
    """Select with the mouse from the start of one caption to the end of another."""
    a = boxes(page).nth(first).locator("[data-word]").first.bounding_box()
    b = boxes(page).nth(last).locator("[data-word]").last.bounding_box()
    assert a is not None
    assert b is not None
    page.mouse.move(a["x"] + 1, a["y"] + a["height"] / 2)
    page.mouse.down()
    page.mouse.move(b["x"], b["y"] + 2, steps=4)
    page.mouse.move(b["x"] + b["width"] - 1, b["y"] + b["height"] / 2, steps=4)
    page.mouse.up()


def loosely(text: str) -> str:
    """A pattern for a caption's letters, with spaces or without."""
    return "^" + r"\s*".join(re.escape(letter) for letter in text if letter != " ") + r"\s*$"


def clip(page: Page, text: str) -> None:
    page.evaluate("(t) => navigator.clipboard.writeText(t)", text)


@pytest.fixture
def desk(bench: Page) -> Page:
    bench.context.grant_permissions(["clipboard-read", "clipboard-write"])
    return bench


def test_captions_are_selected_and_copied_as_lines(desk: Page) -> None:
    before = texts(desk)
    drag(desk, 1, 3)
    desk.keyboard.press("Control+c")
    assert desk.evaluate("navigator.clipboard.readText()") == "\n".join(before[1:4])
    expect(desk.locator(".picked")).to_have_count(3)
    desk.keyboard.press("Escape")
    expect(desk.locator(".picked")).to_have_count(0)
    assert texts(desk) == before


def test_cut_and_paste_bring_captions_back_with_their_times(desk: Page, project: dict) -> None:
    before = texts(desk)
    drag(desk, 1, 3)
    desk.keyboard.press("Control+x")
    expect(desk.get_by_role("button", name="Undo: cut text")).to_be_visible()
    assert texts(desk) == before[:1] + before[4:]
    boxes(desk).first.click()
    desk.keyboard.press("End")
    desk.keyboard.press("Control+v")
    expect(desk.get_by_role("button", name="Undo: paste")).to_be_visible()
    # The first pasted line goes on where the caret is, as in any text.
    joined = [before[0] + before[1], *before[2:]]
    expect(boxes(desk)).to_have_text([re.compile(loosely(text)) for text in joined])
    undo_all(desk)
    assert texts(desk) == before


def test_typing_over_a_selection_joins_what_is_left(desk: Page) -> None:
    before = texts(desk)
    drag(desk, 2, 3)
    desk.keyboard.type("So ")
    expect(desk.get_by_role("button", name="Undo: retype")).to_be_visible()
    desk.wait_for_timeout(200)
    desk.keyboard.type("we mend.")
    desk.keyboard.press("Enter")
    expect(boxes(desk).nth(2)).to_contain_text("we mend.")
    assert texts(desk)[:2] == before[:2]
    assert texts(desk)[2].startswith("S")
    undo_all(desk)
    assert texts(desk) == before


def test_the_caret_goes_from_caption_to_caption(desk: Page) -> None:
    first, second = texts(desk)[:2]
    boxes(desk).first.click()
    desk.keyboard.press("End")
    desk.keyboard.press("ArrowRight")
    expect(boxes(desk).nth(1)).to_be_focused()
    desk.keyboard.type("And ")
    expect(boxes(desk).nth(1)).to_have_text(f"And {second}")
    desk.keyboard.press("Home")
    desk.keyboard.press("ArrowLeft")
    expect(boxes(desk).first).to_be_focused()
    expect(desk.get_by_role("button", name="Undo: retype “And”")).to_be_visible()
    desk.keyboard.press("ArrowDown")
    expect(boxes(desk).nth(1)).to_be_focused()
    desk.keyboard.press("ArrowUp")
    expect(boxes(desk).first).to_be_focused()
    assert texts(desk)[0] == first
    desk.keyboard.press("Escape")
    undo_all(desk)


def test_a_field_pressed_while_a_caption_is_taken_gets_what_is_typed(desk: Page) -> None:
    before = texts(desk)
    held: list[Route] = []
    desk.route("**/edits", lambda route: held.append(route))
    boxes(desk).nth(1).click()
    desk.keyboard.press("End")
    desk.keyboard.type(" gladly")
    desk.keyboard.press("Enter")
    expect(desk.get_by_label("Caption end")).to_be_visible()
    desk.get_by_label("Caption end").click()
    desk.keyboard.type("0:03")
    desk.wait_for_timeout(100)
    assert held
    for route in held:
        route.continue_()
    desk.unroute("**/edits")
    expect(desk.get_by_role("button", name="Undo: retype “gladly”")).to_be_visible()
    expect(desk.get_by_label("Caption end")).to_be_focused()
    expect(desk.get_by_label("Caption end")).to_have_value("0:03")
    assert texts(desk)[1] == f"{before[1]} gladly"
    desk.keyboard.press("Escape")
    undo_all(desk)
    assert texts(desk) == before


def test_keys_select_on_into_the_next_captions_and_all_of_them(desk: Page) -> None:
    before = texts(desk)
    boxes(desk).nth(1).click()
    desk.keyboard.press("Home")
    desk.keyboard.press("Shift+ArrowDown")
    desk.wait_for_timeout(100)
    desk.keyboard.press("Shift+ArrowDown")
    desk.keyboard.press("Delete")
    expect(desk.get_by_role("button", name="Undo: delete text")).to_be_visible()
    assert len(texts(desk)) == len(before) - 2
    undo_all(desk)
    boxes(desk).first.click()
    desk.keyboard.press("Control+a")
    desk.keyboard.press("Control+a")
    desk.wait_for_timeout(100)
    desk.keyboard.press("Control+c")
    assert desk.evaluate("navigator.clipboard.readText()").split("\n") == before
    desk.keyboard.press("Escape")
    assert texts(desk) == before


def test_pasted_lines_become_captions(desk: Page) -> None:
    before = texts(desk)
    clip(desk, "We mend\r\n\r\nkettles and 🫖 pots")
    boxes(desk).nth(1).click()
    desk.keyboard.press("Control+a")
    desk.keyboard.press("Control+v")
    expect(desk.get_by_role("button", name="Undo: paste “We mend kettles")).to_be_visible()
    assert texts(desk)[:4] == [before[0], "We mend", "kettles and 🫖 pots", before[2]]
    undo_all(desk)
    assert texts(desk) == before


def test_an_emoji_is_pasted_into_a_caption(desk: Page) -> None:
    before = texts(desk)
    clip(desk, " 👩🏽‍🔧")
    boxes(desk).first.click()
    desk.keyboard.press("End")
    desk.keyboard.press("Control+v")
    desk.keyboard.press("Enter")
    expect(desk.get_by_role("button", name="Undo: retype “👩🏽‍🔧”")).to_be_visible()
    assert texts(desk)[0] == f"{before[0]} 👩🏽‍🔧"
    undo_all(desk)


def test_an_input_method_composes_without_being_disturbed(desk: Page) -> None:
    before = texts(desk)
    boxes(desk).first.click()
    desk.keyboard.press("End")
    session = desk.context.new_cdp_session(desk)
    for part in (" n", " ni", " にほ"):
        session.send(
            "Input.imeSetComposition",
            {"text": part, "selectionStart": len(part), "selectionEnd": len(part)},
        )
    assert desk.get_by_role("button", name="Undo: ").count() == 0
    session.send("Input.insertText", {"text": " 日本"})
    expect(boxes(desk).first).to_have_text(f"{before[0]} 日本")
    desk.keyboard.press("Enter")
    expect(desk.get_by_role("button", name="Undo: retype “日本”")).to_be_visible()
    undo_all(desk)
    assert texts(desk) == before
