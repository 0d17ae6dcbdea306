"""Films without sound: one opens the piece, and one is seen over words."""

from pathlib import Path

import pytest
from playwright.sync_api import Page, expect

from tests.e2e.pages import project_of, undo_all, until
from tests.e2e.test_cutaways import pick
from tests.e2e.test_frame import view
from tests.recordings import make_video
from tests.serving import Server


@pytest.fixture(scope="module")
def film(tmp_path_factory: pytest.TempPathFactory) -> Path:
    return make_video(tmp_path_factory.mktemp("film") / "door.mp4", seconds=2.0, tracks=0)


def bring(page: Page, film: Path) -> None:
    with page.expect_file_chooser() as chooser:
        page.get_by_role("button", name="Bring in a film").click()
    chooser.value.set_files(film)


def test_a_film_opens_the_piece_and_is_taken_out_again(bench: Page, film: Path) -> None:
    undo_all(bench)
    (before, *_) = view(bench)["pieces"]
    first = view(bench)["cues"][0]["start_us"]
    bench.keyboard.press("Shift+Digit3")
    bring(bench, film)
    listed = bench.get_by_role("list", name="Openings and closings")
    expect(listed.get_by_role("button", name="door.mp4").first).to_be_visible()
    (piece, *_) = view(bench)["pieces"]
    by = piece["duration_us"] - before["duration_us"]
    assert abs(by - 2_000_000) < 50_000
    assert view(bench)["cues"][0]["start_us"] == first + by
    talk = bench.get_by_role("group", name="The talk")
    expect(talk.get_by_text("door.mp4")).to_be_visible()
    listed.get_by_role("button", name="Take door.mp4 out of the piece").click()
    expect(listed).to_be_hidden()
    assert view(bench)["cues"][0]["start_us"] == first
    undo_all(bench)


def test_a_film_is_seen_over_words_at_once(bench: Page, film: Path) -> None:
    undo_all(bench)
    bench.keyboard.press("Shift+Digit6")
    bench.get_by_role("tab", name="Cuts").click()
    pick(bench, 1)
    bring(bench, film)
    listed = bench.get_by_role("list", name="Cutaways")
    expect(listed.get_by_role("button", name="door.mp4").first).to_be_visible()
    cutaways = view(bench)["pieces"][0]["cutaways"]
    assert [one["cutaway"]["seen"]["kind"] for one in cutaways] == ["recording"]
    until(bench, "document.querySelector('video').src.startsWith('blob:')")
    undo_all(bench)


def test_where_a_film_is_named_it_is_offered_and_placed_with_one_press(
    bench: Page, server: Server, tmp_path: Path
) -> None:
    undo_all(bench)
    file = make_video(tmp_path / "kettle close.mp4", seconds=2.0, tracks=0)
    with server.client() as client:
        client.post(
            f"/api/projects/{project_of(bench)}/recordings",
            params={"name": file.name},
            content=file.read_bytes(),
        ).raise_for_status()
    bench.reload()
    expect(bench.locator("[data-cue-text]").first).to_be_visible()
    bench.keyboard.press("Shift+Digit6")
    bench.get_by_role("tab", name="Cuts").click()
    ideas = bench.get_by_role("list", name="Where a cutaway would help")
    expect(ideas).to_contain_text("“kettle” is said")
    ideas.get_by_role("button", name="Show kettle close.mp4").click()
    listed = bench.get_by_role("list", name="Cutaways")
    expect(listed.get_by_role("button", name="kettle close.mp4").first).to_be_visible()
    expect(ideas.get_by_role("button", name="Show kettle close.mp4")).to_have_count(0)
    (shown,) = view(bench)["pieces"][0]["cutaways"]
    said = [word["text"] for cue in view(bench)["cues"] for word in cue["words"]
            if shown["lies"][0]["start_us"] <= word["start_us"] < shown["lies"][0]["end_us"]]  # fmt: skip
    assert any("kettle" in text.lower() for text in said)
    undo_all(bench)
