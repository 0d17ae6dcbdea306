"""Reading, playing and editing on the workbench; looking after projects on the start page."""

import re
from pathlib import Path

import pytest
from playwright.sync_api import Page, expect

from tests.e2e.pages import texts, undo_all, until
from tests.recordings import KETTLE, MEDIA, make_video
from tests.serving import Server, bring_in, wait_for_job


def now(page: Page) -> float:
    return float(page.evaluate("document.querySelector('video').currentTime"))


def painted(page: Page) -> int:
    """How many pixels of the scene's canvas are painted."""
    return int(
        page.evaluate(
            """() => {
              const c = document.querySelector('[data-testid=scene]');
              const d = c.getContext('2d').getImageData(0, 0, c.width, c.height).data;
              let n = 0;
              for (let i = 3; i < d.length; i += 4) n += d[i] > 0;
              return n;
            }"""
        )
    )


def test_clicking_a_word_goes_to_it_and_shows_its_caption(bench: Page, project: dict) -> None:
    word = next(w for cue in project["cues"] for w in cue["words"] if w["text"] == "mend")
    bench.locator(f'[data-word="{word["id"]}"]').click()
    until(
        bench,
        "(t) => Math.abs(document.querySelector('video').currentTime - t) < 0.06",
        arg=word["start_us"] / 1e6,
    )
    expect(bench.locator(f'[data-word="{word["id"]}"].live-word')).to_have_count(1)
    bench.wait_for_timeout(300)
    assert painted(bench) > 500
    expect(bench.get_by_label("Loupe")).to_contain_text("mend")


def test_playing_marks_word_after_word(bench: Page) -> None:
    bench.keyboard.press("Space")
    seen = set()
    for _ in range(30):
        live = bench.locator(".live-word")
        if live.count():
            seen.add(live.first.inner_text())
        bench.wait_for_timeout(100)
    bench.keyboard.press("Space")
    expect(bench.get_by_role("button", name="Play")).to_be_visible()
    assert len(seen) >= 4


def test_arrows_step_from_frame_to_frame(bench: Page, project: dict) -> None:
    bench.locator("[data-row-cue]").first.click(position={"x": 20, "y": 12})
    before = now(bench)
    for _ in range(3):
        bench.keyboard.press("ArrowRight")
        bench.wait_for_timeout(120)
    assert now(bench) - before == pytest.approx(3 / 30, abs=0.004)
    bench.keyboard.press("ArrowLeft")
    bench.wait_for_timeout(120)
    assert now(bench) - before == pytest.approx(2 / 30, abs=0.004)


def test_enter_splits_backspace_joins_and_undo_follows(bench: Page) -> None:
    before = texts(bench)
    first = bench.locator("[data-cue-text]").first
    first.click()
    bench.keyboard.press("Home")
    for _ in range(len(before[0].split()[0])):
        bench.keyboard.press("ArrowRight")
    bench.keyboard.press("Enter")
    expect(bench.get_by_role("button", name="Undo: split caption")).to_be_visible()
    assert texts(bench)[:2] == before[0].split(" ", 1)
    second = bench.locator("[data-cue-text]").nth(1)
    second.click()
    bench.keyboard.press("Home")
    bench.keyboard.press("Backspace")
    expect(bench.get_by_role("button", name="Undo: join captions")).to_be_visible()
    assert texts(bench) == before
    undo_all(bench)
    assert texts(bench) == before


def test_deleting_a_caption_by_key_and_taking_it_back(bench: Page) -> None:
    before = texts(bench)
    bench.keyboard.press("ArrowDown")
    bench.keyboard.press("ArrowDown")
    bench.keyboard.press("Delete")
    expect(bench.get_by_role("button", name="Undo: delete")).to_be_visible()
    assert len(texts(bench)) == len(before) - 1
    bench.keyboard.press("Control+z")
    expect(bench.get_by_role("button", name="Undo: delete")).to_have_count(0)
    assert texts(bench) == before


def test_typing_runs_no_shortcut(bench: Page) -> None:
    first = bench.locator("[data-cue-text]").first
    before = first.inner_text()
    at = now(bench)
    first.click()
    bench.keyboard.press("End")
    bench.keyboard.type(" j k l ?")
    assert bench.get_by_role("dialog").count() == 0
    assert first.inner_text() == f"{before} j k l ?"
    bench.keyboard.press("Escape")
    assert first.inner_text() == f"{before} j k l ?"
    expect(bench.get_by_test_id("active")).to_contain_text("Typed, not taken yet")
    bench.keyboard.press("Escape")
    assert first.inner_text() == before
    assert first.locator("[data-word]").count() == len(before.split())
    assert abs(now(bench) - at) < 1.5
    assert bench.get_by_role("button", name="Undo: ").count() == 0


def test_a_bad_time_is_refused_and_the_old_one_stays(bench: Page) -> None:
    bench.locator("[data-cue-text]").first.click()
    start = bench.get_by_label("Caption start")
    before = start.input_value()
    start.fill("soon")
    start.press("Enter")
    expect(bench.get_by_role("alert")).to_contain_text("is not a time")
    expect(start).to_have_value(before)


def test_finish_and_grouping_change_the_preview_and_come_back(bench: Page) -> None:
    count = len(texts(bench))
    bench.get_by_role("button", name="Dress").click()
    bench.get_by_text("Pine", exact=True).click()
    expect(bench.get_by_role("button", name="Undo: finish Pine")).to_be_visible()
    expect(bench.get_by_role("button", name="Dress")).to_contain_text("Pine")
    bench.get_by_role("button", name="Pace").click()
    bench.get_by_text("Sentence", exact=True).click()
    expect(bench.get_by_role("button", name="Undo: pace sentence")).to_be_visible()
    bench.get_by_role("button", name="Proof").click()
    assert len(texts(bench)) < count
    undo_all(bench)
    assert len(texts(bench)) == count


def test_a_word_is_marked_by_key_and_from_the_tray(bench: Page, project: dict) -> None:
    bench.get_by_role("button", name="Dress").click()
    bench.get_by_role("tab", name="Accents").click()
    word = next(w for cue in project["cues"] for w in cue["words"] if w["text"] == "Lane,")
    shown = bench.locator(f'[data-word="{word["id"]}"]')
    shown.click()
    bench.keyboard.press("Escape")
    bench.keyboard.press("1")
    expect(bench.get_by_role("button", name="Undo: mark “Lane,”")).to_be_visible()
    expect(shown).to_have_class(re.compile("accented"))
    bright = bench.get_by_role("button", name=re.compile("^Bright"))
    expect(bright).to_have_attribute("aria-pressed", "true")
    bench.get_by_role("button", name=re.compile("^Loud")).click()
    expect(bright).to_have_attribute("aria-pressed", "false")
    bench.get_by_role("tab", name="Finish").click()
    bench.get_by_text("Pine", exact=True).click()
    expect(bench.get_by_role("button", name="Undo: finish Pine")).to_be_visible()
    bench.get_by_role("tab", name="Accents").click()
    expect(bench.get_by_role("button", name=re.compile("^Loud"))).to_have_attribute(
        "aria-pressed", "true"
    )
    bench.keyboard.press("0")
    expect(shown).not_to_have_class(re.compile("accented"))
    undo_all(bench)


def test_two_windows_do_not_overwrite_each_other(
    bench: Page, server: Server, project: dict
) -> None:
    with server.client() as client:
        view = client.get(f"/api/projects/{project['id']}").json()
        edit = {"kind": "set_finish", "piece_id": view["pieces"][0]["id"], "finish": "Pine"}
        client.post(
            f"/api/projects/{project['id']}/edits",
            json={"base_revision": view["revision"], "edit": edit},
        )
        expect(bench.get_by_role("button", name="Dress")).to_contain_text("Pine")
        bench.get_by_role("button", name="Undo: finish Pine").click()
        expect(bench.get_by_role("button", name="Dress")).to_contain_text("Lacquer")


def test_the_sheet_lists_the_keys(bench: Page) -> None:
    bench.keyboard.press("?")
    sheet = bench.get_by_role("dialog")
    expect(sheet).to_contain_text("Play or pause")
    expect(sheet).to_contain_text("Split the caption at the caret")
    bench.keyboard.press("Escape")
    expect(sheet).to_have_count(0)


def test_doubts_are_walked_and_settled_by_key(bench: Page, server: Server, project: dict) -> None:
    with server.client() as client:
        wait_for_job(client, project["id"], "doubt")
    before = texts(bench)
    rule = bench.get_by_role("button", name="Proof")
    expect(rule).to_contain_text("left")
    count = int(rule.inner_text().split()[1])
    bench.keyboard.press("d")
    until(bench, "!document.querySelector('video').paused")
    bench.keyboard.press("a")
    expect(bench.get_by_role("button", name="Undo: accept")).to_be_visible()
    expect(rule).to_contain_text(f"{count - 1} doubt" if count > 1 else "no doubts")
    assert texts(bench) == before
    undo_all(bench)
    expect(rule).to_contain_text(f"{count} doubt")
    bench.keyboard.press("d")
    bench.keyboard.press("x")
    expect(bench.get_by_role("button", name="Undo: take out")).to_be_visible()
    assert " ".join(texts(bench)) != " ".join(before)
    undo_all(bench)
    assert texts(bench) == before


def test_what_is_left_is_kept_with_one_key(bench: Page, server: Server, project: dict) -> None:
    with server.client() as client:
        wait_for_job(client, project["id"], "doubt")
    before = texts(bench)
    expect(bench.get_by_role("button", name="Proof")).to_contain_text("left")
    bench.keyboard.press("Shift+A")
    expect(bench.get_by_role("button", name="Undo: keep")).to_be_visible()
    expect(bench.get_by_role("button", name="Proof")).to_contain_text("no doubts")
    assert texts(bench) == before
    undo_all(bench)
    expect(bench.get_by_role("button", name="Proof")).to_contain_text("left")


def test_what_else_was_heard_is_taken_by_a_click(
    bench: Page, server: Server, project: dict
) -> None:
    with server.client() as client:
        wait_for_job(client, project["id"], "doubt")
        view = client.get(f"/api/projects/{project['id']}").json()
    word = next(w for c in view["cues"] for w in c["words"] if w["doubt"] and w["alternatives"])
    other = word["alternatives"][0]
    bench.get_by_role("button", name=other, exact=True).first.click()
    plain = other.rstrip(".,!?;:")
    expect(bench.get_by_role("button", name=f"Undo: retype “{plain}")).to_be_visible()
    assert other in " ".join(texts(bench))
    undo_all(bench)


def test_find_shows_counts_and_replaces_as_one_step(bench: Page) -> None:
    before = texts(bench)
    bench.keyboard.press("Control+f")
    bench.keyboard.type("kettle")
    expect(bench.get_by_role("status").filter(has_text="place")).to_contain_text("1 of 1 place")
    expect(bench.locator(".found")).to_have_text("kettle")
    bench.get_by_label("Replace with").fill("copper pot")
    bench.get_by_role("button", name="Replace all 1").click()
    expect(bench.get_by_role("button", name="Undo: replace “kettle”")).to_be_visible()
    expect(bench.get_by_text("Nowhere in the captions")).to_be_visible()
    assert " ".join(texts(bench)) == " ".join(before).replace("kettle", "copper pot")
    undo_all(bench)
    assert texts(bench) == before


def test_a_caption_is_replayed_and_looped(bench: Page, project: dict) -> None:
    bench.locator("[data-cue-text]").nth(1).click()
    bench.keyboard.press("Escape")
    cue = project["cues"][1]
    bench.keyboard.press("r")
    until(bench, "!document.querySelector('video').paused")
    until(bench, "document.querySelector('video').paused")
    assert now(bench) == pytest.approx(cue["end_us"] / 1e6, abs=0.25)
    bench.keyboard.press("o")
    bench.wait_for_timeout(int((cue["end_us"] - cue["start_us"]) / 1_000) + 900)
    assert bench.evaluate("!document.querySelector('video').paused")
    assert cue["start_us"] / 1e6 - 0.1 <= now(bench) <= cue["end_us"] / 1e6 + 0.25
    bench.keyboard.press("o")
    until(bench, "document.querySelector('video').paused")
    bench.keyboard.press("Shift+O")
    until(bench, "!document.querySelector('video').paused")
    state = bench.evaluate(
        "(v => [v.playbackRate, v.preservesPitch])(document.querySelector('video'))"
    )
    assert state == [0.6, True]
    bench.keyboard.press("Shift+O")
    until(bench, "document.querySelector('video').paused")
    assert bench.evaluate("document.querySelector('video').playbackRate") == 1


def test_only_rows_in_view_are_on_the_page(page: Page, server: Server) -> None:
    with server.client() as client:
        view = bring_in(client, KETTLE, "Long.mp4")
        wait_for_job(client, view["id"], "transcribe")
        total = len(client.get(f"/api/projects/{view['id']}").json()["cues"])
        page.goto(f"{server.address}/projects/{view['id']}")
        expect(page.locator("[data-cue-text]").first).to_be_visible()
        assert 0 < page.locator("[data-cue-text]").count() < total
        client.delete(f"/api/projects/{view['id']}")


@pytest.fixture
def start(page: Page, server: Server) -> Page:
    page.goto(server.address)
    expect(page.get_by_text("Drop recordings here")).to_be_visible()
    return page


def pick(page: Page, *files: Path) -> None:
    page.get_by_label("Recordings", exact=True).set_input_files(list(files))


def test_bad_files_are_refused_and_say_why(start: Page, server: Server, tmp_path: Path) -> None:
    with server.client() as client:
        cards = len(client.get("/api/projects").json())
    expect(start.get_by_role("listitem")).to_have_count(cards)
    text, cut = tmp_path / "notes.mp4", tmp_path / "cut.mp4"
    text.write_text("just a letter")
    cut.write_bytes(KETTLE.read_bytes()[:300_000])
    mute = make_video(tmp_path / "mute.mp4", tracks=0)
    pick(start, text, cut, mute)
    alerts = start.get_by_role("alert")
    expect(alerts).to_have_count(3)
    said = " ".join(alerts.all_inner_texts())
    assert "no recording that can be read" in said
    assert "cut off" in said
    assert "no sound" in said
    for _ in range(3):
        alerts.first.get_by_label("Close message").click()
    expect(start.get_by_role("listitem")).to_have_count(cards)


def test_several_recordings_at_once_and_their_care(start: Page, tmp_path: Path) -> None:
    first = make_video(tmp_path / "stairs.mp4")
    second = make_video(tmp_path / "chair_leg.webm", codec="libvpx", audio_codec="libopus")
    pick(start, first, second)
    expect(start.get_by_text("chair leg", exact=True)).to_be_visible(timeout=15_000)
    expect(start.get_by_text("stairs", exact=True)).to_be_visible()
    start.get_by_label("More for stairs").click()
    start.get_by_role("menuitem", name="Rename").click()
    start.get_by_label("Project name").fill("The stairs")
    start.get_by_label("Project name").press("Enter")
    expect(start.get_by_text("The stairs", exact=True)).to_be_visible()
    start.get_by_label("More for The stairs").click()
    start.get_by_role("menuitem", name="Duplicate").click()
    expect(start.get_by_text("The stairs (copy)", exact=True)).to_be_visible()
    for name in ("The stairs (copy)", "The stairs", "chair leg"):
        start.get_by_label(f"More for {name}", exact=True).click()
        start.get_by_role("menuitem", name="Delete").click()
        start.get_by_role("button", name="Delete project").click()
        expect(start.get_by_text(name, exact=True)).to_have_count(0)


def test_sound_alone_plays_with_captions(page: Page, server: Server) -> None:
    with server.client() as client:
        view = bring_in(client, MEDIA / "lyric.m4a")
        wait_for_job(client, view["id"], "transcribe")
        page.goto(f"{server.address}/projects/{view['id']}")
        page.locator("[data-cue-text]").first.click()
        page.wait_for_timeout(700)
        assert painted(page) > 300
        page.keyboard.press("Escape")
        page.keyboard.press("Space")
        page.wait_for_timeout(900)
        assert now(page) > 0.6
        client.delete(f"/api/projects/{view['id']}")


def test_a_project_that_is_gone_says_so(page: Page, server: Server) -> None:
    page.goto(f"{server.address}/projects/987654")
    expect(page.get_by_text("not there any more")).to_be_visible()
    page.get_by_role("link", name="Back to all projects").click()
    expect(page.get_by_text("Drop recordings here")).to_be_visible()
