"""Dressing a piece in the browser: finishes, settings, scope, handles, saving."""

import json
import re
from pathlib import Path

import skia
from playwright.sync_api import Page, expect

from tests.e2e.pages import choose, project_of, until
from tests.serving import Server


def piece_of(page: Page) -> dict:
    return view_of(page)["pieces"][0]


def view_of(page: Page) -> dict:
    number = project_of(page)
    return page.request.get(
        re.sub(r"/projects/.*", f"/api/projects/{number}", page.url), max_retries=2
    ).json()


def open_dress(page: Page, tab: str) -> None:
    page.get_by_role("button", name=re.compile("^Dress")).click()
    page.get_by_role("tab", name=tab).click()


def undo_all(page: Page) -> None:
    """Back to how the project was, so that other tests find it so."""
    for _ in range(40):
        if not view_of(page)["history"]["undo"]:
            return
        page.keyboard.press("Control+z")
        page.wait_for_timeout(150)
    raise AssertionError("something cannot be undone")


def ink(page: Page) -> int:
    """How many pixels of the preview are painted."""
    return page.evaluate(
        """() => {
          const canvas = document.querySelector("[data-testid=scene]");
          const bytes = canvas.getContext("2d").getImageData(0, 0, canvas.width, canvas.height).data;
          let count = 0;
          for (let i = 3; i < bytes.length; i += 4) if (bytes[i] > 40) count++;
          return count;
        }"""
    )


def test_a_finish_is_chosen_changed_for_one_caption_and_taken_back(bench: Page) -> None:
    open_dress(bench, "Finish")
    bench.locator("[data-cue-text]").first.click()
    expect(bench.get_by_role("radio", name="Lacquer")).to_be_checked()
    for name in ("Beeswax", "Ember", "Linen"):
        bench.get_by_text(name, exact=True).click()
        expect(bench.get_by_role("button", name=re.compile("^Dress"))).to_contain_text(name)
    bench.wait_for_timeout(600)
    before = ink(bench)
    bench.get_by_role("tab", name="Letters").click()
    bench.get_by_role("radio", name="This caption").click()
    size = bench.get_by_role("slider", name="Size")
    size.focus()
    for _ in range(12):
        bench.keyboard.press("ArrowRight")
    bench.keyboard.press("Tab")
    expect(bench.get_by_text("It has settings of its own.")).to_be_visible()
    expect(bench.get_by_label("Has a look of its own")).to_have_count(1)
    looks = [cue["look"] for cue in view_of(bench)["cues"]]
    assert looks[0]["size"] > 0.06
    assert not any(looks[1:])
    bench.wait_for_timeout(300)
    assert ink(bench) > before
    bench.get_by_role("button", name="Size: back to finish").click()
    expect(bench.get_by_label("Has a look of its own")).to_have_count(0)
    bench.get_by_role("radio", name="Whole piece").click()
    undo_all(bench)
    expect(bench.get_by_role("button", name=re.compile("^Dress"))).to_contain_text("Lacquer")


def test_a_colour_is_changed_and_seen_at_once(bench: Page) -> None:
    open_dress(bench, "Colours")
    bench.locator("[data-cue-text]").first.click()
    # Past the caption's coming in and the change of the word's colour.
    for _ in range(7):
        bench.get_by_role("button", name="One frame on").click()
        bench.wait_for_timeout(60)
    bench.get_by_role("button", name="Live", exact=True).click()
    bench.get_by_label("Live, hex").fill("#00ff00")
    bench.keyboard.press("Enter")
    expect(bench.get_by_text("Undo: finish: live")).to_be_visible()
    assert piece_of(bench)["finish"]["live"] == [0, 255, 0, 255]
    until(
        bench,
        """() => {
          const canvas = document.querySelector("[data-testid=scene]");
          const bytes = canvas.getContext("2d").getImageData(0, 0, canvas.width, canvas.height).data;
          for (let i = 0; i < bytes.length; i += 4)
            if (bytes[i] < 40 && bytes[i + 1] > 220 && bytes[i + 2] < 40 && bytes[i + 3] > 250) return true;
          return false;
        }""",
    )
    bench.keyboard.press("Escape")
    undo_all(bench)


def test_a_caption_is_moved_and_turned_on_the_preview(bench: Page) -> None:
    open_dress(bench, "Letters")
    bench.locator("[data-cue-text]").first.click()
    bench.get_by_role("radio", name="This caption").click()
    frame = bench.locator("[data-handles]")
    expect(frame).to_be_visible()
    box = frame.bounding_box()
    assert box
    bench.mouse.move(box["x"] + box["width"] / 2, box["y"] + box["height"] / 2)
    bench.mouse.down()
    bench.mouse.move(box["x"] + box["width"] / 2, box["y"] + box["height"] / 2 - 120, steps=6)
    bench.mouse.up()
    expect(bench.get_by_text("Undo: place dx of 1 caption")).to_be_visible()
    look = view_of(bench)["cues"][0]["look"]
    assert look["place.dy"] < piece_of(bench)["finish"]["place"]["dy"] - 0.1
    bench.wait_for_timeout(500)
    moved = frame.bounding_box()
    assert moved
    assert abs(moved["y"] - (box["y"] - 120)) < 12
    frame.focus()
    bench.keyboard.press("Shift+ArrowRight")
    expect(bench.get_by_text("Undo: place turn of 1 caption")).to_be_visible()
    bench.keyboard.press("+")
    expect(bench.get_by_text("Undo: size of 1 caption")).to_be_visible()
    assert view_of(bench)["cues"][0]["look"]["place.turn"] == 1
    bench.get_by_role("button", name="Back to finish", exact=True).first.click()
    expect(bench.get_by_label("Has a look of its own")).to_have_count(0)
    bench.get_by_role("radio", name="Whole piece").click()
    undo_all(bench)


def test_a_look_is_saved_exported_and_deleted(bench: Page, server: Server) -> None:
    open_dress(bench, "Motion")
    choose(bench, "Entrance: motion", "Drop")
    bench.get_by_role("tab", name="Finish").click()
    expect(bench.get_by_text("· changed for this piece")).to_be_visible()
    bench.get_by_role("button", name="Save as new…").click()
    bench.get_by_label("Name of the new finish").fill("Lane evening")
    bench.keyboard.press("Enter")
    expect(bench.get_by_role("heading", name="Your finishes")).to_be_visible()
    expect(bench.get_by_role("radio", name="Lane evening")).to_be_checked()
    with bench.expect_download() as coming:
        bench.get_by_role("button", name="Yours as a file").click()
    file = json.loads(Path(coming.value.path()).read_text())
    assert file["finishes"][0]["motion"]["entrance"]["kind"] == "drop"
    bench.get_by_label("File of finishes").set_input_files(coming.value.path())
    expect(bench.get_by_role("radio", name="Lane evening 2")).to_be_attached()

    def menu(name: str, item: str) -> None:
        bench.get_by_role("button", name=f"What to do with {name}", exact=True).click()
        bench.get_by_role("menuitem", name=item).click()

    menu("Lane evening", "Rename…")
    bench.get_by_label("New name of Lane evening").fill("Lane night")
    bench.keyboard.press("Enter")
    expect(bench.get_by_role("radio", name="Lane night")).to_be_checked()
    with bench.expect_download() as coming:
        menu("Lane night", "As a file")
    one = json.loads(Path(coming.value.path()).read_text())
    assert [finish["name"] for finish in one["finishes"]] == ["Lane night"]
    for name in ("Lane evening 2", "Lane night"):
        menu(name, "Delete")
        expect(bench.get_by_role("radio", name=name, exact=True)).to_have_count(0)
    assert piece_of(bench)["finish"]["name"] == "Lane night"
    undo_all(bench)


def test_suggestions_are_taken_and_emoji_put_beside_words(bench: Page) -> None:
    open_dress(bench, "Accents")
    bench.locator("[data-cue-text]").first.click()
    bench.get_by_role("button", name=re.compile("^Take all")).click()
    expect(bench.locator(".accented").first).to_be_visible()
    expect(bench.get_by_role("button", name="Nothing left to take")).to_be_visible()
    bench.get_by_label("Find emoji").fill("kettle teapot")
    expect(bench.get_by_text("No emoji is called that.")).to_be_visible()
    bench.get_by_label("Find emoji").fill("teapot")
    bench.get_by_role("radio", name="In the text").click()
    bench.get_by_role("button", name="teapot").click()
    expect(bench.locator("[data-cue-text]").first).to_contain_text("🫖")
    bench.get_by_label("Find emoji").fill("")
    expect(bench.get_by_role("list", name="Used last")).to_be_visible()
    bench.locator("[data-cue-text]").first.click()
    bench.keyboard.press("Escape")
    undo_all(bench)
    expect(bench.locator(".accented")).to_have_count(0)


def test_one_word_is_dressed_alone_and_taken_back(bench: Page, project: dict) -> None:
    open_dress(bench, "Accents")
    word = next(w for cue in project["cues"] for w in cue["words"] if w["text"] == "Lane,")
    bench.locator(f'[data-word="{word["id"]}"]').click()
    bench.keyboard.press("Escape")
    tilt = bench.get_by_role("slider", name="Tilt")
    tilt.focus()
    for _ in range(5):
        bench.keyboard.press("ArrowRight")
    bench.keyboard.press("Tab")
    expect(bench.get_by_role("button", name="Undo: tilt of “Lane,”")).to_be_visible()
    owned = [w for cue in view_of(bench)["cues"] for w in cue["words"] if w["own"]]
    assert [w["text"] for w in owned] == ["Lane,"]
    assert owned[0]["own"]["tilt"] > 0
    expect(bench.get_by_label("Has a look of its own")).to_have_count(1)
    bench.get_by_role("button", name="Tilt: back to finish").click()
    expect(bench.get_by_label("Has a look of its own")).to_have_count(0)
    undo_all(bench)


def click_word(page: Page, project: dict, text: str) -> None:
    word = next(w for cue in project["cues"] for w in cue["words"] if w["text"] == text)
    page.locator(f'[data-word="{word["id"]}"]').click()
    page.keyboard.press("Escape")


def own_looks(page: Page) -> list[tuple[str, dict]]:
    return [
        (w["text"], w["own"]) for cue in view_of(page)["cues"] for w in cue["words"] if w["own"]
    ]


def test_a_word_is_moved_and_turned_on_the_preview(bench: Page, project: dict) -> None:
    open_dress(bench, "Accents")
    click_word(bench, project, "Lantern")
    frame = bench.get_by_label(re.compile("^Place of this word: Lantern"))
    box = frame.bounding_box()
    assert box
    middle = box["x"] + box["width"] / 2, box["y"] + box["height"] / 2
    bench.mouse.move(*middle)
    bench.mouse.down()
    bench.mouse.move(middle[0] + 15, middle[1] - 40, steps=5)
    bench.mouse.up()
    expect(bench.get_by_role("button", name=re.compile("^Undo: dx of “Lantern”"))).to_be_visible()
    ((text, own),) = own_looks(bench)
    assert (text, own["lift"] > 0.5, own["dx"] > 0.1) == ("Lantern", True, True)
    bench.wait_for_timeout(600)
    moved = frame.bounding_box()
    assert moved
    assert abs(moved["y"] - (box["y"] - 40)) < 6
    frame.focus()
    bench.keyboard.press("Shift+ArrowRight")
    expect(bench.get_by_role("button", name=re.compile("^Undo: tilt of “Lantern”"))).to_be_visible()
    undo_all(bench)


def test_an_emoji_stands_by_a_word_with_a_motion_of_its_own(bench: Page, project: dict) -> None:
    open_dress(bench, "Accents")
    click_word(bench, project, "morning")
    before = ink(bench)
    bench.get_by_label("Find emoji").fill("teapot")
    bench.get_by_role("button", name="teapot").click()
    choose(bench, "Comes", "With its word")
    expect(bench.get_by_role("button", name=re.compile("^Undo: companion comes"))).to_be_visible()
    assert own_looks(bench) == [
        (
            "morning",
            {"companion.comes": "none", "companion.emoji": "🫖", "companion.place": "above"},
        )
    ]
    bench.wait_for_timeout(600)
    assert ink(bench) > before + 200
    expect(bench.locator("[data-cue-text]").first).not_to_contain_text("🫖")
    bench.get_by_role("button", name="Take it away").click()
    expect(bench.get_by_role("button", name="Take it away")).to_have_count(0)
    assert own_looks(bench) == []
    undo_all(bench)


def test_what_an_accent_does_is_changed_for_the_whole_piece(bench: Page) -> None:
    open_dress(bench, "Accents")
    bench.get_by_role("button", name="Change what the accents do").click()
    choose(bench, "Accent to change", "2 · Loud")
    bench.get_by_label("Name of the accent").fill("Shout")
    bench.keyboard.press("Enter")
    size = bench.get_by_role("slider", name="Size").first
    size.focus()
    for _ in range(4):
        bench.keyboard.press("ArrowRight")
    choose(bench, "Emphasis", "Tilt")
    expect(bench.get_by_role("button", name="Undo: finish: accents emphasis kind")).to_be_visible()
    accent = piece_of(bench)["finish"]["accents"][1]
    assert (accent["name"], accent["emphasis"]["kind"]) == ("Shout", "tilt")
    assert accent["scale"] > 1.3
    choose(bench, "Emphasis", "As the finish")
    expect(
        bench.get_by_role("button", name="Undo: finish: accents emphasis", exact=True)
    ).to_be_visible()
    assert piece_of(bench)["finish"]["accents"][1]["emphasis"] is None
    bench.get_by_role("button", name="Add", exact=True).click()
    expect(bench.get_by_label("Name of the accent")).to_have_value("Accent 6")
    bench.get_by_role("button", name="Take off").click()
    undo_all(bench)


def test_faint_captions_are_found_on_their_picture_and_helped(bench: Page, server: Server) -> None:
    view = view_of(bench)
    wall = [196, 170, 128, 255]
    changes = {"ahead": wall, "live": wall, "past": wall, "outlines": [], "shadow": None,
               "plank": None}  # fmt: skip
    edit = {"kind": "change_finish", "piece_id": view["pieces"][0]["id"], "changes": changes}
    body = {"base_revision": view["revision"], "edit": edit}
    with server.client() as client:
        client.post(f"/api/projects/{view['id']}/edits", json=body).raise_for_status()
    open_dress(bench, "Legible")
    expect(bench.get_by_text("Help all with")).to_be_visible(timeout=60_000)
    expect(bench.get_by_role("button", name=re.compile("^Dress"))).to_contain_text("too faint")
    bench.get_by_role("tabpanel").get_by_role("button", name=re.compile("0:0")).first.click()
    bench.get_by_role("button", name="plate", exact=True).first.click()
    expect(bench.get_by_text("Every caption stands out from its picture.")).to_be_visible(
        timeout=60_000
    )
    plated = [cue for cue in view_of(bench)["cues"] if cue["look"].get("plate")]
    assert len(plated) == len(view["cues"])
    bench.keyboard.press("Control+z")
    dress = bench.get_by_role("button", name=re.compile("^Dress"))
    expect(dress).to_contain_text("too faint", timeout=60_000)
    # Nobody looks while another stage is open: what was found is not held against new colours.
    bench.get_by_role("button", name=re.compile("^Proof")).click()
    undo_all(bench)
    expect(dress).to_contain_text("Lacquer")


def test_a_still_is_what_the_preview_shows(bench: Page) -> None:
    bench.locator("[data-cue-text]").nth(1).click()
    bench.wait_for_timeout(300)
    with bench.expect_download() as coming:
        bench.get_by_role("button", name="Take a still").click()
    picture = skia.Image.MakeFromEncoded(Path(coming.value.path()).read_bytes())
    piece = piece_of(bench)
    assert (picture.width(), picture.height()) == (
        piece["shapes"][0]["width"],
        piece["shapes"][0]["height"],
    )
    at = re.fullmatch(r"Short-kettle-(\d+)\.png", coming.value.suggested_filename)
    assert at
    cue = view_of(bench)["cues"][1]
    assert cue["start_us"] <= int(at[1]) * 1000 + 1000 <= cue["end_us"]
