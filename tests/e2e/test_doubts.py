"""Listening through all doubts: what nobody objects to is kept."""

import re

from playwright.sync_api import Page, expect

from tests.e2e.pages import undo_all, until

DOUBTS = """fetch(location.pathname.replace('/projects', '/api/projects')).then((a) => a.json())
  .then((p) => p.cues.flatMap((c) => c.words).filter((w) => w.doubt))"""
TEXTS = """fetch(location.pathname.replace('/projects', '/api/projects')).then((a) => a.json())
  .then((p) => p.cues.flatMap((c) => c.words.map((w) => w.text)).join(' '))"""


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
    expect(bench.get_by_role("textbox", name="What it is instead")).to_have_count(0)
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
    until(bench, f"{TEXTS}.then((all) => /teaspoon/.test(all))")
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


def test_a_word_that_is_not_in_doubt_is_asked_about_while_it_is_heard(bench: Page) -> None:
    undo_all(bench)
    bench.keyboard.press("Shift+Digit2")
    bench.locator("[data-row-cue]").first.click(position={"x": 20, "y": 12})
    bench.keyboard.press("Space")
    until(bench, "document.querySelector('video').currentTime > 1.5")
    bench.keyboard.press("q")
    until(bench, "document.querySelector('video').paused")
    card = bench.locator(".border-chalk").filter(has=bench.get_by_label("What it is instead"))
    expect(card).to_have_count(1)
    first = card.locator("span.font-bold").inner_text().strip()
    bench.keyboard.press("q")
    expect(card.locator("span.font-bold")).not_to_have_text(first)
    bench.keyboard.press("7")
    bench.keyboard.type("kettl")
    offered = card.get_by_role("button", name=re.compile("^kettle[.,]? 1$", re.I))
    expect(offered).to_be_visible()
    bench.keyboard.press("1")
    until(bench, f"{TEXTS}.then((all) => /kettle/i.test(all.split(' ').slice(0, 8).join(' ')))")
    until(bench, "!document.querySelector('video').paused")
    bench.keyboard.press("Space")
    undo_all(bench)


def test_a_word_that_is_clicked_has_a_card_and_a_digit_takes_what_it_may_be(bench: Page) -> None:
    undo_all(bench)
    bench.keyboard.press("Shift+Digit2")
    plain = bench.locator("[data-word]:not(.doubt)").nth(2)
    heard = plain.inner_text()
    plain.click()
    card = bench.locator(".border-chalk").filter(has=bench.get_by_label("What it is instead"))
    expect(card.locator("span.font-bold")).to_have_text(heard)
    bench.keyboard.press("Escape")
    other = card.get_by_role("button", name=re.compile(" ?1$")).first
    text = other.inner_text().splitlines()[0].removesuffix("1").strip()
    bench.keyboard.press("1")
    until(bench, f"{TEXTS}.then((all) => all.includes({text!r}))")
    expect(card).to_have_count(0)
    undo_all(bench)
