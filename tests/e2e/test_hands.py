"""Typing, keys and selections: what hands press where hands press it. docs/focus.md is the rule."""

from __future__ import annotations

import re

import pytest
from playwright.sync_api import Page, expect

from tests.e2e.pages import project_of, texts, undo_all, until
from tests.serving import Server, wait_for_job

ACTIVE = "document.activeElement"


def boxes(page: Page):
    return page.locator("[data-cue-text]")


def active(page: Page) -> str:
    """Who has the focus: the page, a caption's id, or the name of something else."""
    return page.evaluate(
        f"(e => e.id || e.dataset.cueText || e.getAttribute('aria-label') || e.tagName)({ACTIVE})"
    )


def caret(page: Page) -> int:
    """The caret in the caption that is typed in, in letters."""
    return page.evaluate(
        f"""() => {{
          const s = getSelection(), r = document.createRange();
          r.setStart({ACTIVE}, 0);
          r.setEnd(s.focusNode, s.focusOffset);
          return r.toString().length;
        }}"""
    )


def typed_id(page: Page, index: int) -> str:
    return boxes(page).nth(index).get_attribute("data-cue-text") or ""


def view(page: Page) -> dict:
    number = project_of(page)
    # A connection that rested may be closed by the server in the moment it is used again.
    return page.request.get(f"/api/projects/{number}", max_retries=2).json()


def send(page: Page, edit: dict) -> None:
    """An edit from elsewhere, such as another window."""
    number = project_of(page)
    body = {"base_revision": view(page)["revision"], "edit": edit}
    answer = page.request.post(f"/api/projects/{number}/edits", data=body)
    assert answer.ok, answer.text()


def playing(page: Page) -> bool:
    return not page.evaluate("document.querySelector('video').paused")


# Focus


def test_space_plays_after_a_click_on_a_button(bench: Page) -> None:
    before = texts(bench)
    for _ in range(2):
        bench.keyboard.press("ArrowDown")
        bench.keyboard.press("Delete")
        expect(bench.get_by_role("button", name="Undo: delete")).to_be_visible()
        bench.wait_for_timeout(150)
    bench.get_by_role("button", name="Undo: delete").click()
    assert active(bench) == "page"
    bench.keyboard.press("Space")
    until(bench, "!document.querySelector('video').paused")
    bench.keyboard.press("Space")
    expect(bench.get_by_role("button", name="Undo: delete")).to_be_visible()
    assert len(texts(bench)) == len(before) - 1
    undo_all(bench)


def test_space_plays_after_a_select_a_slider_and_a_tick(bench: Page) -> None:
    bench.get_by_role("button", name="Pace").click()
    bench.get_by_role("tab", name="Timing").click()
    bench.get_by_role("checkbox", name="Snap to frames").click()
    expect(bench.get_by_role("button", name="Undo: pace: snapping to frames")).to_be_visible()
    assert active(bench) == "page"
    bench.get_by_role("combobox", name="Speed").click()
    bench.get_by_role("option", name="1.5×").click()
    bench.wait_for_timeout(100)
    assert active(bench) == "page"
    bench.keyboard.press("Space")
    until(bench, "!document.querySelector('video').paused")
    bench.keyboard.press("k")
    undo_all(bench)


def test_enter_after_choosing_a_stage_types_and_presses_nothing_again(bench: Page) -> None:
    bench.keyboard.press("ArrowDown")
    bench.get_by_role("button", name="Dress").click()
    assert active(bench) == "page"
    bench.get_by_role("button", name="Proof").click()
    bench.keyboard.press("Enter")
    expect(boxes(bench).nth(1)).to_be_focused()
    assert bench.get_by_role("button", name="Proof").get_attribute("aria-current") == "step"


def test_after_a_split_the_caret_stands_at_the_start_and_letters_go_there(bench: Page) -> None:
    before = texts(bench)
    first = before[1].split()[0]
    boxes(bench).nth(1).click()
    bench.keyboard.press("Home")
    for _ in range(len(first)):
        bench.keyboard.press("ArrowRight")
    # Without a rest: the letters are typed while the split is on its way.
    bench.keyboard.press("Enter")
    bench.keyboard.type("dax ")
    expect(boxes(bench).nth(2)).to_have_text(re.compile("^dax "))
    assert active(bench) == typed_id(bench, 2)
    bench.keyboard.press("Control+Enter")
    expect(bench.get_by_role("button", name="Undo: retype “dax”")).to_be_visible()
    assert texts(bench)[1] == first
    undo_all(bench)
    assert texts(bench) == before


def test_after_a_join_the_caret_stands_at_the_seam(bench: Page) -> None:
    before = texts(bench)
    boxes(bench).nth(2).click()
    bench.keyboard.press("Home")
    bench.keyboard.press("Backspace")
    expect(boxes(bench).nth(1)).to_have_text(f"{before[1]} {before[2]}")
    expect(boxes(bench).nth(1)).to_be_focused()
    assert caret(bench) == len(before[1]) + 1
    bench.keyboard.press("Control+z")
    expect(boxes(bench).nth(2)).to_have_text(before[2])
    boxes(bench).nth(1).click()
    bench.keyboard.press("End")
    bench.keyboard.press("Delete")
    expect(boxes(bench).nth(1)).to_have_text(f"{before[1]} {before[2]}")
    assert caret(bench) == len(before[1])
    bench.keyboard.press("Escape")
    undo_all(bench)
    assert texts(bench) == before


def test_after_a_delete_the_next_caption_is_selected(bench: Page) -> None:
    before = texts(bench)
    boxes(bench).nth(2).click()
    bench.keyboard.press("Escape")
    bench.keyboard.press("Delete")
    expect(boxes(bench)).to_have_count(len(before) - 1)
    assert active(bench) == "page"
    expect(bench.locator(".row-selected [data-cue-text]")).to_have_text(before[3])
    undo_all(bench)


def test_the_focus_is_never_nowhere(bench: Page) -> None:
    bench.get_by_role("button", name="Dress").click()
    bench.get_by_role("tab", name="Letters").focus()
    bench.keyboard.press("Shift+Digit2")
    bench.wait_for_timeout(200)
    assert active(bench) == "page"
    bench.mouse.click(700, 30)
    bench.wait_for_timeout(100)
    assert active(bench) == "page"
    bench.keyboard.press("?")
    bench.keyboard.press("Escape")
    bench.wait_for_timeout(200)
    assert active(bench) == "page"
    expect(bench.get_by_test_id("active")).to_contain_text("On the page")


def test_the_foot_line_says_what_is_active(bench: Page) -> None:
    line = bench.get_by_test_id("active")
    expect(line).to_contain_text("On the page")
    boxes(bench).nth(1).click()
    expect(line).to_contain_text("Typing in the caption")
    bench.keyboard.press("Escape")
    expect(line).to_contain_text("On the page")
    bench.keyboard.press("Shift+S")
    expect(line).to_contain_text("Typing in a field")
    bench.keyboard.press("Escape")
    expect(line).to_contain_text("On the page")


def test_a_row_keeps_its_height_and_its_place(bench: Page) -> None:
    def tops() -> list[tuple[float, float]]:
        found = bench.locator("[data-row-cue]").all()
        return [(b["y"], b["height"]) for row in found if (b := row.bounding_box())]

    still = tops()
    boxes(bench).nth(1).click()
    assert tops() == still
    boxes(bench).nth(2).dblclick()
    assert tops() == still
    assert active(bench) == typed_id(bench, 2)


def test_a_block_half_in_view_stays_under_the_pointer(bench: Page) -> None:
    bench.keyboard.press("Shift+Digit4")
    page = bench.locator("#page").bounding_box()
    assert page is not None
    low = page["y"] + page["height"]
    for cue in view(bench)["cues"]:
        block = bench.locator(f"[data-block='{cue['id']}']").bounding_box()
        if block and block["y"] < low - 12 < block["y"] + block["height"] - 14:
            break
    bench.mouse.click(page["x"] + 260, low - 8)
    bench.wait_for_timeout(400)
    now = bench.evaluate("document.querySelector('video').currentTime")
    assert cue["start_us"] / 1e6 - 0.05 <= now <= cue["end_us"] / 1e6
    after = bench.locator(f"[data-block='{cue['id']}']").bounding_box()
    assert after is not None
    assert after["y"] == block["y"]


# Typing


def test_undo_in_a_caption_takes_back_typing_first_then_the_piece(bench: Page) -> None:
    before = texts(bench)
    bench.keyboard.press("ArrowDown")
    bench.keyboard.press("Delete")
    expect(bench.get_by_role("button", name="Undo: delete")).to_be_visible()
    here = boxes(bench).nth(2)
    was = here.inner_text()
    here.click()
    bench.keyboard.press("End")
    bench.keyboard.type(" one two")
    bench.keyboard.press("Control+z")
    expect(here).to_have_text(f"{was} one ")
    bench.keyboard.press("Control+z")
    bench.keyboard.press("Control+z")
    expect(here).to_have_text(was)
    bench.keyboard.press("Control+y")
    expect(here).to_have_text(re.compile(f"^{re.escape(was)} "))
    for _ in range(2):
        bench.keyboard.press("Control+z")
    expect(bench.get_by_role("button", name="Undo: delete")).to_have_count(0)
    assert texts(bench) == before
    bench.keyboard.press("Control+y")
    expect(bench.get_by_role("button", name="Undo: delete")).to_be_visible()
    bench.keyboard.press("Escape")
    undo_all(bench)


def test_undo_works_while_a_list_has_the_focus(bench: Page) -> None:
    before = texts(bench)
    bench.keyboard.press("Delete")
    expect(bench.get_by_role("button", name="Undo: delete")).to_be_visible()
    bench.get_by_role("combobox", name="Speed").focus()
    bench.keyboard.press("Control+z")
    expect(boxes(bench)).to_have_count(len(before))
    bench.get_by_role("tab", name="Doubts").focus()
    bench.keyboard.press("Control+y")
    expect(boxes(bench)).to_have_count(len(before) - 1)
    undo_all(bench)


def test_what_was_typed_is_sent_after_a_rest_and_the_caret_stays(bench: Page) -> None:
    before = texts(bench)
    boxes(bench).nth(1).click()
    bench.keyboard.press("Home")
    bench.keyboard.type("quite ")
    expect(bench.get_by_role("button", name="Undo: retype “quite”")).to_be_visible()
    assert view(bench)["cues"][1]["words"][0]["text"] == "quite"
    assert active(bench) == typed_id(bench, 1)
    assert caret(bench) == len("quite ")
    bench.keyboard.type("so ")
    expect(boxes(bench).nth(1)).to_have_text(f"quite so {before[1]}")
    bench.keyboard.press("Control+Enter")
    expect(boxes(bench).nth(2)).to_be_focused()
    bench.keyboard.press("Escape")
    undo_all(bench)
    assert texts(bench) == before


def test_half_typed_text_outlives_reload_back_and_scrolling(bench: Page) -> None:
    before = texts(bench)
    boxes(bench).nth(1).click()
    bench.keyboard.press("End")
    bench.keyboard.type(" halfway")
    bench.reload()
    expect(boxes(bench).nth(1)).to_have_text(f"{before[1]} halfway")
    expect(bench.get_by_role("button", name="Undo: retype “halfway”")).to_be_visible()
    boxes(bench).nth(2).click()
    bench.keyboard.press("End")
    bench.keyboard.type(" and back")
    bench.goto("/")
    bench.go_back()
    expect(boxes(bench).nth(2)).to_have_text(f"{before[2]} and back")
    expect(
        bench.get_by_role("button", name=re.compile("Undo: retype “(and|back)”"))
    ).to_be_visible()
    undo_all(bench)
    assert texts(bench) == before


def test_escape_keeps_a_draft_and_a_second_one_drops_it(bench: Page) -> None:
    before = texts(bench)
    here = boxes(bench).nth(1)
    here.click()
    bench.keyboard.press("End")
    bench.keyboard.type(" maybe")
    bench.keyboard.press("Escape")
    expect(here).to_have_text(f"{before[1]} maybe")
    expect(bench.get_by_test_id("active")).to_contain_text("Typed, not taken yet")
    bench.wait_for_timeout(2_500)
    assert view(bench)["history"]["undo"] is None
    bench.reload()
    # The caption stands in the address: it is selected again.
    expect(boxes(bench).nth(1)).to_have_text(f"{before[1]} maybe")
    expect(bench.get_by_test_id("active")).to_contain_text("Typed, not taken yet")
    bench.keyboard.press("Escape")
    expect(boxes(bench).nth(1)).to_have_text(before[1])
    expect(bench.get_by_test_id("notice")).to_contain_text("maybe")


def test_a_change_elsewhere_shows_both_texts_and_a_choice(bench: Page) -> None:
    before = texts(bench)
    cue = view(bench)["cues"][1]
    boxes(bench).nth(1).click()
    bench.keyboard.press("End")
    bench.keyboard.type(" mine")
    send(bench, {"kind": "retype_cue", "cue_id": cue["id"], "text": f"{before[1]} theirs"})
    notes = bench.get_by_label("Typed text to decide on")
    expect(notes).to_contain_text(f"You typed: {before[1]} mine")
    expect(notes).to_contain_text(f"It reads now: {before[1]} theirs")
    expect(boxes(bench).nth(1)).to_have_text(f"{before[1]} mine")
    notes.get_by_role("button", name="Take mine").click()
    expect(notes).to_have_count(0)
    expect(bench.get_by_role("button", name="Undo: retype “mine”")).to_be_visible()
    undo_all(bench)
    assert texts(bench) == before


def test_a_caption_deleted_elsewhere_gives_its_text_back(bench: Page) -> None:
    before = texts(bench)
    cue = view(bench)["cues"][2]
    boxes(bench).nth(2).click()
    bench.keyboard.press("End")
    bench.keyboard.type(" mine")
    ids = [word["id"] for word in cue["words"]]
    run = {"kind": "retype_run", "from_cue": cue["id"], "from_letter": 0, "to_cue": cue["id"]}
    run |= {"to_letter": len(before[2]), "text": "", "doing": "delete"}
    send(bench, run)
    notes = bench.get_by_label("Typed text to decide on")
    expect(notes).to_contain_text("was deleted elsewhere")
    notes.get_by_role("button", name="Put mine back").click()
    expect(notes).to_have_count(0)
    assert f"{before[2]} mine" in texts(bench)
    assert not {w["id"] for c in view(bench)["cues"] for w in c["words"]} & set(ids)
    undo_all(bench)
    assert texts(bench) == before


def test_a_draft_follows_its_words_when_they_are_regrouped_elsewhere(bench: Page) -> None:
    before = texts(bench)
    cue = next(c for c in view(bench)["cues"] if len(c["words"]) == 3)
    index = before.index(" ".join(w["text"] for w in cue["words"]))
    boxes(bench).nth(index).click()
    bench.keyboard.press("End")
    bench.keyboard.type(" indeed")
    send(bench, {"kind": "split_cue", "cue_id": cue["id"], "before_word": 1})
    expect(boxes(bench)).to_have_count(len(before) + 1)
    bench.keyboard.press("Control+Enter")
    expect(bench.get_by_role("button", name="Undo: retype")).to_be_visible()
    assert " ".join(texts(bench)).count("indeed") == 1
    bench.keyboard.press("Escape")
    undo_all(bench)
    assert texts(bench) == before


def test_deleting_all_text_leaves_no_captions_and_comes_back(bench: Page) -> None:
    before = texts(bench)
    boxes(bench).nth(0).click()
    bench.keyboard.press("Control+a")
    bench.keyboard.press("Control+a")
    bench.keyboard.press("Delete")
    expect(bench.get_by_role("button", name="Undo: delete text")).to_be_visible()
    expect(boxes(bench)).to_have_count(0)
    assert bench.get_by_role("alert").count() == 0
    bench.keyboard.press("Control+z")
    expect(boxes(bench)).to_have_count(len(before))
    assert texts(bench) == before


def test_an_emptied_caption_goes_when_it_is_left(bench: Page) -> None:
    before = texts(bench)
    boxes(bench).nth(1).click()
    bench.keyboard.press("Control+a")
    bench.keyboard.press("Delete")
    bench.keyboard.press("Control+Enter")
    expect(boxes(bench)).to_have_count(len(before) - 1)
    undo_all(bench)
    assert texts(bench) == before


def test_in_pace_enter_after_typing_leaves_a_block_to_drag_and_select(bench: Page) -> None:
    bench.keyboard.press("Shift+Digit4")
    cue = view(bench)["cues"][1]
    block = bench.locator(f"[data-block='{cue['id']}']")
    block.get_by_role("option").dblclick()
    bench.keyboard.press("End")
    bench.keyboard.type(" so")
    bench.keyboard.press("Enter")
    expect(bench.get_by_role("button", name="Undo: retype “so”")).to_be_visible()
    expect(bench.locator("[data-cue-text]")).to_have_count(0)
    assert active(bench) == "page"
    expect(block.get_by_role("option")).to_have_attribute("aria-selected", "true")
    bench.keyboard.press("Shift+ArrowDown")
    expect(bench.get_by_text("2 captions selected")).to_be_visible()
    undo_all(bench)


# Selecting


def test_captions_are_selected_on_every_stage_and_by_drag(bench: Page) -> None:
    rows = bench.locator("[data-row-cue]")
    middle = {"x": 30, "y": 14}
    for stage in ("Proof", "Dress", "Deliver"):
        bench.get_by_role("button", name=stage).click()
        rows.nth(1).click(position=middle)
        rows.nth(3).click(position=middle, modifiers=["Shift"])
        expect(bench.get_by_text("3 captions selected")).to_be_visible()
        rows.nth(2).click(position=middle, modifiers=["Control"])
        expect(bench.get_by_text("2 captions selected")).to_be_visible()
    top, low = rows.nth(0).bounding_box(), rows.nth(3).bounding_box()
    assert top is not None
    assert low is not None
    bench.mouse.move(top["x"] + 30, top["y"] + 14)
    bench.mouse.down()
    bench.mouse.move(low["x"] + 30, low["y"] + 14, steps=6)
    bench.mouse.up()
    expect(bench.get_by_text("4 captions selected")).to_be_visible()
    bench.keyboard.press("Escape")
    expect(bench.get_by_text("captions selected")).to_have_count(0)


@pytest.fixture
def talk(bench: Page) -> Page:
    """Every second caption is somebody else's."""
    cues = view(bench)["cues"]
    for name, some in (("Ada", cues[0::2]), ("Bo", cues[1::2])):
        send(bench, {"kind": "set_speaker", "cue_ids": [c["id"] for c in some], "name": name})
    expect(bench.get_by_text("Bo").first).to_be_visible()
    bench.get_by_role("tab", name="Speakers").click()
    bench.get_by_role("checkbox", name="only on the Strip").first.click()
    expect(boxes(bench)).to_have_count(len(cues[0::2]))
    return bench


def test_hidden_captions_are_not_touched_by_a_selection(talk: Page) -> None:
    cues = view(talk)["cues"]
    hidden = [c["id"] for c in cues[1::2]]
    boxes(talk).nth(0).click()
    talk.keyboard.press("Control+a")
    talk.keyboard.press("Control+a")
    talk.keyboard.press("Delete")
    expect(talk.get_by_role("button", name="Undo: delete text")).to_be_visible()
    assert [c["id"] for c in view(talk)["cues"]] == hidden
    talk.keyboard.press("Control+z")
    expect(boxes(talk)).to_have_count(len(cues[0::2]))
    talk.keyboard.press("Shift+Digit4")
    talk.keyboard.press("Control+a")
    expect(talk.get_by_text(f"{len(cues[0::2])} captions selected")).to_be_visible()
    expect(talk.get_by_role("option")).to_have_count(len(cues[0::2]))
    talk.keyboard.press("Delete")
    expect(talk.get_by_role("option")).to_have_count(0)
    assert [c["id"] for c in view(talk)["cues"]] == hidden
    talk.keyboard.press("Control+z")
    talk.get_by_role("button", name="only Ada").click()
    undo_all(talk)


# The keyboard alone


def test_tab_goes_from_stop_to_stop_and_stages_have_keys(bench: Page) -> None:
    bench.keyboard.press("Tab")
    assert active(bench) != "page"
    expect(bench.get_by_role("toolbar", name="Playback").locator(":focus")).to_have_count(1)
    bench.keyboard.press("Tab")
    assert active(bench) == "tray"
    bench.keyboard.press("ArrowDown")
    expect(bench.locator("#tray :focus")).to_have_count(1)
    bench.keyboard.press("Escape")
    assert active(bench) == "tray"
    bench.keyboard.press("Shift+Tab")
    bench.keyboard.press("Shift+Tab")
    assert active(bench) == "page"
    bench.keyboard.press("Shift+Tab")
    expect(bench.get_by_role("toolbar", name="Stages").locator(":focus")).to_have_count(1)
    bench.keyboard.press("Tab")
    assert active(bench) == "page"
    bench.keyboard.press("Shift+Digit7")
    expect(bench.get_by_role("button", name="Deliver", exact=False).first).to_have_attribute(
        "aria-current", "step"
    )
    bench.keyboard.press("y")
    bench.wait_for_timeout(100)
    assert active(bench) == "tray"


def test_the_skip_link_comes_first(bench: Page) -> None:
    bench.evaluate("document.querySelector('button').focus()")
    expect(bench.get_by_role("button", name="Go to the captions")).to_be_focused()
    bench.keyboard.press("Enter")
    assert active(bench) == "page"


def test_doubts_have_a_key_of_their_own_while_typing(
    bench: Page, server: Server, project: dict
) -> None:
    with server.client() as client:
        wait_for_job(client, project["id"], "doubt")
    expect(bench.get_by_role("button", name="Proof")).to_contain_text("left")
    boxes(bench).nth(0).click()
    bench.keyboard.press("F8")
    until(bench, "!document.querySelector('video').paused")
    bench.keyboard.press("Escape")
    bench.keyboard.press("k")


def test_a_time_is_typed_to_go_to_and_words_are_stepped(bench: Page) -> None:
    bench.keyboard.press("t")
    bench.keyboard.type("0:02.5")
    bench.keyboard.press("Enter")
    assert active(bench) == "page"
    now = bench.evaluate("document.querySelector('video').currentTime")
    assert now == pytest.approx(2.5, abs=0.06)
    words = [w for c in view(bench)["cues"] for w in c["words"]]
    bench.keyboard.press("Home")
    bench.keyboard.press("w")
    bench.keyboard.press("w")
    bench.wait_for_timeout(200)
    now = bench.evaluate("document.querySelector('video').currentTime")
    assert now == pytest.approx(words[2]["start_us"] / 1e6, abs=0.06)
    bench.keyboard.press("Shift+W")
    expect(bench.get_by_label("Loupe")).to_contain_text(f"“{words[1]['text']}” lights up")


def test_it_is_usable_from_640_pixels_on(bench: Page) -> None:
    bench.set_viewport_size({"width": 640, "height": 700})
    bench.wait_for_timeout(300)
    wide = bench.evaluate("document.documentElement.scrollWidth <= innerWidth")
    assert wide
    expect(bench.get_by_label("Tray of Proof")).to_have_count(0)
    for name in ("Gather", "Deliver", "Undo", "Tray"):
        button = bench.get_by_role("button", name=name).first
        box = button.bounding_box()
        assert box is not None
        assert box["x"] >= 0
        assert box["x"] + box["width"] <= 640
    undo = bench.get_by_role("button", name="Undo").first.bounding_box()
    deliver = bench.get_by_role("button", name="Deliver").first.bounding_box()
    assert undo is not None
    assert deliver is not None
    assert undo["x"] >= deliver["x"] + deliver["width"] - 1
    bench.get_by_role("button", name="Tray").click()
    expect(bench.get_by_label("Tray of Proof")).to_be_visible()
    bench.get_by_role("button", name="Fold the Tray away").click()
    expect(bench.get_by_label("Tray of Proof")).to_have_count(0)


def test_opening_a_project_shows_its_first_caption(bench: Page) -> None:
    expect(bench.locator(".row-selected")).to_have_count(1)
    expect(bench.get_by_label("Caption start")).to_be_visible()


def test_panes_are_resized_and_remembered(bench: Page) -> None:
    def width() -> float:
        box = bench.get_by_label("Tray of Proof").bounding_box()
        assert box is not None
        return box["width"]

    before = width()
    edge = bench.get_by_label("Border of preview and Tray").bounding_box()
    assert edge is not None
    bench.mouse.move(edge["x"], edge["y"] + 300)
    bench.mouse.down()
    bench.mouse.move(edge["x"] - 80, edge["y"] + 300, steps=5)
    bench.mouse.up()
    assert width() == pytest.approx(before + 80, abs=6)
    bench.wait_for_timeout(300)
    bench.reload()
    expect(boxes(bench).first).to_be_visible()
    assert width() == pytest.approx(before + 80, abs=6)
