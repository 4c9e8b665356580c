"""Files that the page saves."""

from playwright.sync_api import Page


def saved_as(page: Page, button: str, item: str) -> bytes:
    """What an entry of a menu saves."""
    page.get_by_role("button", name=button).click()
    with page.expect_download() as waiting:
        page.get_by_role("menuitem", name=item).click()
    return waiting.value.path().read_bytes()
