"""More recordings in one project: a piece each, passages from one in another, a separate microphone."""

import re
from pathlib import Path

import numpy as np
from playwright.sync_api import Page, expect

from mortiser.media.sound import stream_sound
from tests.api.test_microphone import write_sound
from tests.e2e.pages import texts, until
from tests.e2e.test_trim import READY, select, talk, word
from tests.recordings import COUNTER, small_demo
from tests.serving import Server, bring_in, wait_for_job

MORE = "[aria-label='More recordings']"


def test_a_microphone_and_another_recording_come_into_a_project(
    page: Page, server: Server, tmp_path: Path
) -> None:
    clip = small_demo(tmp_path / "clip.mp4", 9.0)
    samples = np.concatenate(list(stream_sound(clip)))
    microphone = write_sound(tmp_path / "Bench microphone.wav", samples, 9.0)
    with server.client() as client:
        project = bring_in(client, clip, "Kettle.mp4")["id"]
        wait_for_job(client, project, "speakers")
    page.goto(f"{server.address}/projects/{project}")
    expect(page.locator("[data-cue-text]").first).to_be_visible()
    page.keyboard.press("Shift+Digit1")
    page.set_input_files(MORE, str(microphone))
    tray = page.get_by_label("Tray of Gather")
    expect(tray.get_by_text("It began 0.750 s earlier")).to_be_visible(timeout=30_000)
    expect(page.get_by_role("button", name="Undo: hear Bench microphone.wav")).to_be_visible()
    # It is played by a stream now, with the other sound.
    until(page, READY)
    field = tray.get_by_label("Hear the sound later by so many milliseconds")
    field.fill("soon")
    field.press("Enter")
    expect(page.get_by_test_id("notice")).to_contain_text("Type by how many milliseconds")
    field.fill("-20")
    field.press("Enter")
    expect(tray.get_by_text("It began 0.770 s earlier")).to_be_visible()
    tray.get_by_role("button", name="Use its own sound").click()
    expect(tray.get_by_role("button", name="Use it as the sound of a video")).to_be_visible()

    page.set_input_files(MORE, str(COUNTER))
    expect(page.get_by_text("3 recordings")).to_be_visible(timeout=30_000)
    expect(tray.get_by_text("stays a recording of its own")).to_be_visible(timeout=60_000)
    expect(page.locator("[data-cue-text]").first).to_contain_text("Welcome", timeout=60_000)
    with server.client() as client:
        wait_for_job(client, project, "speakers")
    # A passage of it is put into the other piece.
    page.keyboard.press("Shift+Digit3")
    expect(word(page, "mending").first).to_be_visible()
    select(page, "Welcome", "mending")
    page.keyboard.press("Control+KeyC")
    page.keyboard.press("Shift+Digit1")
    tray.get_by_role("button", name="Open the piece “Kettle”").click()
    page.keyboard.press("Shift+Digit3")
    expect(word(page, "kettle").first).to_be_visible()
    word(page, "kettle").first.click()
    page.keyboard.press("Control+KeyV")
    expect(word(page, "Welcome")).to_have_count(1)
    assert "kettle Welcome back to the mending came" in " ".join(talk(page))
    until(page, READY)
    page.keyboard.press("Shift+Digit2")
    assert "Welcome back to the mending" in " ".join(texts(page))
    # The recording goes, with what the piece plays of it, and comes back.
    page.keyboard.press("Shift+Digit1")
    tray.get_by_role("button", name=f"Remove {COUNTER.name} …").click()
    asked = page.get_by_role("alertdialog")
    expect(asked).to_contain_text(re.compile("“Kettle” gets 0:0[1-4] shorter"))
    asked.get_by_role("button", name="Remove recording").click()
    expect(page.get_by_text("2 recordings")).to_be_visible()
    page.keyboard.press("Shift+Digit2")
    expect(page.locator("[data-cue-text]", has_text="Welcome")).to_have_count(0)
    page.keyboard.press("Control+KeyZ")
    expect(page.locator("[data-cue-text]", has_text="Welcome")).to_have_count(1)


def test_words_of_all_recordings_are_found_put_in_and_taken_for_others(
    page: Page, server: Server, tmp_path: Path
) -> None:
    clip = small_demo(tmp_path / "clip.mp4", 9.0)
    with server.client() as client:
        project = bring_in(client, clip, "First.mp4")["id"]
        wait_for_job(client, project, "speakers")
        answer = client.post(
            f"/api/projects/{project}/recordings",
            params={"name": "Second.mp4"},
            content=small_demo(tmp_path / "again.mp4", 8.0).read_bytes(),
        )
        assert answer.status_code == 201
        wait_for_job(client, project, "speakers", source=answer.json()["source_id"])
    page.goto(f"{server.address}/projects/{project}")
    expect(page.locator("[data-cue-text]").first).to_be_visible()
    page.keyboard.press("Shift+Digit3")
    expect(word(page, "kettle").first).to_be_visible()
    tray = page.get_by_label("Tray of Trim")
    tray.get_by_role("button", name="Takes of the same words").click()
    expect(tray.get_by_text("in the piece").first).to_be_visible()
    tray.get_by_role("button", name="Use this one").first.click()
    # The sentence is there twice: struck, and in the other recording's words behind it.
    expect(page.locator("span.struck[data-talk]").first).to_be_visible()
    expect(page.get_by_role("button", name=re.compile("Undo: use another take"))).to_be_visible()
    until(page, READY)

    tray.get_by_role("button", name="Second.mp4", exact=True).click()
    expect(tray.get_by_role("button", name=re.compile("^Good morning")).first).to_be_visible()
    tray.get_by_role("button", name="Second.mp4", exact=True).click()
    field = tray.get_by_label("Look for words in all recordings")
    field.fill("toaster")
    expect(tray.get_by_text("Nobody says that in these recordings")).to_be_visible()
    field.fill("stone cold")
    expect(tray.get_by_text("In 2 sentences")).to_be_visible()
    there = tray.get_by_role("button", name=re.compile("stone cold")).last
    there.click()
    video = tray.locator("video")
    expect(video).to_be_visible()
    until(page, "document.querySelector('#tray video').currentTime > 0.2")
    word(page, "kettle").first.click()
    tray.get_by_role("button", name="Put here").nth(1).click()
    expect(page.get_by_role("button", name=re.compile("Undo: put “"))).to_be_visible()
    expect(page.locator(".picked[data-talk]").first).to_be_visible()
    expect(word(page, "stone")).to_have_count(2)


def test_a_piece_of_a_passage_goes_on_with_the_next_sentence(page: Page, server: Server) -> None:
    with server.client() as client:
        projects = client.get("/api/projects").json()
        project = next(one["id"] for one in projects if one["name"] == "First")
    page.goto(f"{server.address}/projects/{project}")
    expect(page.locator("[data-cue-text]").first).to_be_visible()
    page.keyboard.press("Shift+Digit3")
    expect(word(page, "kettle").first).to_be_visible()
    select(page, "Today,", "cold.")
    page.keyboard.press("KeyM")
    expect(page.get_by_test_id("notice")).to_contain_text("Made the piece")
    page.keyboard.press("KeyV")
    expect(word(page, "Good")).to_have_count(0)
    page.get_by_role("button", name=re.compile("^Good morning")).first.click()
    expect(word(page, "Good")).to_have_count(1)
    assert talk(page)[0] == "Good"
