"""The address holds piece, stage and caption; Back goes to the stage before."""

import re

from playwright.sync_api import Page, expect

from tests.e2e.pages import until


def test_the_address_leads_back_to_what_was_looked_at(bench: Page) -> None:
    until(bench, "location.search.includes('stage=')")
    rows = bench.locator("[data-cue-text]")
    rows.nth(2).click()
    bench.keyboard.press("Escape")
    third = rows.nth(2).get_attribute("data-cue-text")
    until(bench, "(id) => new URLSearchParams(location.search).get('caption') === id", third)
    bench.keyboard.press("Shift+Digit4")
    until(bench, "location.search.includes('stage=pace')")
    bench.keyboard.press("Shift+Digit5")
    until(bench, "location.search.includes('stage=dress')")
    bench.go_back()
    until(bench, "location.search.includes('stage=pace')")
    pace = bench.get_by_role("button", name=re.compile("^Pace"))
    expect(pace).to_have_attribute("aria-current", "step")
    bench.go_forward()
    until(bench, "location.search.includes('stage=dress')")
    sent = bench.url
    bench.goto("about:blank")
    bench.goto(sent)
    expect(bench.get_by_role("button", name=re.compile("^Dress"))).to_have_attribute(
        "aria-current", "step"
    )
    until(bench, "(id) => new URLSearchParams(location.search).get('caption') === id", third)
    bench.goto(f"{sent.split('?')[0]}?stage=kitchen&caption=999999&piece=-3")
    expect(bench.locator("[data-cue-text]").first).to_be_visible()
