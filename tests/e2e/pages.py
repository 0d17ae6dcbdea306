"""What several tests do on the workbench's page."""

import re
from typing import Any

from playwright.sync_api import Page, expect

PATIENCE_MS = 30_000
STEP_MS = 25


def until(page: Page, holds: str, arg: Any = None) -> None:
    """Wait until a script's value is true. Asked from here: the page's policy lets it run no text."""
    for _ in range(PATIENCE_MS // STEP_MS):
        if page.evaluate(holds, arg):
            return
        page.wait_for_timeout(STEP_MS)
    raise AssertionError(f"it never holds: {holds}")


def texts(page: Page) -> list[str]:
    return [t.strip() for t in page.locator("[data-cue-text]").all_inner_texts()]


def project_of(page: Page) -> int:
    """The number of the project that is open, by the address."""
    found = re.search(r"/projects/(\d+)", page.url)
    assert found is not None
    return int(found.group(1))


def undo_all(page: Page) -> None:
    button = page.get_by_role("button", name="Undo: ")
    while button.count():
        with page.expect_response("**/undo") as answer:
            button.click()
        if answer.value.ok:
            left = answer.value.json()["history"]["undo"]
            name = f"Undo: {left}" if left else "Undo"
            expect(page.get_by_role("button", name=name, exact=True)).to_be_visible()


def choose(page: Page, label: str, option: str) -> None:
    """Choose from a list that opens where it stands."""
    page.get_by_role("combobox", name=label, exact=True).first.click()
    page.get_by_role("option", name=option, exact=True).click()
    expect(page.get_by_role("listbox", name=label)).to_have_count(0)
