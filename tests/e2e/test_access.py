"""No serious findings by axe-core, on every stage and tab, in daylight and in the evening."""

from pathlib import Path

import pytest
from playwright.sync_api import Page, expect

from tests.serving import Server

AXE = Path("web/node_modules/axe-core/axe.min.js")
TABS = {
    "Gather": [],
    "Proof": ["Doubts", "Find", "Glossary", "Speakers"],
    "Trim": [],
    "Pace": ["Grouping", "Timing", "Shift", "Checks"],
    "Dress": ["Finish", "Letters", "Colours", "Motion", "Accents", "Legible"],
    "Frame": [],
    "Deliver": [],
}


def serious(page: Page) -> list[str]:
    if not page.evaluate("'axe' in window"):
        page.evaluate(AXE.read_text())
    found = page.evaluate(
        """async () => (await axe.run(document, {resultTypes: ['violations']})).violations
          .filter(v => ['serious', 'critical'].includes(v.impact))
          .map(v => `${v.id}: ${v.nodes.slice(0, 3).map(n => n.html.slice(0, 160)).join(' | ')}`)"""
    )
    return list(found)


@pytest.mark.parametrize("theme", ["daylight", "evening"])
def test_every_stage_has_no_serious_finding(bench: Page, theme: str) -> None:
    bench.evaluate("(t) => document.documentElement.dataset.theme = t", theme)
    wrong: dict[str, list[str]] = {}
    for number, (stage, tabs) in enumerate(TABS.items(), start=1):
        bench.keyboard.press(f"Shift+Digit{number}")
        for tab in tabs or [""]:
            if tab:
                bench.get_by_role("tab", name=tab).click()
            bench.wait_for_timeout(350)
            if found := serious(bench):
                wrong[f"{stage} {tab}"] = found
    bench.keyboard.press("?")
    expect(bench.get_by_role("dialog")).to_be_visible()
    if found := serious(bench):
        wrong["keys"] = found
    bench.keyboard.press("Escape")
    assert wrong == {}


def test_the_start_page_has_no_serious_finding(page: Page, server: Server, project: dict) -> None:
    page.goto(server.address)
    expect(page.get_by_text(project["name"]).first).to_be_visible()
    page.get_by_text("Language, sound track, range").click()
    assert serious(page) == []
