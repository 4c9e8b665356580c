"""The grid of workloads under the hand: keys, blocks, sorting, filtering, choosing; and time that walks by itself."""

import re

from playwright.sync_api import Page, expect

from shelf_server.designs.models import Design
from shelf_server.designs.rows.reading import load_design
from tests.browser.conftest import Opener
from tests.browser.figures import written
from tests.browser.test_designs import last_edit


def first_rows(page: Page, count: int) -> list[str | None]:
    rows = page.locator("[data-workload]")
    found = [(rows.nth(at).bounding_box(), rows.nth(at).get_attribute("data-workload")) for at in range(rows.count())]
    return [name for _, name in sorted(found, key=lambda one: one[0]["y"] if one[0] else 0)[:count]]


def active_text(page: Page) -> str:
    grid = page.get_by_role("grid", name="Workloads")
    return page.locator(f"#{grid.get_attribute('aria-activedescendant')}").inner_text()


def test_cells_are_walked_and_typed_over_from_the_keyboard(page_of: Opener, row: Design) -> None:
    page = page_of("/workloads")
    page.get_by_role("gridcell", name="21 TB", exact=True).click()
    page.keyboard.press("ArrowDown")
    page.keyboard.press("ArrowRight")
    assert active_text(page) == "1"
    page.keyboard.press("3")
    expect(page.locator(".cell-editor")).to_have_value("3")
    expect(page).to_have_url(re.compile("/workloads$"))  # 3 is typed here, and is no key of the page
    page.keyboard.press("Escape")
    page.keyboard.press("Enter")
    page.keyboard.type("4")
    page.keyboard.press("Enter")
    last_edit(page, "Saved: Type specimen photographs: Count 4")
    assert load_design(row).workloads[1].count == 4
    page.keyboard.press("Home")
    assert active_text(page) == "Type specimen photographs"
    page.keyboard.press("End")
    page.keyboard.press("PageDown")
    assert active_text(page) == ""


def test_a_block_is_spanned_copied_and_pasted_elsewhere(page_of: Opener, row: Design) -> None:
    page = page_of("/workloads")
    page.get_by_role("gridcell", name="21 TB", exact=True).click()
    for key in ("Shift+ArrowDown", "Shift+ArrowRight"):
        page.keyboard.press(key)
    copied = page.evaluate(
        """() => {
          const data = new DataTransfer();
          const event = new ClipboardEvent('copy', { clipboardData: data, bubbles: true, cancelable: true });
          document.querySelector('[role=grid]').dispatchEvent(event);
          return data.getData('text/plain');
        }"""
    )
    assert copied == "21 TB\t1\n4.5 TB\t1"


def test_columns_sort_both_ways_and_not_at_all(page_of: Opener, row: Design) -> None:
    page = page_of("/workloads")
    page.locator('[data-workload="herbarium-scans"]').wait_for()
    as_designed = first_rows(page, 3)
    head = page.get_by_role("columnheader", name="Growth %/yr")
    for order in ("ascending", "descending"):
        head.click()
        expect(head).to_have_attribute("aria-sort", order)
        growths = {one.id: one.annual_growth_percent for one in load_design(row).workloads}
        shown = [growths[name or ""] for name in first_rows(page, 10)]
        assert shown == sorted(shown, reverse=order == "descending")
    head.click()
    expect(head).to_have_attribute("aria-sort", "none")
    assert first_rows(page, 3) == as_designed


def test_what_no_route_takes_is_plain_to_see_and_chosen_rows_are_tagged(page_of: Opener, row: Design) -> None:
    page = page_of("/workloads")
    page.get_by_role("button", name="Add", exact=True).click()
    last_edit(page, "Saved: added a workload")
    page.get_by_role("button", name="1 on no route").click()
    expect(page.get_by_test_id("shown")).to_have_text("1 of 43")
    expect(page.get_by_role("gridcell", name="no route")).to_be_visible()
    page.get_by_role("gridcell", name="New workload", exact=True).click()
    expect(page.get_by_label("Findings")).to_contain_text("No route takes New workload.")
    page.keyboard.press("Space")
    page.get_by_label("Value for all chosen").fill("machines")
    page.keyboard.press("Enter")
    last_edit(page, "Saved: Add the tag machines for 1 workload")
    expect(page.get_by_text("None is like that")).to_be_visible()
    page.get_by_role("button", name="Show all").click()
    expect(page.get_by_role("button", name="0 on no route")).to_be_visible()


def test_the_years_walk_by_and_stand_still(page_of: Opener, row: Design) -> None:
    page = page_of("/rules/ladders/house")
    shown = page.get_by_test_id("as-of")
    expect(shown).to_have_text(written("2028-12-31"))
    # Every date that is shown is written down as it comes: a test that looks now and then misses some.
    page.evaluate(
        """() => {
            const place = document.querySelector('[data-testid="as-of"]');
            window.walked = [place.textContent];
            const note = () => window.walked.at(-1) !== place.textContent && window.walked.push(place.textContent);
            new MutationObserver(note).observe(place, { subtree: true, childList: true, characterData: true });
        }"""
    )
    page.get_by_role("button", name="Walk the years").click()
    page.wait_for_function("() => window.walked.length >= 4")
    page.get_by_role("button", name="Stand still").click()
    ends = ["2028-12-31", "2029-01-31", "2029-02-28", "2029-03-31"]
    assert page.evaluate("() => window.walked")[:4] == [written(day) for day in ends]
    still = shown.inner_text()
    page.wait_for_timeout(1200)
    assert shown.inner_text() == still
