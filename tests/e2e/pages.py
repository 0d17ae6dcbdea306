"""What several tests do on the workbench's page."""

from playwright.sync_api import Page


def texts(page: Page) -> list[str]:
    return [t.strip() for t in page.locator("[data-cue-text]").all_inner_texts()]


def undo_all(page: Page) -> None:
    button = page.get_by_role("button", name="Undo: ")
    while button.count():
        with page.expect_response("**/undo"):
            button.click()
        page.wait_for_timeout(60)
