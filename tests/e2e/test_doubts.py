"""Listening through all doubts: what nobody objects to is kept."""

import re

from playwright.sync_api import Page, expect

from tests.e2e.pages import undo_all, until

DOUBTS = """fetch(location.pathname.replace('/projects', '/api/projects')).then((a) => a.json())
  .then((p) => p.cues.flatMap((c) => c.words).filter((w) => w.doubt))"""


def test_doubts_are_listened_through_and_one_is_put_right_on_the_way(bench: Page) -> None:
    undo_all(bench)
    bench.keyboard.press("Shift+Digit2")
    before = bench.evaluate(DOUBTS)
    assert len(before) >= 2
    wrong = next(one for one in before if one["alternatives"])
    bench.get_by_role("button", name="Listen through them").click()
    stop = bench.get_by_role("button", name=re.compile("^Stop"))
    expect(stop).to_be_visible()
    here = bench.locator(".border-chalk").filter(has_text=wrong["alternatives"][0])
    expect(here.first).to_be_visible()
    bench.keyboard.press("1")
    expect(bench.get_by_text("All doubts were played.").first).to_be_visible()
    until(bench, f"{DOUBTS}.then((all) => all.length === 0)")
    expect(stop).to_have_count(0)
    undo_all(bench)
    assert [one["id"] for one in bench.evaluate(DOUBTS)] == [one["id"] for one in before]


def test_something_else_is_written_and_listening_goes_on(bench: Page) -> None:
    undo_all(bench)
    bench.keyboard.press("Shift+Digit2")
    first = bench.evaluate(DOUBTS)[0]
    bench.locator("[data-row-cue]").first.click(position={"x": 20, "y": 12})
    bench.keyboard.press("Shift+D")
    field = bench.get_by_role("textbox", name="What it is instead")
    expect(field).to_be_visible()
    bench.keyboard.press("Digit7")
    expect(field).to_be_focused()
    until(bench, "document.querySelector('video').paused")
    bench.keyboard.type("teaspoon")
    stop = bench.get_by_role("button", name=re.compile("^Stop"))
    expect(stop).to_be_visible()
    bench.keyboard.press("Enter")
    until(bench, "!document.querySelector('video').paused")
    expect(bench.get_by_text("All doubts were played.").first).to_be_visible()
    until(bench, f"{DOUBTS}.then((all) => all.length === 0)")
    texts = """fetch(location.pathname.replace('/projects', '/api/projects')).then((a) => a.json())
      .then((p) => p.cues.flatMap((c) => c.words.map((w) => w.text)).join(' '))"""
    until(bench, f"{texts}.then((all) => /teaspoon/.test(all))")
    assert first["text"].strip(".,") != "teaspoon"
    undo_all(bench)


def test_stopping_keeps_nothing(bench: Page) -> None:
    undo_all(bench)
    bench.keyboard.press("Shift+Digit2")
    before = len(bench.evaluate(DOUBTS))
    bench.locator("[data-row-cue]").first.click(position={"x": 20, "y": 12})
    bench.keyboard.press("Shift+D")
    expect(bench.get_by_role("button", name=re.compile("^Stop"))).to_be_visible()
    bench.keyboard.press("Space")
    expect(bench.get_by_role("button", name="Listen through them")).to_be_visible()
    assert len(bench.evaluate(DOUBTS)) == before
