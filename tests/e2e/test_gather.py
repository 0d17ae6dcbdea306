"""Words that come another way than by the first hearing, on the page."""

import re
from collections.abc import Iterator
from pathlib import Path

import pytest
from playwright.sync_api import Page, expect

from tests.e2e.pages import project_of, texts, undo_all, until
from tests.recordings import make_sound
from tests.serving import Server

SRT = "1\n0:00:00,400 --> 00:00:02,000\nGood morning all\n\n2\n00:00:02,200 --> 00:00:03,000\nwe mend\n"


@pytest.fixture
def gather(bench: Page) -> Iterator[Page]:
    bench.get_by_role("button", name="Gather").click()
    yield bench
    undo_all(bench)


def test_a_caption_file_takes_the_captions_place_and_says_what_it_repaired(
    gather: Page, tmp_path: Path
) -> None:
    before = texts(gather)
    file = tmp_path / "kettle.srt"
    file.write_text(SRT)
    gather.get_by_label("Caption file", exact=True).set_input_files(file)
    expect(gather.get_by_role("dialog")).to_contain_text("Good morning all")
    gather.get_by_role("button", name="Take it in").click()
    expect(gather.get_by_role("button", name="Undo: import captions")).to_be_visible()
    assert texts(gather) == ["Good morning all", "we mend"]
    expect(gather.get_by_text("read as 0.400 s")).to_be_visible()
    gather.locator("[data-cue-text]").first.click()
    expect(gather.get_by_label("Caption start")).to_have_value("0:00.400")
    expect(gather.get_by_role("button", name="unpin")).to_be_visible()
    gather.get_by_role("button", name="Undo: import captions").click()
    expect(gather.locator("[data-cue-text]")).to_have_count(len(before))
    assert texts(gather) == before
    file.write_bytes(b"\x00\x01\x02" * 400)
    gather.get_by_label("Caption file", exact=True).set_input_files(file)
    expect(gather.get_by_role("alert")).to_contain_text("no text")


def test_a_script_is_laid_over_the_sound_and_differences_are_shown(gather: Page) -> None:
    gather.get_by_role("button", name="Script or lyrics …").click()
    gather.get_by_label("Script or lyrics").fill(
        "Good morning from Lantern Lane,\nwhere we mend things.\nToday, um, this kettle came in stone cold."
    )
    gather.get_by_role("button", name="Lay over the sound").click()
    expect(gather.get_by_role("button", name="Undo: follow the script")).to_be_visible()
    assert texts(gather)[:2] == ["Good morning from Lantern Lane,", "where we mend things."]
    expect(gather.get_by_text("Where script and sound differ")).to_be_visible()
    expect(gather.get_by_text("Not in the script: “Nine times").first).to_be_visible()


def test_a_range_is_heard_again_and_a_bad_one_refused(gather: Page) -> None:
    before = texts(gather)
    gather.get_by_role("button", name="Hear all or a stretch again").click()
    gather.get_by_label("From", exact=True).fill("2:00")
    gather.get_by_role("button", name="Hear it", exact=True).click()
    expect(gather.get_by_role("alert")).to_contain_text("range has no length")
    gather.get_by_label("From", exact=True).fill("3.9")
    gather.get_by_label("To", exact=True).fill("0:06.9")
    gather.get_by_role("button", name="Hear it", exact=True).click()
    expect(gather.get_by_role("button", name="Undo: hear 00:03 to 00:06 again")).to_be_visible(
        timeout=60_000
    )
    assert texts(gather)[:4] == before[:4]


def test_captions_are_tapped_while_listening(gather: Page) -> None:
    gather.locator("[data-cue-text]").nth(2).click()
    gather.keyboard.press("Escape")
    gather.get_by_label("Hand is late, ms").fill("100")
    gather.get_by_role("button", name="Start tapping").click()
    until(gather, "document.querySelector('video').currentTime > 2.3")
    expect(gather.get_by_role("status").filter(has_text="0 tapped")).to_be_visible()
    for _ in range(2):
        gather.keyboard.press("t")
        gather.wait_for_timeout(500)
    gather.keyboard.press("Escape")
    expect(gather.get_by_role("button", name="Undo: tap 2 captions")).to_be_visible()
    assert gather.evaluate("document.querySelector('video').paused")
    starts = [gather.locator("[data-cue-text]").nth(i) for i in (2, 3)]
    assert all(box.inner_text() for box in starts)


def test_a_recording_dropped_with_its_captions_is_not_transcribed(
    page: Page, server: Server, tmp_path: Path
) -> None:
    sound = make_sound(tmp_path / "song.ogg", "libopus", 4.0)
    words = tmp_path / "song.en.vtt"
    words.write_text("WEBVTT\n\n00:01.000 --> 00:02.000\n<v Ada>La la\n")
    page.goto(server.address)
    page.get_by_text("Language, sound track, range").click()
    expect(page.get_by_label("Language spoken")).to_have_text("Find it out")
    page.get_by_label("Recordings", exact=True).set_input_files([sound, words])
    page.wait_for_url("**/projects/*")
    expect(page.locator("[data-cue-text]")).to_have_text(["La la"])
    expect(page.get_by_label("Strip").get_by_text("Ada")).to_be_visible()
    with server.client() as client:
        project = project_of(page)
        kinds = {j["kind"] for j in client.get(f"/api/projects/{project}").json()["jobs"]}
        assert kinds == {"prepare", "import"}
        client.delete(f"/api/projects/{project}")


def test_a_caption_file_alone_is_refused_on_the_start_page(
    page: Page, server: Server, tmp_path: Path
) -> None:
    words = tmp_path / "lonely.srt"
    words.write_text(SRT)
    page.goto(server.address)
    page.get_by_label("Recordings", exact=True).set_input_files([words])
    expect(page.get_by_role("alert")).to_contain_text("belongs to a recording")


def test_the_encoding_of_a_file_is_seen_and_chosen(gather: Page, tmp_path: Path) -> None:
    file = tmp_path / "old.srt"
    text = "1\n00:00:00,400 --> 00:00:02,000\nBuenos días, señor Kettle\n"
    file.write_bytes(text.encode("cp1252"))
    gather.get_by_label("Caption file", exact=True).set_input_files(file)
    dialog = gather.get_by_role("dialog")
    expect(dialog).to_contain_text("Buenos días, señor Kettle")
    expect(dialog).to_contain_text("a guess: check it")
    dialog.get_by_role("combobox", name="Encoding").click()
    gather.get_by_role("option", name="Central European (Windows-1250)").click()
    expect(dialog).to_contain_text("seńor")
    gather.get_by_role("button", name="Leave it").click()
    expect(dialog).to_have_count(0)
    expect(gather.get_by_role("button", name="Undo: import")).to_have_count(0)


def test_a_song_its_cover_and_its_words_are_dropped_together(
    page: Page, server: Server, tmp_path: Path
) -> None:
    words = tmp_path / "song.txt"
    words.write_text("Lantern Lane, oh Lantern Lane,\nmend the kettle, mend the chair.\n")
    song = tmp_path / "song.m4a"
    song.write_bytes(Path("src/mortiser/demo/media/lyric.m4a").read_bytes())
    page.goto(server.address)
    page.get_by_label("Recordings", exact=True).set_input_files(
        [song, words, "src/mortiser/demo/media/lantern.svg"]
    )
    expect(page.locator("[data-cue-text]").first).to_have_text(
        re.compile("Lantern Lane, oh Lantern Lane,"), timeout=60_000
    )
    page.get_by_role("button", name=re.compile("^Frame")).click()
    expect(page.get_by_role("button", name=re.compile("^Wide 16:9"), pressed=True)).to_be_visible()
    page.get_by_role("tab", name="Layers").click()
    expect(page.get_by_role("list", name="Layers")).to_contain_text("lantern.svg")
    until(page, "document.querySelector('video').src.startsWith('blob:')")
    until(
        page,
        "document.querySelector('video').videoWidth > document.querySelector('video').videoHeight",
    )
