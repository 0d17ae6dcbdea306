"""From the last key of a correction to the corrected captions on the page, on 10,000 words.

A real server, a real Chromium; the clock stands in the page and stops when the caption has been drawn
anew from the server's answer and the preview has been told.
"""

from __future__ import annotations

import tempfile
from collections.abc import Iterator
from contextlib import contextmanager
from pathlib import Path

import numpy as np
from playwright.sync_api import sync_playwright
from tests.recordings import KETTLE
from tests.serving import Server, bring_in, wait_for_job

from bench.report import at_most
from mortiser.core.transcript.words import Word
from mortiser.store import projects, transcript
from mortiser.store.database import Database

WORDS = 10_000
EDITS = 24
MEASURE = """async ([id, text]) => {
  const box = document.querySelector(`[data-cue-text="${id}"]`);
  box.focus();
  getSelection().selectAllChildren(box);
  document.execCommand("insertText", false, text);
  const shown = new Promise((done) => {
    const look = new MutationObserver(() => {
      const now = document.querySelector(`[data-cue-text="${id}"]`);
      if (now && now !== box && now.textContent.trim() === text) { look.disconnect(); done(); }
    });
    look.observe(document.body, { childList: true, subtree: true, characterData: true });
  });
  const start = performance.now();
  box.blur();
  await shown;
  await new Promise(requestAnimationFrame);
  return performance.now() - start;
}"""


def run() -> None:
    """Print how long a correction takes to be seen."""
    with long_project() as (server, project):
        took = edits(server, project)
    at_most(
        "correction on the screen, 95 %",
        float(np.percentile(took, 95)),
        "ms",
        100,
        f"{EDITS} corrections in {WORDS} words, median {np.median(took):.0f} ms",
    )


@contextmanager
def long_project() -> Iterator[tuple[Server, int]]:
    """A server with a project of WORDS words."""
    with tempfile.TemporaryDirectory() as folder:
        server = Server(Path(folder) / "w")
        try:
            with server.client() as client:
                view = bring_in(client, KETTLE)
                wait_for_job(client, view["id"], "doubt")
            fill(server.workspace / "mortiser.db", view)
            yield server, view["id"]
        finally:
            server.stop()


def fill(file: Path, view: dict[str, object]) -> None:
    """Pile words onto the piece until it has WORDS, a sentence at a time."""
    database = Database(file)
    piece = projects.pieces(database.connection, int(str(view["id"])))[0]
    words = transcript.source_words(database.connection, piece.source_id)
    with database.transaction() as db:
        db.execute("UPDATE source SET duration_us = 4000000000")
        db.execute("UPDATE strand SET end_us = 4000000000")
        db.execute("UPDATE clip SET end_us = 4000000000")
    at = words[-1].end_us
    for _ in range((WORDS - len(words)) // 10):
        texts = ["Nine", "times", "out", "of", "ten", "it", "is", "only", "the", "fuse."]
        line = [Word(t, at + i * 300_000, at + i * 300_000 + 250_000) for i, t in enumerate(texts)]
        transcript.append_line(database, piece.source_id, line)
        at += 3_600_000
    database.close()


def edits(server: Server, project: int) -> list[float]:
    """Milliseconds of each correction."""
    with sync_playwright() as play:
        browser = play.chromium.launch(
            executable_path="/usr/bin/chromium-headless-shell",
            args=["--no-sandbox", "--disable-gpu"],
        )
        page = browser.new_page(viewport={"width": 1280, "height": 800})
        page.goto(f"{server.address}/projects/{project}")
        page.wait_for_selector("[data-cue-text]")
        page.wait_for_timeout(1_500)
        ids = page.eval_on_selector_all("[data-cue-text]", "all => all.map(e => e.dataset.cueText)")
        took: list[float] = []
        for turn in range(EDITS):
            text = f"corrected number {turn} here"
            took.append(float(page.evaluate(MEASURE, [ids[turn % 8], text])))
            page.wait_for_timeout(250)
        browser.close()
    return took


if __name__ == "__main__":
    run()
