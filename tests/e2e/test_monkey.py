"""Random keys, clicks, drags and reloads: what was typed is there, nothing else is, all of it undone.

The steps follow from a seed, printed when it fails: ``MORTISER_MONKEY=SEED pytest tests/e2e/test_monkey.py``
plays one again, ``MORTISER_MONKEY_STEPS`` says how many.
"""

from __future__ import annotations

import os
import random
import re
from contextlib import suppress

from playwright.sync_api import Error, Locator, Page, expect

from tests.e2e.pages import undo_all
from tests.e2e.test_hands import boxes, view
from tests.serving import Server

STEPS = int(os.environ.get("MORTISER_MONKEY_STEPS", "120"))
SEED = int(os.environ.get("MORTISER_MONKEY", "20"))
"""The whole of it is 2,000 steps; the test plays fewer, the same every time."""
KEYS = [
    "ArrowDown", "ArrowUp", "ArrowLeft", "ArrowRight", "Home", "End", "Shift+ArrowDown", "w",
    "Shift+W", "r", "k", "o", "k", "[", "]", "Tab", "Shift+Tab", "Escape", "Escape", "b", "g",
    ",", ".", "u", "Control+z", "Control+y", "Shift+Digit2", "Shift+Digit4", "Shift+Digit5",
    "Shift+Digit7", "Shift+Digit2", "t", "?", "F8", "y", "h", "s", "e", "Control+a", "Space",
]  # fmt: skip
STRAY = r"[wWrkogbu,.tshey?@#$%^&\[\]]"
"""What keys leave where they are pressed while text is typed in."""
LETTERS = "bcdfghjklmnpqrstvwxz"


class Monkey:
    """Plays steps on a page and keeps account of what it typed."""

    def __init__(self, page: Page, seed: int) -> None:
        self.page = page
        self.random = random.Random(seed)
        self.typed = 0
        self.steps: list[str] = []

    def word(self) -> str:
        """A word that nobody says, never the same twice."""
        self.typed += 1
        tail = "".join(self.random.choice(LETTERS) for _ in range(4))
        return f"zq{tail}{self.typed}"

    def some(self, found: Locator) -> Locator | None:
        count = found.count()
        return found.nth(self.random.randrange(min(count, 12))) if count else None

    def step(self) -> None:
        name = self.random.choice(
            ["key"] * 8 + ["type"] * 5 + ["caption"] * 3 + ["split", "join", "row", "drag", "button"]
            + ["reload"] * (self.random.random() < 0.25)
        )  # fmt: skip
        self.steps.append(name)
        # What has gone from under the pointer is not clicked.
        with suppress(Error):
            getattr(self, name)()
        self.page.wait_for_timeout(self.random.choice([0, 10, 40, 150]))

    def key(self) -> None:
        key = self.random.choice(KEYS)
        self.steps[-1] = f"key {key}"
        self.page.keyboard.press(key)

    def type(self) -> None:
        """Type a word where the caret is, if it is in a caption; else go into one first."""
        if not self.page.evaluate("document.activeElement.isContentEditable"):
            self.caption()
            if not self.page.evaluate("document.activeElement.isContentEditable"):
                return
        self.page.keyboard.press("End")
        word = self.word()
        self.steps[-1] = f"type {word}"
        self.page.keyboard.type(f" {word}", delay=self.random.choice([0, 0, 8]))
        if self.random.random() < 0.3:
            self.page.keyboard.press("Control+Enter")

    def caption(self) -> None:
        here = self.some(boxes(self.page))
        if here and here.is_visible():
            here.click(timeout=2_000, force=True)

    def split(self) -> None:
        if self.page.evaluate("document.activeElement.isContentEditable"):
            self.page.keyboard.press("Home")
            self.page.keyboard.press("Control+ArrowRight")
            self.page.keyboard.press("Enter")

    def join(self) -> None:
        if self.page.evaluate("document.activeElement.isContentEditable"):
            self.page.keyboard.press("Home")
            self.page.keyboard.press("Backspace")

    def row(self) -> None:
        here = self.some(self.page.locator("[data-row-cue]"))
        if here and here.is_visible():
            held = self.random.choice([[], [], ["Shift"], ["Control"]])
            here.click(position={"x": 30, "y": 12}, modifiers=held, timeout=2_000, force=True)

    def drag(self) -> None:
        found = boxes(self.page)
        count = found.count()
        if count < 4:
            return
        at = self.random.randrange(min(count, 10) - 2)
        a, b = found.nth(at).bounding_box(), found.nth(at + 2).bounding_box()
        if a and b and a["y"] > 90 and b["y"] < 680:
            self.page.mouse.move(a["x"] + 6, a["y"] + 14)
            self.page.mouse.down()
            self.page.mouse.move(b["x"] + 20, b["y"] + 14, steps=3)
            self.page.mouse.up()

    def button(self) -> None:
        names = re.compile(
            "^(Undo|Redo|Proof|Pace|Dress|split|join|first word|last word|One frame)"
        )
        here = self.some(self.page.get_by_role("button", name=names))
        if here and here.is_enabled():
            here.click(timeout=2_000, force=True)

    def reload(self) -> None:
        self.page.reload()
        self.page.locator("#page").wait_for()


def words(page: Page) -> list[str]:
    return [w["text"] for cue in view(page)["cues"] for w in cue["words"]]


def settle(page: Page) -> None:
    """Leave what is typed in, and wait until every draft is in the transcript or dropped."""
    for _ in range(3):
        page.keyboard.press("Escape")
    page.keyboard.press("Shift+Digit2")
    page.wait_for_timeout(300)
    for note in range(20):
        notes = page.get_by_label("Typed text to decide on").get_by_role(
            "button", name=re.compile("mine")
        )
        if not notes.count():
            break
        notes.first.click()
        page.wait_for_timeout(200 + note)


def test_nothing_typed_is_lost_and_nothing_else_is_there(
    bench: Page, server: Server, project: dict
) -> None:
    undo_all(bench)
    before = view(bench)
    heard = {w["text"] for cue in before["cues"] for w in cue["words"]}
    heard |= {other for cue in before["cues"] for w in cue["words"] for other in w["alternatives"]}
    monkey = Monkey(bench, SEED)
    for _ in range(STEPS):
        monkey.step()
    settle(bench)
    bench.wait_for_timeout(2_500)
    story = f"seed {SEED}, steps: {monkey.steps}"
    found = words(bench)
    # Nothing is there twice, and nothing that was neither heard nor typed.
    whole = re.findall(r"zq[a-z]{4}\d+", " ".join(found))
    twice = sorted({one for one in whole if whole.count(one) > 1})
    assert twice == [], story
    plain_words = {re.sub(STRAY, "", text) for text in found if not re.search(r"[zq\d]", text)}
    known = {re.sub(STRAY, "", text) for text in heard} | {"Newcaption", "New", "caption"}
    known |= {re.sub(STRAY, "", "New"), re.sub(STRAY, "", "caption")}
    strange = [t for t in plain_words if t and not any(t in k or (k and k in t) for k in known)]
    assert strange == [], story
    # All of it undone is how it began.
    for _ in range(3_000):
        now = view(bench)
        if now["history"]["undo"] is None:
            break
        number = now["id"]
        bench.request.post(f"/api/projects/{number}/undo", data={"base_revision": now["revision"]})
    after = view(bench)
    plain = [
        [(w["id"], w["text"], w["start_us"], w["end_us"]) for w in cue["words"]]
        for cue in after["cues"]
    ]
    assert plain == [
        [(w["id"], w["text"], w["start_us"], w["end_us"]) for w in cue["words"]]
        for cue in before["cues"]
    ], story
    bench.reload()
    expect(boxes(bench)).to_have_count(len(before["cues"]))


def test_every_word_typed_and_not_taken_back_is_in_the_transcript(bench: Page) -> None:
    """The same without keys that undo, delete or replace: every word typed must be there."""
    undo_all(bench)
    before = view(bench)
    monkey = Monkey(bench, SEED + 1)
    # A selection over captions is typed over, as in any text: it is left out here too.
    destructive = {"Control+z", "Control+y", "Escape", "Control+a", "y", "F8", "Shift+ArrowDown"}
    typed: list[str] = []

    def word() -> str:
        typed.append(Monkey.word(monkey))
        return typed[-1]

    monkey.word = word  # type: ignore[method-assign]
    monkey.button = monkey.row  # type: ignore[method-assign]
    monkey.drag = monkey.row  # type: ignore[method-assign]
    harmless = [key for key in KEYS if key not in destructive]
    monkey.key = lambda: bench.keyboard.press(monkey.random.choice(harmless))  # type: ignore[method-assign]
    for _ in range(STEPS // 2):
        monkey.step()
        if bench.get_by_role("dialog").count():
            bench.keyboard.press("Escape")
    settle(bench)
    bench.wait_for_timeout(2_500)
    text = " ".join(words(bench))
    # Keys pressed while the caret stood in a word have left their letters in it, splits a space.
    lost = [
        one for one in typed if not re.search(f"(?:{STRAY}| )*".join(map(re.escape, one)), text)
    ]
    held = bench.evaluate(
        """() => Object.entries(localStorage)
          .flatMap(([key, text]) => key.startsWith('mortiser.draft') ? [text] : []).join(' ')"""
    )
    missing = [one for one in lost if one not in held]
    assert missing == [], f"seed {SEED + 1}: {monkey.steps}; it reads {text}; drafts {held}"
    assert typed
    for _ in range(1_000):
        now = view(bench)
        if now["history"]["undo"] is None:
            break
        bench.request.post(
            f"/api/projects/{now['id']}/undo", data={"base_revision": now["revision"]}
        )
    assert [c["id"] for c in view(bench)["cues"]] == [c["id"] for c in before["cues"]]
    bench.evaluate("localStorage.clear()")
