"""A piece of several clips plays as one video: its picture, its captions, its moments."""

from collections.abc import Iterator
from pathlib import Path

import pytest
from playwright.sync_api import Page, expect

from mortiser.core.editing.timeline import Clip
from mortiser.store.database import Database
from tests.e2e.conftest import bring_in, wait_for_job, workbench
from tests.e2e.pages import undo_all, until
from tests.recordings import small_demo
from tests.serving import Server
from tests.store.fixtures import cut

SECOND = 1_000_000
CLIPS = [(5_000_000, 7_500_000), (0, 3_200_000), (7_500_000, 9_000_000)]
LENGTH_S = 7.2


@pytest.fixture(scope="module")
def short(server: Server, workspace: Path, tmp_path_factory: pytest.TempPathFactory) -> int:
    """A project whose piece is three clips of its recording, out of order."""
    file = small_demo(tmp_path_factory.mktemp("cut") / "cut.mp4", 9.5)
    with server.client() as client:
        view = bring_in(client, file, "Cut kettle.mp4")
        for kind in ("transcribe", "prepare", "speakers"):
            wait_for_job(client, view["id"], kind)
    database = Database(workspace / "mortiser.db")
    source = view["sources"][0]["id"]
    cut(database, view["pieces"][0]["id"], [Clip(source, a, b) for a, b in CLIPS])
    database.close()
    return int(view["id"])


@pytest.fixture
def bench(page: Page, server: Server, short: int) -> Iterator[Page]:
    with workbench(page, server, short) as opened:
        yield opened


def buffered(page: Page) -> list[list[float]]:
    found: list[list[float]] = page.evaluate(
        "(() => { const b = document.querySelector('video').buffered; return "
        "[...Array(b.length).keys()].map((i) => [b.start(i), b.end(i)]); })()"
    )
    return found


def test_the_piece_is_one_video_of_its_own_length(bench: Page) -> None:
    until(bench, f"Math.abs(document.querySelector('video').duration - {LENGTH_S}) < 0.05")
    until(
        bench,
        "(() => { const b = document.querySelector('video').buffered; return b.length === 1 && "
        f"b.start(0) < 0.05 && b.end(0) > {LENGTH_S - 0.1}; }})()",
    )
    assert len(buffered(bench)) == 1


def test_it_plays_over_the_cuts_without_a_stop(bench: Page) -> None:
    until(bench, f"document.querySelector('video').buffered.end(0) > {LENGTH_S - 0.1}")
    times = bench.evaluate(
        """async () => {
          const video = document.querySelector('video');
          video.muted = true;
          video.currentTime = 1.8;
          video.playbackRate = 0.25;  // A busy machine drops frames, yet not so many.
          await new Promise((done) => video.addEventListener('seeked', done, { once: true }));
          const seen = [];
          const note = (_, frame) => {
            seen.push(frame.mediaTime);
            video.requestVideoFrameCallback(note);
          };
          video.requestVideoFrameCallback(note);
          let stalled = 0;
          video.addEventListener('waiting', () => { stalled += 1; });
          await video.play();
          while (video.currentTime < 3.4) await new Promise((done) => setTimeout(done, 20));
          video.pause();
          return { seen, stalled };
        }"""
    )
    assert times["stalled"] == 0
    over = [at for at in times["seen"] if 2.3 < at < 2.7]
    assert over == sorted(over)
    assert len(over) >= 5


def test_it_ends_rests_on_its_last_frame_and_begins_again(bench: Page) -> None:
    until(bench, f"document.querySelector('video').buffered.end(0) > {LENGTH_S - 0.1}")
    bench.evaluate(
        "(at) => { const v = document.querySelector('video'); v.muted = true; v.currentTime = at; }",
        LENGTH_S - 0.6,
    )
    until(bench, "!document.querySelector('video').seeking")
    bench.keyboard.press("Space")
    until(bench, "document.querySelector('video').ended")
    expect(bench.get_by_role("button", name="Play", exact=True)).to_be_visible()
    assert abs(bench.evaluate("document.querySelector('video').currentTime") - LENGTH_S) < 0.1
    assert bench.evaluate("document.querySelector('video').readyState") >= 2
    bench.keyboard.press("Space")
    until(
        bench,
        "(() => { const v = document.querySelector('video'); return !v.paused && v.currentTime < 3; })()",
    )
    until(bench, "document.querySelector('video').currentTime > 0.2")
    bench.keyboard.press("Space")


def test_a_cut_that_leaves_less_than_a_frame_at_the_end_ends_too(
    bench: Page, server: Server, short: int, workspace: Path
) -> None:
    with server.client() as client:
        view = client.get(f"/api/projects/{short}").json()
        talk = client.get(f"/api/pieces/{view['pieces'][0]['id']}/talk").json()
        last = talk["clips"][-1]
        move = {"kind": "move_cut", "piece_id": view["pieces"][0]["id"], "clip_id": last["id"]}
        length = (CLIPS[0][1] - CLIPS[0][0] + CLIPS[1][1] - CLIPS[1][0]) % 2_000_000
        edge = last["start_us"] + 2_000_000 - length + 10_000
        edit = move | {"edge": "end", "to_us": edge}
        sent = {"base_revision": view["revision"], "edit": edit}
        assert client.post(f"/api/projects/{short}/edits", json=sent).is_success
    bench.reload()
    until(bench, "(document.querySelector('video')?.readyState ?? 0) >= 2")
    whole = bench.evaluate("document.querySelector('video').duration")
    bench.evaluate(
        "(at) => { const v = document.querySelector('video'); v.muted = true; v.currentTime = at; v.play(); }",
        whole - 0.6,
    )
    until(bench, "document.querySelector('video').ended")
    undo_all(bench)


def test_the_caption_painted_is_that_of_the_clip_that_plays(bench: Page) -> None:
    first = bench.locator("[data-cue-text]").first.inner_text()
    spoken = bench.evaluate(
        "fetch(location.pathname.replace('/projects', '/api/projects')).then((a) => a.json())"
        ".then((p) => p.cues.map((c) => [c.start_us, c.words.map((w) => w.text).join(' ')]))"
    )
    assert spoken[0][1] == first.strip()
    good = next(at for at, text in spoken if text.startswith("Good"))
    assert good == pytest.approx(2.5 * SECOND, abs=900_000), "what opens the recording comes later"
    bench.locator("[data-cue-text]").filter(has_text="Good").first.click()
    until(
        bench,
        "(at) => Math.abs(document.querySelector('video').currentTime - at) < 1.2",
        good / SECOND,
    )
    # In its middle it stands, whatever finish a new project gets.
    bench.evaluate(
        "(at) => { document.querySelector('video').currentTime = at; }", good / SECOND + 0.3
    )
    until(
        bench,
        "(() => { const c = document.querySelector('[data-testid=scene]'); return c.getContext('2d')"
        ".getImageData(0, 0, c.width, c.height).data.some((v, i) => i % 4 === 3 && v > 100); })()",
    )
