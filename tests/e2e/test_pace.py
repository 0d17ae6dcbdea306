"""Grouping and timing captions on the workbench: dragged, typed, nudged, shifted, checked."""

import re
from collections.abc import Iterator

import pytest
from playwright.sync_api import Locator, Page, expect

from tests.e2e.pages import undo_all, until
from tests.serving import Server


class Pace:
    """The Pace stage of the one project, and what its captions are by the server's account."""

    def __init__(self, page: Page, server: Server, project: int) -> None:
        self.page = page
        self._server = server
        self._project = project
        page.get_by_role("button", name=re.compile("^Pace")).click()
        expect(page.locator("[data-block]").first).to_be_visible()

    def cues(self) -> list[dict]:
        with self._server.client() as client:
            found = client.get(f"/api/projects/{self._project}").json()["cues"]
        for word in (word for cue in found for word in cue["words"]):
            # The second listening may go on meanwhile.
            del word["doubt"], word["alternatives"]
        return found

    def block(self, cue: dict) -> Locator:
        return self.page.locator(f"[data-block='{cue['id']}']")

    def pick(self, cue: dict, *modifiers: str) -> None:
        self.block(cue).get_by_role("option").click(modifiers=list(modifiers))

    def drag(self, handle: Locator, dx: float, dy: float, *keys: str) -> None:
        handle.scroll_into_view_if_needed()
        box = handle.bounding_box()
        assert box
        x, y = box["x"] + box["width"] / 2, box["y"] + box["height"] / 2
        mouse, keyboard = self.page.mouse, self.page.keyboard
        mouse.move(x, y)
        mouse.down()
        for key in keys:
            keyboard.down(key)
        for step in range(1, 6):
            mouse.move(x + dx * step / 5, y + dy * step / 5)
        mouse.up()
        for key in keys:
            keyboard.up(key)

    def undone(self, label: str) -> None:
        """Wait until an undo would take back what has this label."""
        expect(self.page.get_by_role("button", name=re.compile(f"Undo: {label}"))).to_be_visible()


@pytest.fixture
def pace(bench: Page, server: Server, project: dict) -> Iterator[Pace]:
    # An earlier test may have left edits.
    undo_all(bench)
    made = Pace(bench, server, project["id"])
    before = made.cues()
    yield made
    undo_all(bench)
    assert made.cues() == before


def text(cue: dict) -> str:
    return " ".join(word["text"] for word in cue["words"])


def near(one: int, other: int, within_us: int = 3_000) -> bool:
    return abs(one - other) <= within_us


def test_blocks_are_as_tall_as_captions_last(pace: Pace) -> None:
    scale = []
    for cue in pace.cues()[:4]:
        box = pace.block(cue).bounding_box()
        assert box
        scale.append((box["height"] + 1) / (cue["end_us"] - cue["start_us"]) * 1e6)
    assert max(scale) - min(scale) < 2
    pace.page.keyboard.press("0")
    last = pace.block(pace.cues()[-1])
    expect(last).to_be_in_viewport()
    expect(pace.block(pace.cues()[0])).to_be_in_viewport()


def test_an_edge_is_dragged_to_where_a_word_begins(pace: Pace) -> None:
    cue, after = pace.cues()[1:3]
    pace.pick(cue)
    word = cue["words"][-1]
    box = pace.block(cue).bounding_box()
    assert box
    each_us = (cue["end_us"] - cue["start_us"]) / (box["height"] + 1)
    up = (cue["end_us"] - word["end_us"]) / each_us
    pace.drag(pace.block(cue).locator("[data-edge=end]"), 0, -up - 2)
    pace.undone("set caption end")
    now = pace.cues()[1]
    assert now["end_pinned"]
    assert now["end_us"] == word["end_us"]
    assert pace.cues()[2] == after


def test_a_neighbour_goes_along_on_a_key_and_escape_gives_up(pace: Pace) -> None:
    one, two = pace.cues()[:2]
    assert one["end_us"] == two["start_us"]
    edge = pace.block(two).locator("[data-edge=start]")
    pace.pick(two)
    pace.drag(edge, 0, 14, "Shift", "Alt")
    pace.undone("set caption start")
    after = pace.cues()
    assert after[0]["end_us"] == after[1]["start_us"] > two["start_us"] + 50_000
    undo_all(pace.page)
    box = edge.bounding_box()
    assert box
    pace.page.mouse.move(box["x"] + 60, box["y"] + 3)
    pace.page.mouse.down()
    pace.page.mouse.move(box["x"] + 60, box["y"] + 40)
    pace.page.keyboard.press("Escape")
    pace.page.mouse.up()
    pace.page.wait_for_timeout(200)
    assert pace.cues()[1] == two


def test_a_whole_caption_is_dragged_with_all_that_follow(pace: Pace) -> None:
    before = pace.cues()
    pace.drag(pace.block(before[-2]).get_by_role("option"), 0, -9, "Control", "Alt")
    pace.undone("2 captions|1 caption")
    after = pace.cues()
    moved = after[-2]["start_us"] - before[-2]["start_us"]
    assert moved < -30_000
    assert after[-1]["start_us"] - before[-1]["start_us"] == moved
    assert after[-2]["words"] == before[-2]["words"]


def test_several_are_picked_by_click_and_key_and_joined(pace: Pace) -> None:
    one, two, three = pace.cues()[:3]
    pace.pick(one)
    pace.pick(three, "Shift")
    expect(pace.page.get_by_text("3 captions selected", exact=True)).to_be_visible()
    pace.pick(two, "Control")
    expect(pace.page.get_by_text("2 captions selected", exact=True)).to_be_visible()
    pace.pick(one)
    pace.page.keyboard.press("Shift+ArrowDown")
    pace.page.keyboard.press("g")
    pace.undone("join 2 captions")
    assert text(pace.cues()[0]) == f"{text(one)} {text(two)}"


def test_words_go_to_the_neighbours_and_captions_are_split_by_key(pace: Pace) -> None:
    cue = pace.cues()[1]
    pace.pick(cue)
    pace.page.keyboard.press(",")
    pace.undone("move “")
    assert text(pace.cues()[1]) == " ".join(text(cue).split()[1:])
    pace.page.keyboard.press("Control+z")
    pace.page.keyboard.press(".")
    expect(pace.block(pace.cues()[1])).to_be_visible()
    pace.undone("move “")
    pace.page.keyboard.press("Control+z")
    until(pace.page, f"document.querySelector(\"[data-block='{cue['id']}']\")")
    pace.page.locator(f'[data-word="{cue["words"][1]["id"]}"]').first.wait_for()
    pace.page.get_by_role("button", name=cue["words"][1]["text"], exact=True).click()
    pace.page.keyboard.press("b")
    pace.undone("split caption")
    assert text(pace.cues()[1]) == text(cue).split()[0]


def test_a_word_lit_too_early_is_fixed_with_two_keys(pace: Pace) -> None:
    cue = pace.cues()[1]
    word = cue["words"][1]
    pace.pick(cue)
    loupe = pace.page.get_by_label("Loupe")
    loupe.get_by_role("button", name=word["text"], exact=True).click()
    pace.page.keyboard.press("]")
    pace.undone("move start of")
    expect(loupe).to_contain_text("lights up at")
    pace.page.keyboard.press("]")
    until(pace.page, "!document.querySelector('video').paused")
    pace.page.wait_for_timeout(300)
    assert near(pace.cues()[1]["words"][1]["start_us"], word["start_us"] + 66_667)
    pace.page.keyboard.press("Shift+{")
    pace.page.wait_for_timeout(300)
    assert near(pace.cues()[1]["words"][1]["start_us"], word["start_us"] + 56_667)


def test_a_words_edge_is_dragged_in_the_loupe(pace: Pace) -> None:
    cue = pace.cues()[1]
    word = cue["words"][1]
    pace.pick(cue)
    pace.drag(pace.page.locator(f"[data-word-start='{word['id']}']"), 12, 0)
    pace.undone("move start of")
    assert pace.cues()[1]["words"][1]["start_us"] > word["start_us"] + 20_000


def test_times_are_typed_and_set_to_the_playhead(pace: Pace) -> None:
    cue = pace.cues()[-1]
    pace.pick(cue)
    field = pace.page.get_by_label("Caption end")
    field.fill("-0.1")
    field.press("Enter")
    pace.undone("set caption end")
    assert pace.cues()[-1]["end_us"] == cue["end_us"] - 100_000
    field.fill("soon")
    field.press("Enter")
    expect(pace.page.get_by_test_id("notice")).to_contain_text("is not a time")
    for _ in range(6):
        pace.page.keyboard.press("ArrowRight")
    pace.page.wait_for_timeout(300)
    at = pace.page.evaluate("document.querySelector('video').currentTime")
    pace.page.keyboard.press("s")
    pace.undone("set caption start")
    assert near(pace.cues()[-1]["start_us"], round(at * 1e6), 20_000)
    pace.page.keyboard.press("u")
    pace.undone("unpin")
    assert pace.cues()[-1]["start_us"] == cue["start_us"]


def test_a_caption_is_added_where_it_is_quiet_and_typed_at_once(pace: Pace) -> None:
    page = pace.page
    gone = max(pace.cues()[1:-1], key=lambda cue: cue["end_us"] - cue["start_us"])
    pace.pick(gone)
    page.keyboard.press("Delete")
    pace.undone("delete “")
    at = (gone["words"][0]["start_us"] + 60_000) / 1e6
    page.evaluate("(at) => { document.querySelector('video').currentTime = at }", at)
    page.wait_for_timeout(300)
    page.keyboard.press("c")
    pace.undone("add “New caption”")
    page.wait_for_timeout(200)
    page.keyboard.type("Watch this")
    page.keyboard.press("Enter")
    pace.undone("retype “Watch”")
    assert "Watch this" in [text(cue) for cue in pace.cues()]


def test_a_line_ends_at_the_caret_and_is_shown(pace: Pace) -> None:
    cue = pace.cues()[1]
    pace.block(cue).get_by_role("option").dblclick()
    box = pace.page.locator(f"[data-cue-text='{cue['id']}']")
    expect(box).to_be_focused()
    pace.page.keyboard.press("Home")
    for _ in range(len(cue["words"][0]["text"]) + 1):
        pace.page.keyboard.press("ArrowRight")
    pace.page.keyboard.press("Shift+Enter")
    pace.undone("break line")
    assert pace.cues()[1]["words"][0]["seam"] == "line"
    expect(pace.page.locator(f"[data-block='{cue['id']}'] .line-end")).to_have_count(1)


def test_words_a_caption_lines_and_a_pace_of_ones_own(pace: Pace) -> None:
    page = pace.page
    slider = page.get_by_role("slider", name="Words a caption")
    slider.focus()
    slider.press("Home")
    pace.undone("pace: words a caption")
    assert all(len(cue["words"]) == 1 for cue in pace.cues())
    page.get_by_label("Name of the pace").fill("One by one")
    page.get_by_role("button", name="Keep").click()
    own = page.get_by_role("button", name=re.compile("^One by one"))
    expect(own).to_have_attribute("aria-pressed", "true")
    page.get_by_role("button", name="Sentence").click()
    pace.undone("pace sentence")
    own.click()
    pace.undone("change pace|pace:")
    assert all(len(cue["words"]) == 1 for cue in pace.cues())
    page.get_by_role("button", name="Forget One by one").click()
    expect(own).to_have_count(0)


def test_linger_is_a_number_and_nonsense_is_refused(pace: Pace) -> None:
    page = pace.page
    page.get_by_role("tab", name="Timing").click()
    field = page.get_by_label("Linger")
    field.fill("600")
    field.press("Enter")
    pace.undone("pace: linger")
    field.fill("90000")
    field.press("Enter")
    expect(page.get_by_role("alert")).to_be_visible()
    expect(field).to_have_value("600")


def test_everything_from_here_on_is_shifted(pace: Pace) -> None:
    before = pace.cues()
    pace.pick(before[2])
    pace.page.get_by_role("tab", name="Shift").click()
    pace.page.get_by_label("Shift by").fill("-0.1")
    pace.page.get_by_role("button", name="Shift", exact=True).click()
    pace.undone("shift")
    after = pace.cues()
    assert after[1]["words"] == before[1]["words"]
    assert after[2]["words"][0]["start_us"] == before[2]["words"][0]["start_us"] - 100_000


def test_findings_are_counted_gone_to_and_fixed(pace: Pace) -> None:
    page = pace.page
    cue = pace.cues()[1]
    stage = page.get_by_role("button", name=re.compile("^Pace"))
    pace.pick(cue)
    field = page.get_by_label("Caption start")
    field.fill("+0.4")
    field.press("Enter")
    pace.undone("set caption start")
    expect(stage).to_contain_text("to look at")
    page.get_by_role("tab", name="Checks").click()
    late = page.locator("section", has_text="Start late").last
    late.get_by_role("button").first.click()
    late.get_by_role("button", name="follow the words").click()
    pace.undone("fix late")
    assert pace.cues()[1]["start_us"] == cue["start_us"]
