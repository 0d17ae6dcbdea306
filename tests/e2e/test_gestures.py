"""Everyday tasks in gestures: by keyboard alone and by mouse, from the page to the result.

A gesture is a key press or chord, a click, a double click or a drag; the letters of a word that is
typed are one gesture. ``pytest tests/e2e/test_gestures.py -s`` prints the counts.
"""

from __future__ import annotations

from collections.abc import Callable

import pytest
from playwright.sync_api import Page, expect

from tests.e2e.pages import undo_all, until
from tests.e2e.test_hands import boxes, view


class Hand:
    """Does gestures on a page and counts them."""

    def __init__(self, page: Page) -> None:
        self.page = page
        self.count = 0

    def press(self, *keys: str) -> None:
        for key in keys:
            self.count += 1
            self.page.keyboard.press(key)
            self.page.wait_for_timeout(60)

    def type(self, text: str) -> None:
        self.count += 1
        self.page.keyboard.type(text)

    def click(self, target: object, **how: object) -> None:
        self.count += 1
        target.click(**how)  # type: ignore[attr-defined]

    def double(self, target: object) -> None:
        self.count += 1
        target.dblclick()  # type: ignore[attr-defined]


def texts(page: Page) -> list[str]:
    return [" ".join(w["text"] for w in c["words"]) for c in view(page)["cues"]]


def word(page: Page, cue: int, index: int):
    return boxes(page).nth(cue).locator("[data-word]").nth(index)


def name_by_key(hand: Hand) -> None:
    """The second word of the second caption is a name."""
    hand.press("ArrowDown", "Enter", "Home", "Control+ArrowRight", "Control+Shift+ArrowRight")
    hand.type(" Hollis")
    hand.press("Control+Enter")


def name_by_mouse(hand: Hand) -> None:
    hand.double(word(hand.page, 1, 1))
    hand.type("Hollis")
    hand.press("Control+Enter")


def joined_by_key(hand: Hand) -> None:
    """Two words of the third caption are one."""
    hand.press("ArrowDown", "ArrowDown", "Enter", "Home", "Control+ArrowRight", "Delete")
    hand.press("Control+Enter")


def joined_by_mouse(hand: Hand) -> None:
    box = word(hand.page, 2, 1).bounding_box()
    assert box is not None
    hand.count += 1
    hand.page.mouse.click(box["x"] + 1, box["y"] + 10)
    hand.press("Backspace", "Control+Enter")


def split_by_key(hand: Hand) -> None:
    hand.press("ArrowDown", "Enter", "Home", "Control+ArrowRight", "Enter")


def split_by_mouse(hand: Hand) -> None:
    box = word(hand.page, 1, 1).bounding_box()
    assert box is not None
    hand.count += 1
    hand.page.mouse.click(box["x"] + 1, box["y"] + 10)
    hand.press("Enter")


def moved_by_key(hand: Hand) -> None:
    hand.press("ArrowDown", ".")


def moved_by_mouse(hand: Hand) -> None:
    hand.click(hand.page.locator("[data-row-cue]").nth(1), position={"x": 30, "y": 12})
    hand.click(hand.page.get_by_role("button", name="last word"))


def added_by_key(hand: Hand) -> None:
    """A caption where it is quiet, from 3.55 to 3.95 s."""
    hand.press("t")
    hand.type("3.55")
    hand.press("Enter", "c")
    hand.page.wait_for_timeout(300)
    hand.type("Psst")
    hand.press("Enter")
    expect(hand.page.get_by_test_id("active")).to_contain_text("On the page")
    hand.press("Shift+E")
    hand.type("0:03.95")
    hand.press("Enter")


def added_by_mouse(hand: Hand) -> None:
    hand.click(hand.page.get_by_label("Time, typed over to go there"))
    hand.type("3.55")
    hand.press("Enter")
    hand.click(hand.page.get_by_role("button", name="add", exact=True))
    hand.page.wait_for_timeout(300)
    hand.type("Psst")
    hand.press("Enter")
    hand.click(hand.page.get_by_label("Caption end"))
    hand.type("0:03.95")
    hand.press("Enter")


def marked_by_key(hand: Hand) -> None:
    hand.press("Shift+Digit5", "ArrowDown", "2", "m")


def marked_by_mouse(hand: Hand) -> None:
    hand.click(hand.page.get_by_role("button", name="Dress"))
    hand.click(word(hand.page, 1, 0))
    hand.click(hand.page.get_by_role("tab", name="Accents"))
    hand.click(hand.page.get_by_role("button", name="Loud 2"))
    hand.click(hand.page.get_by_role("button", name="Everywhere it occurs"))


Task = tuple[str, Callable[[Hand], None], Callable[[Hand], None], Callable[[Page], bool], int, int]
TASKS: list[Task] = [
    ("correct a name", name_by_key, name_by_mouse, lambda p: "Hollis" in texts(p)[1], 7, 3),
    ("join one split word", joined_by_key, joined_by_mouse,
     lambda p: texts(p)[2].count(" ") == 0, 7, 3),
    ("split one caption", split_by_key, split_by_mouse, lambda p: texts(p)[1].count(" ") == 0, 5, 2),
    ("move one word to the next", moved_by_key, moved_by_mouse,
     lambda p: texts(p)[2].startswith("Lane,"), 2, 2),
    ("add a caption with typed times", added_by_key, added_by_mouse,
     lambda p: any(
         t == "Psst" and c["end_us"] == 3_950_000
         for t, c in zip(texts(p), view(p)["cues"], strict=True)
     ), 9, 9),
    ("mark a word everywhere", marked_by_key, marked_by_mouse,
     lambda p: any(w["accent"] == 2 for c in view(p)["cues"] for w in c["words"]), 4, 5),
]  # fmt: skip


@pytest.mark.parametrize("task", TASKS, ids=[task[0] for task in TASKS])
def test_everyday_tasks_take_few_gestures(bench: Page, task: Task) -> None:
    name, by_key, by_mouse, done, most_keys, most_clicks = task
    for way, do, most in (("keys", by_key, most_keys), ("mouse", by_mouse, most_clicks)):
        # Opened anew, not where it was left.
        bench.goto(bench.url.partition("?")[0])
        expect(boxes(bench).first).to_be_visible()
        until(bench, "document.querySelector('video').readyState >= 2")
        bench.wait_for_timeout(300)
        hand = Hand(bench)
        do(hand)
        for _ in range(30):
            if done(bench):
                break
            bench.wait_for_timeout(100)
        assert done(bench), (name, way, texts(bench))
        print(f"{name}, {way}: {hand.count}")
        assert hand.count <= most
        bench.keyboard.press("Escape")
        undo_all(bench)
