"""One video from drop to delivery, as a person does it, over a restart of the server."""

import json
import re
from pathlib import Path

import av
import httpx
import numpy as np
import pytest
from av.video.reformatter import VideoReformatter
from playwright.sync_api import Page, expect

from mortiser.core.scene import build_scene
from mortiser.core.style.finish.model import Finish
from mortiser.core.transcript.words import Cue, Shown
from mortiser.fonts import font_book
from mortiser.media.picture import turned
from mortiser.paint.painter import area_of, paint
from mortiser.paint.state import state_at
from mortiser.render.blend import inks_of, lay, veil
from tests.e2e.pages import project_of
from tests.recordings import small_demo
from tests.serving import Server, wait_delivered, wait_for_job


def drop(page: Page, *files: Path) -> None:
    page.get_by_label("Recordings", exact=True).set_input_files(list(files))


def caption(page: Page, text: str):
    return page.get_by_role("textbox", name=f"Caption: {text}", exact=False).first


def find_name(view: dict) -> tuple[dict, dict]:
    for cue in view["cues"]:
        for word in cue["words"]:
            if word["text"].startswith("Marl"):
                return cue, word
    raise AssertionError("the name was not heard at all")


def scroll_to(page: Page, text: str) -> None:
    box = page.get_by_label("Strip").locator("div.overflow-y-auto")
    for _ in range(40):
        if caption(page, text).count():
            return
        box.evaluate("(e) => e.scrollBy(0, 300)")
        page.wait_for_timeout(60)
    raise AssertionError(f"no caption {text!r} on the Strip")


def test_from_drop_to_delivery(page: Page, server: Server, tmp_path: Path) -> None:
    clip = small_demo(tmp_path / "kettle.mp4", 23.0)
    page.goto(server.address)
    drop(page, clip)
    page.wait_for_url("**/projects/*")
    project = project_of(page)
    # Lines stand on the Strip before all has been heard.
    expect(page.locator("[data-cue-text]").first).to_be_visible(timeout=15_000)
    client = server.client()
    # The second hearing changes words by itself.
    for kind in ("transcribe", "doubt", "speakers"):
        wait_for_job(client, project, kind)
    expect(page.get_by_role("button", name="Gather")).to_contain_text("1 recording")

    view = client.get(f"/api/projects/{project}").json()
    cue, word = find_name(view)
    old = " ".join(w["text"] for w in cue["words"])
    new = old.replace(word["text"], "Marla")
    scroll_to(page, old)
    caption(page, old).click()
    page.keyboard.press("Control+A")
    page.keyboard.type(new)
    page.keyboard.press("Escape")
    expect(caption(page, old)).to_be_visible()
    caption(page, old).click()
    page.keyboard.press("Control+A")
    page.keyboard.type(new)
    page.get_by_label("Preview", exact=True).click(position={"x": 5, "y": 5})
    expect(page.get_by_role("button", name="Undo: retype “Marla”")).to_be_visible()
    expect(caption(page, new)).to_be_visible()
    after = client.get(f"/api/projects/{project}").json()
    corrected = next(c for c in after["cues"] if c["id"] == cue["id"])
    times = [(w["start_us"], w["end_us"]) for w in cue["words"]]
    assert [(w["start_us"], w["end_us"]) for w in corrected["words"]] == times

    start = page.get_by_label("Caption start")
    moved = cue["start_us"] + 90_000
    start.fill(f"{moved / 1e6:.3f}")
    start.press("Enter")
    expect(page.get_by_role("button", name="Undo: set caption start")).to_be_visible()
    expect(page.get_by_role("button", name="unpin")).to_be_visible()
    page.get_by_role("button", name="Undo: set caption start").click()
    expect(page.get_by_role("button", name="Undo: retype “Marla”")).to_be_visible()

    server.stop()
    server.start()
    page.goto(f"{server.address}/projects/{project}")
    page.get_by_label("Redo: set caption start").click()
    expect(page.get_by_role("button", name="Undo: set caption start")).to_be_visible()
    state = client.get(f"/api/projects/{project}").json()
    pinned = next(c for c in state["cues"] if c["id"] == cue["id"])
    assert (pinned["start_us"], pinned["start_pinned"]) == (round(moved, -3), True)

    page.get_by_role("button", name="Deliver", exact=False).first.click()
    page.get_by_role("button", name="Deliver this piece").click()
    expect(page.get_by_role("progressbar", name=re.compile(r"^Making .*\.mp4"))).to_be_visible(
        timeout=10_000
    )
    wait_delivered(client, project)
    with page.expect_download() as video_download:
        page.get_by_role("link", name=re.compile(r"\.mp4")).first.click()
    with page.expect_download() as file_download:
        page.get_by_role("link", name=re.compile(r"\.vtt")).click()
    video, captions = tmp_path / "out.mp4", tmp_path / "out.vtt"
    video_download.value.save_as(video)
    file_download.value.save_as(captions)
    assert video_download.value.suggested_filename == "kettle.mp4"
    assert "Marla" in captions.read_text()
    assert word["text"] not in captions.read_text()
    check_frame(clip, video, state, pinned)


def check_frame(clip: Path, video: Path, view: dict, cue: dict) -> None:
    """A delivered frame is the recording's frame with the corrected caption painted on it."""
    at_us = (cue["start_us"] + cue["end_us"]) // 2
    burned, source = frame_at(video, at_us), frame_at(clip, at_us)
    assert burned.time == source.time
    words = tuple(Shown(w["text"], w["start_us"], w["end_us"]) for w in cue["words"])
    differences = []
    for texts in (words, tuple(Shown("Marlowe", w.start_us, w.end_us) for w in words)):
        scene = build_scene(
            [Cue(1, texts, cue["start_us"], cue["end_us"])],
            Finish.model_validate_json(json.dumps(view["pieces"][0]["finish"])),
            (360, 640),
            font_book(),
        )
        frame = turned(frame_at(clip, at_us))
        frame.make_writable()
        state = state_at(scene, round(source.time * 1e6))
        area = area_of(state, 1080, 1920)
        lay(frame, veil(paint(state, area, inks_of(frame)), area, VideoReformatter()))
        left, top, right, bottom = area
        pair = [
            f.to_ndarray(format="gray")[top:bottom, left:right].astype(int) for f in (burned, frame)
        ]
        differences.append(float(np.abs(pair[0] - pair[1]).mean()))
    assert differences[0] < 3
    assert differences[1] > 3 * differences[0]


def frame_at(path: Path, at_us: int) -> av.VideoFrame:
    with av.open(str(path)) as reading:
        reading.seek(at_us)
        for frame in reading.decode(video=0):
            if frame.time * 1e6 >= at_us - 1:
                return frame
    raise AssertionError("no such frame")


def test_the_browser_reads_the_captions_of_a_delivery(
    page: Page, server: Server, tmp_path: Path
) -> None:
    """Chromium's own WebVTT parser sees every caption with its times."""
    client = server.client()
    card = client.get("/api/projects").json()[-1]
    view = client.get(f"/api/projects/{card['id']}").json()
    page.goto(server.address)
    found = page.evaluate(
        """async (piece) => {
          const video = document.createElement("video");
          const track = document.createElement("track");
          track.src = `/api/pieces/${piece}/captions.vtt`;
          track.default = true;
          video.append(track);
          document.body.append(video);
          track.track.mode = "hidden";
          await new Promise((done, failed) => { track.onload = done; track.onerror = failed; });
          return [...track.track.cues].map((c) => [c.startTime, c.endTime, c.text]);
        }""",
        view["pieces"][0]["id"],
    )
    cues = [cue for cue in view["cues"] if cue["piece_id"] == view["pieces"][0]["id"]]
    assert found
    for (start, end, text), cue in zip(found, cues, strict=True):
        assert start == pytest.approx(cue["start_us"] / 1e6, abs=0.0006)
        assert end == pytest.approx(cue["end_us"] / 1e6, abs=0.0006)
        assert text.split() == [w["text"] for w in cue["words"]]


def test_the_server_is_only_asked_for_what_it_has(server: Server) -> None:
    with httpx.Client(base_url=server.address) as client:
        assert client.get("/assets/nothing.js").status_code == 404
