"""Marks, looks and colours for all places at once, a list of past edits, files, sound, the start page."""

from __future__ import annotations

import re

from playwright.sync_api import Page, expect

from tests.e2e.pages import choose, undo_all, until
from tests.e2e.test_hands import boxes, send, view
from tests.serving import Server


def marks(page: Page) -> list[str]:
    return [w["text"] for c in view(page)["cues"] for w in c["words"] if w["accent"]]


def words_named(page: Page, text: str) -> list[dict]:
    return [w for c in view(page)["cues"] for w in c["words"] if w["text"].strip(".,") == text]


def test_a_word_is_marked_everywhere_with_two_keys_and_taken_back(bench: Page) -> None:
    cue = view(bench)["cues"][-1]
    send(bench, {"kind": "retype_cue", "cue_id": cue["id"], "text": "it is the kettle."})
    expect(boxes(bench).last).to_have_text("it is the kettle.")
    bench.keyboard.press("Shift+Digit5")
    word = words_named(bench, "kettle")[0]
    bench.locator(f'[data-word="{word["id"]}"]').click()
    bench.keyboard.press("Escape")
    bench.keyboard.press("2")
    expect(bench.get_by_role("button", name="Undo: mark")).to_be_visible()
    bench.keyboard.press("m")
    expect(bench.get_by_test_id("notice")).to_contain_text("is marked in 2 places")
    assert marks(bench) == ["kettle", "kettle."]
    # Where it comes again it is marked too.
    cue = view(bench)["cues"][0]
    send(bench, {"kind": "retype_cue", "cue_id": cue["id"], "text": "Kettle morning"})
    assert marks(bench) == ["Kettle", "kettle", "kettle."]
    bench.get_by_role("tab", name="Accents").click()
    bench.get_by_role("button", name="Take back all marks").click()
    expect(bench.get_by_role("button", name="Undo: take back all marks")).to_be_visible()
    assert marks(bench) == []
    undo_all(bench)


def test_a_speaker_has_a_look_and_a_colour_comes_from_the_picture(bench: Page) -> None:
    cues = view(bench)["cues"]
    send(bench, {"kind": "set_speaker", "cue_ids": [c["id"] for c in cues[:3]], "name": "Ada"})
    bench.keyboard.press("Shift+Digit5")
    bench.get_by_role("tab", name="Colours").click()
    bench.get_by_role("radio", name="Speaker").click()
    bench.get_by_role("button", name="Live", exact=True).click()
    bench.get_by_role("button", name="Take it from the picture").click()
    video = bench.locator("video").bounding_box()
    assert video is not None
    bench.mouse.move(video["x"] + 30, video["y"] + 30)
    bench.mouse.move(video["x"] + 32, video["y"] + 30)
    bench.mouse.down()
    bench.mouse.up()
    expect(bench.get_by_role("button", name="Undo: live of Ada")).to_be_visible()
    live = view(bench)["pieces"][0]["speaker_looks"]["Ada"]["live"]
    # The wall behind the presenter is pale.
    assert min(live[:3]) > 120
    hex_field = bench.get_by_label("Live, hex")
    expect(hex_field).to_have_value(re.compile("^#"))
    bench.get_by_role("button", name="Keep this colour").click()
    kept = bench.get_by_role("button", name=re.compile("^Use #")).last
    expect(kept).to_be_visible()
    bench.keyboard.press("Escape")
    number = bench.get_by_label("Shadow: blur, number")
    if number.count():
        number.fill("20")
        number.press("Enter")
        expect(bench.get_by_role("button", name="Undo: shadow blur of Ada")).to_be_visible()
        number.press("Shift+ArrowUp")
        expect(number).to_have_value("30")
    bench.keyboard.press("Escape")
    bench.get_by_role("radio", name="Whole piece").click()
    for colour in bench.request.get("/api/palette", max_retries=2).json():
        bench.request.delete(f"/api/palette/{colour[1:]}")
    undo_all(bench)
    assert view(bench)["pieces"][0]["speaker_looks"] == {}


def test_past_edits_are_listed_and_gone_back_to(bench: Page) -> None:
    before = boxes(bench).count()
    for _ in range(3):
        bench.keyboard.press("Delete")
        bench.wait_for_timeout(250)
    expect(boxes(bench)).to_have_count(before - 3)
    bench.get_by_role("button", name="Past edits").click()
    items = bench.get_by_role("menuitem")
    expect(items).to_have_count(4)
    items.nth(2).click()
    expect(boxes(bench)).to_have_count(before - 1)
    bench.get_by_role("button", name="Past edits").click()
    expect(bench.get_by_role("menuitem", name="taken back")).to_have_count(2)
    bench.get_by_role("menuitem", name="as it was at first").click()
    expect(boxes(bench)).to_have_count(before)


def test_files_are_given_a_pace_and_sound_is_set(bench: Page) -> None:
    bench.keyboard.press("Shift+Digit7")
    choose(bench, "Captions in files", "sentence: 2 × 42 characters")
    expect(bench.get_by_text("At most 2 lines of 42 characters")).to_be_visible()
    piece = view(bench)["pieces"][0]["id"]
    srt = bench.request.get(f"/api/pieces/{piece}/captions.srt", max_retries=2).text()
    assert srt.count("-->") < boxes(bench).count()
    undo_all(bench)
    bench.get_by_role("button", name="Sound", exact=True).click()
    bench.get_by_role("slider", name="Volume").focus()
    bench.keyboard.press("Home")
    assert bench.evaluate("document.querySelector('video').volume") == 0
    bench.keyboard.press("End")
    bench.keyboard.press("Escape")
    bench.evaluate("document.getElementById('page').focus()")
    bench.keyboard.press("Shift+K")
    assert bench.evaluate("document.querySelector('video').muted")
    bench.keyboard.press("Shift+K")
    bench.get_by_role("button", name="Full screen").click()
    until(bench, "document.fullscreenElement?.getAttribute('aria-label') === 'Preview'")
    bench.evaluate("document.exitFullscreen()")


def test_in_dress_a_click_shows_the_caption_whole(bench: Page) -> None:
    bench.keyboard.press("Shift+Digit5")
    bench.get_by_text("Ember", exact=True).click()
    expect(bench.get_by_role("button", name="Undo: finish Ember")).to_be_visible()
    cue = view(bench)["cues"][1]
    boxes(bench).nth(1).click()
    whole = bench.request.get(f"/api/cues/{cue['id']}/whole", max_retries=2).json()["at_us"]
    until(
        bench,
        "(t) => Math.abs(document.querySelector('video').currentTime - t) < 0.06",
        arg=whole / 1e6,
    )
    bench.keyboard.press("Escape")
    undo_all(bench)


def test_a_click_right_after_opening_is_not_taken_back(bench: Page) -> None:
    """The first caption is gone to when a project opens: not any more once somebody went on."""
    bench.route("**/whole", lambda route: (bench.wait_for_timeout(400), route.continue_())[1])
    bench.reload()
    boxes(bench).nth(3).click()
    bench.wait_for_timeout(900)
    cue = view(bench)["cues"][3]
    now = bench.evaluate("document.querySelector('video').currentTime")
    assert cue["start_us"] / 1e6 - 0.05 <= now <= cue["end_us"] / 1e6
    bench.unroute("**/whole")


def test_projects_are_searched_and_sorted(page: Page, server: Server, project: dict) -> None:
    page.goto("/")
    cards = page.get_by_label("Projects", exact=True).get_by_role("listitem")
    expect(cards.first).to_be_visible()
    page.get_by_label("Search projects").fill("short KETTLE")
    expect(cards).to_have_count(1)
    page.get_by_label("Search projects").fill("nowhere")
    expect(page.get_by_text("No project has “nowhere” in its name.")).to_be_visible()
    page.get_by_label("Search projects").fill("")
    choose(page, "Sort projects", "by name")
    page.reload()
    expect(page.get_by_role("combobox", name="Sort projects")).to_have_text("by name")
    choose(page, "Sort projects", "last changed first")


def test_a_mark_made_just_now_is_the_one_that_goes_everywhere(bench: Page) -> None:
    bench.keyboard.press("Shift+Digit5")
    bench.locator("[data-word]").first.click()
    bench.keyboard.press("Escape")
    # The answer to an edit comes late.
    bench.evaluate(
        """() => {
          const { fetch } = window;
          window.fetch = async (asked, ...rest) => {
            const answer = await fetch(asked, ...rest);
            if ((asked.url ?? String(asked)).endsWith("/edits"))
              await new Promise((done) => setTimeout(done, 700));
            return answer;
          };
        }"""
    )
    bench.keyboard.press("2")
    bench.keyboard.press("m")
    expect(bench.get_by_test_id("notice")).to_contain_text("is marked in 1 place")
    found = [w["accent"] for c in view(bench)["cues"] for w in c["words"] if w["accent"]]
    assert found == [2]
    undo_all(bench)
