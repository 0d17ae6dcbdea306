"""Grouping, timing and what the checks find; how smoothly the Strip is scrolled and captions dragged."""

from __future__ import annotations

import itertools
import json
import re
import time
from collections import Counter
from importlib.resources import files
from pathlib import Path

from playwright.sync_api import Page, sync_playwright

from bench.report import at_least, at_most
from bench.screen import WORDS, long_project
from mortiser.core.captions.checks import check
from mortiser.core.captions.cue_timing import retime, untimed_cue
from mortiser.core.captions.grouping import SHORT_PAUSE_US, group
from mortiser.core.captions.pace import PACES, Pace
from mortiser.core.common.frames import Frames
from mortiser.core.editing.timeline import Clip, Timeline
from mortiser.core.transcript.sentences import ends_clause, ends_sentence
from mortiser.core.transcript.words import Cue, Shown

HOUR_US = 3_600_000_000
CLIPS = ("kettle", "counter", "lyric")
FRAMES = Frames(30.0)
MATTERS = ("flicker", "overlap", "late", "early")
TURNS = 5
SMOOTH = """async ([step, seconds]) => {
  const times = [];
  const end = performance.now() + seconds * 1000;
  for (let turn = 0; performance.now() < end; turn += 1) {
    step = typeof step === "string" ? eval(step) : step;
    step(turn);
    times.push(await new Promise(requestAnimationFrame));
  }
  return times;
}"""
SCROLL = """(turn) => {
  const box = document.querySelector("section[aria-label=Strip] .overflow-y-auto");
  box.scrollTop = (turn * 37) % (box.scrollHeight - box.clientHeight);
}"""
DRAG = """(turn) => {
  const edge = window.edge ??= document.querySelector("[data-block] [data-edge=end]");
  const box = edge.getBoundingClientRect();
  const at = (type, y) => new PointerEvent(type, {
    bubbles: true, button: 0, clientX: box.x + 40, clientY: y, pointerId: 1,
  });
  if (turn === 0) { window.from = box.y; edge.dispatchEvent(at("pointerdown", box.y)); }
  window.dispatchEvent(at("pointermove", window.from + 30 * Math.sin(turn / 9) + 31));
}"""


def run() -> None:
    """Print all of it."""
    clips = {clip: _spoken(clip) for clip in CLIPS}
    clips["an hour of them"] = _repeated(list(clips.values()))
    clips["an hour of prose"] = _prose()
    _speed(clips["an hour of prose"])
    for name, words in clips.items():
        _quality(name, words)
    for name, words in clips.items():
        _breaks(name, words)
    _smoothness()


def _speed(words: list[Shown]) -> None:
    many = list(itertools.islice(itertools.cycle(words), WORDS))
    lap = words[-1].end_us
    many = [
        Shown(w.text, w.start_us + i // len(words) * lap, w.end_us + i // len(words) * lap)
        for i, w in enumerate(many)
    ]
    for name, pace in PACES.items():
        took = min(_milliseconds(many, pace) for _ in range(TURNS))
        started = time.perf_counter()
        _timed(many, pace)
        whole = (time.perf_counter() - started) * 1000
        at_most(
            f"grouping as {name}", took, "ms", 150, f"{WORDS:,} words; with times {whole:.0f} ms"
        )


def _milliseconds(words: list[Shown], pace: Pace) -> float:
    started = time.perf_counter()
    group(words, pace)
    return (time.perf_counter() - started) * 1000


def _timed(words: list[Shown], pace: Pace) -> tuple[list[Cue], Timeline]:
    spans = Timeline([Clip(1, 0, words[-1].end_us + 2_000_000)])
    cues = [untimed_cue(1, words[a:b]) for a, b in group(words, pace)]
    return retime(cues, spans, pace, FRAMES), spans


def _quality(name: str, words: list[Shown]) -> None:
    for title, pace in PACES.items():
        cues, spans = _timed(words, pace)
        kinds = Counter(item.kind for item in check(cues, pace, spans.duration_us, FRAMES))
        wrong = sum(kinds[kind] for kind in MATTERS)
        others = ", ".join(f"{kind} {n}" for kind, n in kinds.items() if kind not in MATTERS)
        reference = f"{len(cues)} captions; also {others or 'nothing'}"
        at_most(f"{name}, {title}: wrong times", wrong, "", 0, reference)


def _breaks(name: str, words: list[Shown]) -> None:
    ranges = group(words, PACES["sentence"])
    ends = [(words[b - 1], words[b]) for _, b in ranges[:-1]]
    good = sum(
        ends_sentence(one.text)
        or ends_clause(one.text)
        or after.start_us - one.end_us >= SHORT_PAUSE_US
        for one, after in ends
    )
    if ends:
        share = 100 * good / len(ends)
        reference = f"{len(ends)} breaks of sentences"
        if "prose" in name:
            reference += "; its clauses are often longer than two lines hold"
        at_least(f"{name}: breaks at clauses", share, "%", 85, reference)


def _smoothness() -> None:
    with long_project() as (server, project), sync_playwright() as play:
        browser = play.chromium.launch(
            executable_path="/usr/bin/chromium-headless-shell",
            args=["--no-sandbox", "--disable-gpu"],
        )
        page = browser.new_page(viewport={"width": 1280, "height": 800})
        page.goto(f"{server.address}/projects/{project}")
        page.wait_for_selector("[data-cue-text]")
        page.wait_for_timeout(2_000)
        smooth(page, "scrolling the Strip of text", SCROLL)
        page.get_by_role("button", name=re.compile("^Pace")).click()
        page.wait_for_selector("[data-block]")
        page.wait_for_timeout(2_500)
        smooth(page, "scrolling at time scale", SCROLL)
        page.evaluate("document.querySelector('[role=listbox]').scrollTop = 0")
        page.wait_for_timeout(500)
        smooth(page, "dragging an edge", DRAG)
        browser.close()


def smooth(page: Page, name: str, step: str) -> None:
    """Print how many frames a second show while a step is made in each."""
    header = page.evaluate("document.querySelector('[aria-label=Strip] header').innerText")
    times = page.evaluate(SMOOTH, [step, 5])
    gaps = sorted(b - a for a, b in itertools.pairwise(times))
    rate = 1000 * len(gaps) / sum(gaps)
    slow = gaps[round(len(gaps) * 0.95)]
    at_least(
        name,
        rate,
        "frames/s",
        50,
        f"{' '.join(header.split())}, {WORDS:,} words; 95 % of frames within {slow:.0f} ms",
    )


def _spoken(clip: str) -> list[Shown]:
    truth = files("mortiser.demo") / "media" / f"{clip}.words.json"
    return [Shown(**word) for word in json.loads(truth.read_text())["words"]]


def _repeated(clips: list[list[Shown]]) -> list[Shown]:
    words: list[Shown] = []
    at = 0
    for clip in itertools.cycle(clips):
        if at > HOUR_US:
            return words
        words += [Shown(w.text, at + w.start_us, at + w.end_us) for w in clip]
        at = words[-1].end_us + 1_000_000
    return words


def _prose() -> list[Shown]:
    """An hour of the licence texts as if read aloud: by their letters, with pauses at marks."""
    text = " ".join(file.read_text() for file in sorted(Path("src/mortiser/fonts").glob("*.txt")))
    words: list[Shown] = []
    at = 0
    for token in itertools.cycle(text.split()):
        if at > HOUR_US:
            return words
        if not any(ch.isalpha() for ch in token) or len(token) > 24:
            continue
        end = at + 70_000 + 55_000 * len(token)
        words.append(Shown(token, at, end))
        pause = 600_000 if ends_sentence(token) else 250_000 if ends_clause(token) else 20_000
        at = end + pause
    return words


if __name__ == "__main__":
    run()
