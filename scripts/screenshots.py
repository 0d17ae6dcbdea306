"""Take the README's screenshots from the demo data: ``python -m scripts.screenshots ADDRESS``.

ADDRESS is a running ``make demo``. Pictures go to docs/screenshots.
"""

from __future__ import annotations

import sys
from pathlib import Path

from playwright.sync_api import Page, sync_playwright

OUT = Path("docs/screenshots")
ARGUMENTS = ["--no-sandbox", "--no-first-run", "--disable-background-networking"]


def _trim(page: Page) -> None:
    """A sentence said again is struck; taken back, since the other pictures show the whole talk."""
    page.keyboard.press("Shift+Digit3")
    page.locator("[data-talk]").first.wait_for()
    page.locator("span[data-talk]").filter(has_text="Nine").first.click()
    page.keyboard.press("Shift+ArrowDown")
    page.keyboard.press("Shift+ArrowLeft")
    page.keyboard.press("Delete")
    page.locator(".struck[data-talk]").first.wait_for()
    page.wait_for_timeout(2_500)
    page.screenshot(path=OUT / "trim.png")
    _cuts(page)
    page.keyboard.press("Shift+Digit3")
    page.locator("[data-talk]").first.wait_for()
    page.keyboard.press("Control+z")
    page.locator(".struck[data-talk]").first.wait_for(state="detached")
    _takes(page)


def _takes(page: Page) -> None:
    """A piece of a passage, with the way on, and takes of the same words from both recordings."""
    page.keyboard.press("v")
    page.get_by_role("button", name="Piece: It is the fuse").wait_for()
    takes = page.get_by_role("button", name="Takes of the same words")
    takes.click()
    page.get_by_role("button", name="Use this one").first.wait_for()
    takes.evaluate("(button) => button.scrollIntoView({ block: 'start' })")
    page.wait_for_timeout(2_500)
    page.screenshot(path=OUT / "takes.png")
    page.keyboard.press("Shift+v")
    page.get_by_role("button", name="Piece: The cold kettle").wait_for()


def _frame(page: Page) -> None:
    """A piece in another shape, its layers and guide; all its shapes beside one another."""
    page.keyboard.press("v")
    page.get_by_role("button", name="Piece: It is the fuse").wait_for()
    page.keyboard.press("Shift+Digit6")
    page.get_by_role("button", name="Square 1:1").first.click()
    faces = page.locator("text=the face stays where you put it")
    faces.wait_for(timeout=120_000)
    page.wait_for_timeout(3_000)
    page.locator("#tray").evaluate("(tray) => tray.scrollTo(0, 0)")
    page.screenshot(path=OUT / "frame.png")
    page.get_by_role("button", name="See all").click()
    play = page.get_by_role("dialog").get_by_role("button", name="Play")
    page.wait_for_timeout(2_500)
    play.click()
    page.wait_for_timeout(3_000)
    page.screenshot(path=OUT / "shapes.png")
    page.get_by_role("button", name="Close").click()
    page.keyboard.press("Shift+v")
    page.get_by_role("button", name="Piece: The cold kettle").wait_for()


def _cuts(page: Page) -> None:
    """How clips go over into each other; taken back, since the other pictures show plain cuts."""
    page.keyboard.press("Shift+Digit6")
    page.get_by_role("tab", name="Cuts").click()
    page.get_by_role("radio", name="Every cut").click()
    kinds = page.get_by_role("radiogroup", name="Transition between clips")
    kinds.get_by_role("radio", name="Push").click()
    page.get_by_role("list", name="Cuts").get_by_role("button").first.click()
    page.get_by_role("heading", name="Between clips").evaluate(
        "(heading) => heading.scrollIntoView({ block: 'start' })"
    )
    page.wait_for_timeout(1_350)
    page.keyboard.press("Space")
    page.wait_for_timeout(2_500)
    page.screenshot(path=OUT / "cuts.png")
    while page.get_by_role("button", name="Undo: push").count():
        page.get_by_role("button", name="Undo: push").click()
        page.wait_for_timeout(600)
    page.get_by_role("button", name="Undo: dissolve").click()
    page.wait_for_timeout(600)
    page.get_by_role("tab", name="Picture").click()


def take(page: Page, address: str) -> None:
    """Visit each main view and keep a picture of it."""
    page.goto(address)
    page.get_by_text("The cold kettle").first.wait_for()
    page.wait_for_timeout(800)
    page.screenshot(path=OUT / "start.png")
    page.get_by_label("Open The cold kettle").click()
    page.locator("[data-cue-text]").nth(3).wait_for()
    page.wait_for_timeout(1_500)
    word = page.get_by_text("element.", exact=True).first
    word.scroll_into_view_if_needed()
    word.click()
    page.keyboard.press("Escape")
    for _ in range(4):
        page.keyboard.press("ArrowRight")
        page.wait_for_timeout(150)
    page.wait_for_timeout(700)
    for stage in ("Gather", "Proof", "Pace", "Dress", "Deliver"):
        page.get_by_role("button", name=stage, exact=False).first.click()
        page.wait_for_timeout(900)
        if stage == "Dress":
            page.keyboard.press("2")
            page.wait_for_timeout(2_500)
        page.screenshot(path=OUT / f"{stage.lower()}.png")
        if stage == "Dress":
            page.get_by_role("tab", name="Accents").click()
            page.wait_for_timeout(1_200)
            page.screenshot(path=OUT / "accents.png")
            _legible(page)
    _trim(page)
    _frame(page)
    page.get_by_role("button", name="Proof", exact=False).first.click()
    page.get_by_role("tab", name="Glossary").click()
    for name, heard in (("Marlo", ""), ("Lantern Lane", ""), ("Tamsin Hollis", "tams in")):
        if page.get_by_label(f"Change {name}").count():
            continue
        page.get_by_label("Written", exact=True).fill(name)
        page.get_by_label("Heard as").fill(heard)
        page.get_by_role("button", name="Add and apply").click()
        page.get_by_label(f"Change {name}").wait_for()
    changed = page.locator("s").first
    # The second listening may have heard the names right by itself.
    if changed.count():
        changed.click()
        page.keyboard.press("k")
    page.wait_for_timeout(5_000)
    page.screenshot(path=OUT / "glossary.png")
    page.goto(address)
    page.get_by_label("Open At the counter").click()
    page.get_by_role("tab", name="Speakers").click()
    page.get_by_label("Name of Speaker 1").fill("Odalys")
    page.get_by_label("Name of Speaker 1").press("Enter")
    page.get_by_role("checkbox", name="Names in captions and files").click()
    page.locator("[data-cue-text]").nth(3).click()
    page.wait_for_timeout(1_500)
    page.screenshot(path=OUT / "speakers.png")
    _song(page, address)


def _song(page: Page, address: str) -> None:
    """A song beside its cover, with its waveform."""
    page.goto(address)
    page.get_by_label("Open Lantern Lane lyric").click()
    page.locator("[data-cue-text]").nth(2).wait_for()
    page.keyboard.press("Shift+Digit6")
    page.get_by_role("tab", name="Layers").click()
    page.get_by_role("button", name="Waveform", exact=True).last.click()
    page.locator("[data-row-cue]").nth(1).click(position={"x": 30, "y": 12})
    page.wait_for_timeout(1_500)
    for _ in range(8):
        page.keyboard.press("ArrowRight")
        page.wait_for_timeout(150)
    page.wait_for_timeout(2_000)
    page.screenshot(path=OUT / "song.png")


def _legible(page: Page) -> None:
    """Pale letters with nothing around them, on the shop's pale wall."""
    number = int(page.url.partition("?")[0].rsplit("/", 1)[-1])
    project = page.request.get(f"/api/projects/{number}").json()
    pale = [232, 214, 176, 255]
    changes = {"ahead": pale, "live": [255, 236, 196, 255], "past": pale, "outlines": [],
               "shadow": None, "plank": None}  # fmt: skip
    edit = {
        "kind": "change_finish",
        "piece_id": project["pieces"][0]["id"],
        "changes": changes,
    }
    body = {"base_revision": project["revision"], "edit": edit}
    page.request.post(f"/api/projects/{number}/edits", data=body)
    page.get_by_role("tab", name="Legible").click()
    page.get_by_text("Help all with").wait_for()
    page.wait_for_timeout(500)
    page.screenshot(path=OUT / "legible.png")
    page.keyboard.press("Control+z")
    page.wait_for_timeout(800)


def main() -> None:
    """Open the browser and take them all."""
    OUT.mkdir(parents=True, exist_ok=True)
    with sync_playwright() as playwright:
        browser = playwright.chromium.launch(
            executable_path="/usr/bin/chromium-headless-shell", args=ARGUMENTS
        )
        size = {"width": 1280, "height": 800}
        take(browser.new_page(viewport=size, base_url=sys.argv[1]), sys.argv[1])
        browser.close()


if __name__ == "__main__":
    main()
