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
