"""What several tests do on the workbench's page."""

from playwright.sync_api import Page, expect


def texts(page: Page) -> list[str]:
    return [t.strip() for t in page.locator("[data-cue-text]").all_inner_texts()]


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
