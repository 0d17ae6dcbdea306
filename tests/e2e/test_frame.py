"""A piece is shown in several shapes, its picture dragged and moved, its captions kept out of the way."""

import re
from typing import Any

import pytest
from playwright.sync_api import Page, expect

from tests.e2e.pages import choose, undo_all, until

READY = """(() => { const v = document.querySelector('video');
  return v.readyState >= 3 && !v.seeking; })()"""
SHAPE = """() => { const c = document.querySelector('[data-testid=scene]');
  return c.width / c.height; }"""
SEEN = """() => {
  const video = document.querySelector('video');
  const canvas = new OffscreenCanvas(16, 16);
  const context = canvas.getContext('2d');
  context.drawImage(video, 0, 0, 16, 16);
  return [...context.getImageData(0, 0, 16, 16).data];
}"""
APART = """(one, other) =>
  one.reduce((sum, value, index) => sum + Math.abs(value - other[index]), 0) / one.length"""


@pytest.fixture
def frame(bench: Page) -> Page:
    undo_all(bench)
    bench.keyboard.press("Shift+Digit6")
    expect(bench.get_by_role("heading", name="Shapes")).to_be_visible()
    return bench


def view(page: Page) -> Any:
    return page.evaluate(
        "fetch(location.pathname.replace('/projects', '/api/projects')).then((a) => a.json())"
    )


def add(page: Page, name: str) -> None:
    page.get_by_role("button", name="Add a shape").click()
    page.get_by_role("button", name=re.compile(f"^{name}")).click()
    expect(page.get_by_role("button", name=re.compile(f"^{name}"), pressed=True)).to_be_visible()


def test_a_shape_is_added_looked_at_and_taken_back(frame: Page) -> None:
    assert frame.evaluate(SHAPE) == pytest.approx(9 / 16, abs=0.01)
    add(frame, "Square 1:1")
    until(frame, f"Math.abs(({SHAPE})() - 1) < 0.01")
    until(frame, f"document.querySelector('video').src.startsWith('blob:') && {READY}")
    wide, high = frame.evaluate(
        "(() => { const v = document.querySelector('video'); return [v.videoWidth, v.videoHeight] })()"
    )
    assert (wide, high) == (540, 540)
    frame.get_by_role("button", name=re.compile("^Tall 9:16")).first.click()
    until(frame, f"!document.querySelector('video').src.startsWith('blob:') && {READY}")
    frame.get_by_role("button", name=re.compile("^Square 1:1")).first.click()
    undo_all(frame)
    until(frame, f"Math.abs(({SHAPE})() - 9 / 16) < 0.01")
    expect(frame.get_by_role("list", name="Shapes").get_by_role("listitem")).to_have_count(1)


def test_the_picture_is_dragged_and_the_true_one_follows(frame: Page) -> None:
    add(frame, "Square 1:1")
    until(frame, f"document.querySelector('video').src.startsWith('blob:') && {READY}")
    before = frame.evaluate(SEEN)
    box = frame.locator("[data-pan]").bounding_box()
    assert box
    x, y = box["x"] + box["width"] / 2, box["y"] + box["height"] / 2
    frame.mouse.move(x, y)
    frame.mouse.down()
    frame.mouse.move(x, y + 90, steps=5)
    moved = frame.evaluate("document.querySelector('video').style.transform")
    assert "90px" in moved, "the still goes with the hand"
    frame.mouse.up()
    expect(frame.get_by_role("button", name="Undo: place of picture")).to_be_visible()
    until(frame, "document.querySelector('video').style.transform === ''")
    until(frame, f"(before) => ({APART})(({SEEN})(), before) > 6", before)
    shape = view(frame)["pieces"][0]["shapes"][1]
    assert shape["framing"]["y"] < 0.5
    frame.locator("[data-pan]").focus()
    frame.keyboard.press("Shift+ArrowUp")
    until(
        frame,
        """(y) => fetch(location.pathname.replace('/projects', '/api/projects')).then((a) => a.json())
          .then((p) => p.pieces[0].shapes[1].framing.y > y)""",
        shape["framing"]["y"],
    )
    undo_all(frame)


def test_a_move_lies_over_what_the_caption_says(frame: Page) -> None:
    frame.locator("[data-row-cue]").nth(2).click(position={"x": 30, "y": 12})
    frame.get_by_role("button", name="Slow in").click()
    expect(frame.get_by_role("list", name="Moves").get_by_role("listitem")).to_have_count(1)
    cue = view(frame)["cues"][2]
    move = view(frame)["pieces"][0]["shapes"][0]["moves"][0]
    assert move["start_us"] == cue["words"][0]["start_us"]
    assert move["end_us"] == cue["words"][-1]["end_us"]
    frame.get_by_role("button", name=re.compile("^Take the move at")).click()
    expect(frame.get_by_role("list", name="Moves")).to_have_count(0)
    frame.get_by_role("button", name="Over the whole piece").click()
    expect(frame.get_by_role("button", name="Undo: moves over the whole piece")).to_be_visible()
    first = frame.get_by_role("list", name="Moves").get_by_role("listitem").first
    expect(first).to_contain_text("Slow in")
    undo_all(frame)


def test_captions_are_moved_out_of_the_way_of_a_guide(frame: Page) -> None:
    expect(frame.locator("[data-guide]")).to_have_count(0)
    frame.get_by_role("tab", name="In the way").click()
    choose(frame, "Guide", "Short-video feed")
    expect(frame.locator("[data-guide]")).to_contain_text("name and text")
    frame.get_by_role("tab", name="Picture").click()
    size = (
        "fetch(location.pathname.replace('/projects', '/api/projects')).then((a) => a.json())"
        ".then((p) => p.pieces[0].shapes[0].look)"
    )
    down = frame.get_by_role("textbox", name="Up and down, number")
    down.fill("38")
    down.press("Enter")
    frame.get_by_role("tab", name="In the way").click()
    told = frame.get_by_text(re.compile(r"^\d+ captions? (is|are) in the way"))
    expect(told).to_be_visible()
    before = int(told.inner_text().split()[0])
    button = frame.get_by_role("button", name=re.compile("^Move all of them"))
    offered = re.search(r"(\d+|none) left", button.inner_text())
    assert offered
    left = int(offered[1]) if offered[1] != "none" else 0
    assert left < before
    button.click()
    until(frame, f"{size}.then((look) => look['place.dy'] < 0.37)")
    # What was told of the change is what there is after it.
    if left:
        expect(told).to_have_text(re.compile(f"^{left} caption"))
    else:
        expect(told).to_have_count(0)
    choose(frame, "Guide", "No guide")
    expect(frame.locator("[data-guide]")).to_have_count(0)
    undo_all(frame)


def test_a_headline_is_typed_and_dragged_in_one_shape(frame: Page) -> None:
    add(frame, "Square 1:1")
    frame.get_by_role("tab", name="Layers").click()
    frame.get_by_role("button", name="Headline", exact=True).click()
    text = frame.get_by_label("Text of the headline")
    text.fill("Mend it\nfirst")
    expect(frame.get_by_role("button", name=re.compile("^Undo: text of"))).to_be_visible()
    held = frame.get_by_role("group", name=re.compile("^Place of Mend it"))
    expect(held).to_be_visible()
    box = held.bounding_box()
    assert box
    x, y = box["x"] + box["width"] / 2, box["y"] + box["height"] / 2
    frame.mouse.move(x, y)
    frame.mouse.down()
    frame.mouse.move(x + 3, y + 60, steps=6)
    expect(frame.locator("span.bg-chalk.w-px")).to_be_visible()
    frame.mouse.up()
    expect(frame.get_by_role("button", name=re.compile("^Undo: place of"))).to_be_visible()
    tall, square = view(frame)["pieces"][0]["shapes"]
    assert square["places"]["1"]["y"] > tall["places"]["1"]["y"] + 0.1
    assert square["places"]["1"]["x"] == pytest.approx(0.5, abs=0.002), "it sticks to the middle"
    held.focus()
    frame.keyboard.press("+")
    until(
        frame,
        """(size) => fetch(location.pathname.replace('/projects', '/api/projects')).then((a) => a.json())
          .then((p) => p.pieces[0].shapes[1].places[1].size > size)""",
        square["places"]["1"]["size"],
    )
    frame.get_by_role("button", name="Take Headline away").click()
    expect(frame.get_by_role("list", name="Layers")).to_have_count(0)
    undo_all(frame)


def test_all_shapes_play_beside_one_another(frame: Page) -> None:
    add(frame, "Square 1:1")
    frame.get_by_role("button", name="See all").click()
    sheet = frame.get_by_role("dialog", name="All shapes")
    expect(sheet.locator("figure")).to_have_count(2)
    until(
        frame,
        "[...document.querySelectorAll('[role=dialog] video')].every((v) => v.readyState >= 3)",
    )
    sheet.get_by_role("button", name="Play").click()
    until(
        frame,
        "[...document.querySelectorAll('[role=dialog] video')].every((v) => v.currentTime > 1.2)",
    )
    # One that has fallen behind is brought up.
    until(
        frame,
        """() => { const [a, b] = document.querySelectorAll('[role=dialog] video');
          return Math.abs(a.currentTime - b.currentTime) < 0.1; }""",
    )
    sheet.get_by_role("button", name="Close").click()
    expect(sheet).to_have_count(0)
    undo_all(frame)


def test_a_jig_is_used_and_taken_back_in_one(frame: Page) -> None:
    frame.get_by_role("tab", name="Jigs").click()
    jigs = frame.get_by_role("list", name="Jigs")
    wide = jigs.get_by_role("listitem").filter(has_text="Talk, wide and square")
    wide.get_by_role("button", name="Use").click()
    shapes = frame.get_by_role("list", name="Shapes").get_by_role("listitem")
    expect(shapes).to_have_count(2)
    expect(shapes.first).to_contain_text("Wide 16:9")
    until(frame, f"Math.abs(({SHAPE})() - 16 / 9) < 0.01")
    frame.get_by_label("Name of a jig made of this piece").fill("For the counter")
    frame.get_by_role("button", name="Keep", exact=True).click()
    mine = jigs.get_by_role("listitem").filter(has_text="For the counter")
    expect(mine).to_be_visible()
    mine.get_by_role("button", name="Forget the jig For the counter").click()
    expect(mine).to_have_count(0)
    frame.get_by_role("button", name="Undo: jig Talk, wide and square").click()
    expect(shapes).to_have_count(1)


LAYERS = """fetch(location.pathname.replace('/projects', '/api/projects')).then((a) => a.json())
  .then((p) => p.pieces[0].layers)"""
COLOURED = """([left, top, right, low]) => {
  const canvas = document.querySelector('[data-testid=scene]');
  const [w, h] = [canvas.width, canvas.height];
  const part = [left * w, top * h, (right - left) * w, (low - top) * h].map(Math.round);
  const { data } = canvas.getContext('2d').getImageData(...part);
  let found = 0;
  for (let i = 3; i < data.length; i += 4) found += data[i] > 40;
  return found / (data.length / 4);
}"""


def test_a_picture_and_a_waveform_are_laid_over_the_piece(frame: Page) -> None:
    frame.get_by_role("tab", name="Layers").click()
    frame.get_by_role("button", name="Picture", exact=True).click()
    expect(frame.get_by_text("PNG, JPEG, WebP, GIF or SVG")).to_be_visible()
    file = frame.get_by_label("A picture's file")
    file.set_input_files({"name": "bad.png", "mimeType": "image/png", "buffer": b"no picture"})
    expect(frame.get_by_text("no picture that can be read").first).to_be_visible()
    file.set_input_files("src/mortiser/demo/media/lantern.svg")
    until(frame, f"{LAYERS}.then((all) => all[0].picture?.name === 'lantern.svg')")
    until(frame, f"({COLOURED})([0.35, 0.25, 0.65, 0.35]) > 0.95")
    frame.get_by_role("button", name="Waveform", exact=True).first.click()
    frame.get_by_role("radio", name="Ring").click()
    until(frame, f"{LAYERS}.then((all) => all[1].wave?.form === 'ring')")
    until(frame, f"({COLOURED})([0.2, 0.5, 0.8, 0.95]) > 0.02")
    choose(frame, "When the layer shows", "before the first caption")
    until(frame, f"{LAYERS}.then((all) => all[1].intro)")
    undo_all(frame)


def test_a_box_is_drawn_followed_and_the_face_corrected_by_hand(frame: Page) -> None:
    add(frame, "Square 1:1")
    until(frame, f"document.querySelector('video').src.startsWith('blob:') && {READY}")
    frame.locator("[data-row-cue]").nth(2).click(position={"x": 30, "y": 12})
    frame.get_by_role("button", name="Draw a box").click()
    sheet = frame.locator("[data-face-sheet]").bounding_box()
    assert sheet
    x, y = sheet["x"] + sheet["width"] * 0.4, sheet["y"] + sheet["height"] * 0.6
    frame.mouse.move(x, y)
    frame.mouse.down()
    frame.mouse.move(x + 60, y + 60, steps=4)
    frame.mouse.up()
    expect(frame.get_by_role("button", name=re.compile("^Undo: choice of a face"))).to_be_visible()
    mine = frame.get_by_role("button", name="Face that is followed")
    expect(mine).to_be_visible()
    box = mine.bounding_box()
    assert box
    middle = box["y"] + box["height"] / 2 - sheet["y"]
    assert middle / sheet["height"] == pytest.approx(0.42, abs=0.08), "at its point of the frame"
    frame.get_by_role("button", name="The face is here").click()
    frame.locator("[data-face-sheet]").click(position={"x": sheet["width"] * 0.7, "y": 150})
    expect(frame.get_by_role("list", name="Where the face is by hand")).to_be_visible()
    expect(frame.locator("[data-row] circle").first).to_be_attached()
    frame.get_by_role("button", name="Take back").click()
    expect(frame.get_by_role("list", name="Where the face is by hand")).to_have_count(0)
    frame.get_by_role("button", name="The largest face").click()
    expect(frame.get_by_role("button", name="The largest face")).to_have_count(0)
    undo_all(frame)


def test_a_layer_lasts_from_one_word_to_another(frame: Page) -> None:
    frame.get_by_role("tab", name="Layers").click()
    frame.get_by_role("button", name="Plate", exact=True).first.click()
    expect(frame.get_by_role("button", name="Undo: add plate")).to_be_visible()
    first, last = (view(frame)["cues"][at]["words"][-1] for at in (1, 3))
    for word, button in ((first, "From"), (last, "To")):
        frame.locator(f"[data-word='{word['id']}']").first.click()
        frame.keyboard.press("Escape")
        frame.get_by_role("button", name=f"{button} “{word['text']}”").click()
        expect(frame.get_by_role("button", name="Undo: when plate shows")).to_be_visible()
    frame.wait_for_timeout(300)
    (layer,) = view(frame)["pieces"][0]["layers"]
    assert layer["during"]["start_us"] == first["start_us"]
    assert layer["during"]["end_us"] == last["end_us"]
    undo_all(frame)


def test_a_layer_under_a_guide_is_moved_out_of_the_way(frame: Page) -> None:
    frame.get_by_role("tab", name="Layers").click()
    frame.get_by_role("button", name="Progress bar", exact=True).first.click()
    frame.get_by_role("tab", name="In the way").click()
    choose(frame, "Guide", "Short-video feed")
    move = frame.get_by_role("button", name="Move Progress bar out of the way")
    move.click()
    expect(move).to_have_count(0)
    choose(frame, "Guide", "No guide")
    undo_all(frame)
