"""Rules that are kept, seen through the page: shortest duration, typed times, imports, stretching."""

from __future__ import annotations

from pathlib import Path

from playwright.sync_api import Page, expect

from tests.e2e.pages import undo_all
from tests.e2e.test_hands import boxes, view

VTT = """WEBVTT

00:00.400 --> 00:02.000 line:0
Good <i>morning</i>

00:02.500 --> 00:04.000
we <00:02.900>mend <00:03.400>things

00:05.000 --> 00:04.500
<c.red>turned</c> <ruby>round<rt>ring</rt></ruby>
"""


def test_the_shortest_duration_is_kept_or_pointed_out(bench: Page) -> None:
    bench.keyboard.press("Shift+Digit4")
    bench.get_by_role("tab", name="Timing").click()
    field = bench.get_by_label("Shortest", exact=True)
    field.fill("0.6")
    field.press("Enter")
    expect(bench.get_by_role("button", name="Undo: pace: shortest duration")).to_be_visible()
    short = [c for c in view(bench)["cues"] if c["end_us"] - c["start_us"] < 598_000]
    bench.get_by_role("tab", name="Checks").click()
    bench.get_by_role("radio", name="own pace").click()
    bench.wait_for_timeout(600)
    piece = view(bench)["pieces"][0]["id"]
    found = bench.request.get(f"/api/pieces/{piece}/checks", max_retries=2).json()
    named = {one["cue_id"] for one in found if one["kind"] == "too_short"}
    assert named == {cue["id"] for cue in short}
    assert len(short) <= 2
    undo_all(bench)


def test_a_hand_made_caption_takes_its_words_along(bench: Page) -> None:
    bench.keyboard.press("t")
    bench.keyboard.type("3.55")
    bench.keyboard.press("Enter")
    bench.keyboard.press("c")
    expect(bench.get_by_role("button", name="Undo: add")).to_be_visible()
    bench.wait_for_timeout(200)
    bench.keyboard.type("Mind the step")
    bench.keyboard.press("Enter")
    expect(bench.get_by_test_id("active")).to_contain_text("On the page")
    bench.keyboard.press("Shift+S")
    bench.keyboard.type("0:03.65")
    bench.keyboard.press("Enter")
    expect(bench.get_by_role("button", name="Undo: set caption start")).to_be_visible()
    made = next(c for c in view(bench)["cues"] if c["words"][0]["text"] == "Mind")
    assert made["words"][0]["start_us"] == made["start_us"] == 3_650_000
    bench.keyboard.press("Shift+Digit4")
    bench.get_by_role("button", name="Regroup all from scratch").click()
    expect(bench.get_by_role("button", name="Undo: regroup afresh")).to_be_visible()
    after = next(c for c in view(bench)["cues"] if c["words"][0]["text"] == "Mind")
    assert [w["text"] for w in after["words"]] == ["Mind", "the", "step"]
    assert abs(after["start_us"] - 3_650_000) <= 300_000
    undo_all(bench)


def test_an_import_keeps_what_a_piece_can_hold_and_names_the_rest(
    bench: Page, tmp_path: Path
) -> None:
    before = boxes(bench).count()
    bench.keyboard.press("Shift+Digit1")
    file = tmp_path / "kettle.vtt"
    file.write_text(VTT)
    bench.get_by_label("Caption file", exact=True).set_input_files(file)
    bench.get_by_role("button", name="Take it in").click()
    expect(bench.get_by_role("button", name="Undo: import captions")).to_be_visible()
    first, second, third = view(bench)["cues"]
    assert [w["accent"] for w in first["words"]] == [0, 1]
    assert first["look"]["place.down"] == "top"
    assert [w["start_us"] for w in second["words"]] == [2_500_000, 2_900_000, 3_400_000]
    assert (third["start_us"], third["end_us"]) == (4_500_000, 5_000_000)
    assert [w["text"] for w in third["words"]] == ["turned", "round"]
    report = bench.get_by_text("What was read otherwise").locator("..")
    expect(report).to_contain_text("words in italics are marked with the accent Bright")
    more = report.get_by_role("button", name="more")
    if more.count():
        more.click()
    expect(report).to_contain_text("Not taken: classes")
    expect(report).to_contain_text("Not taken: readings (ruby)")
    report.get_by_role("button", name="readings (ruby)").click()
    expect(bench.locator(".row-selected [data-cue-text]")).to_have_text("turned round")
    bench.keyboard.press("k")
    undo_all(bench)
    expect(boxes(bench)).to_have_count(before)


def test_a_stretch_leaves_what_lies_outside(bench: Page) -> None:
    before = view(bench)["cues"]
    bench.keyboard.press("Shift+Digit4")
    bench.get_by_role("tab", name="Shift").click()
    for index, name in ((1, "Early caption"), (3, "Late caption")):
        bench.locator(f"[data-block='{before[index]['id']}']").get_by_role("option").click()
        bench.get_by_role("button", name="Use the selected one").first.click()
        expect(bench.get_by_label(f"{name} starts at")).to_be_visible()
    late = bench.get_by_label("Late caption starts at")
    late.fill("+0.1")
    bench.get_by_role("radio", name="stays").click()
    bench.get_by_role("button", name="Stretch between them").click()
    expect(bench.get_by_role("button", name="Undo: stretch")).to_be_visible()
    after = view(bench)["cues"]

    def starts(cues: list[dict], index: int) -> int:
        return cues[index]["words"][0]["start_us"]

    assert starts(after, 3) == starts(before, 3) + 100_000
    assert [starts(after, i) for i in (0, 4, 5)] == [starts(before, i) for i in (0, 4, 5)]
    undo_all(bench)
