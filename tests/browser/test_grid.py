"""The grid of workloads under the hand: keys, blocks, sorting, filtering, choosing; and time that walks by itself."""

import re

import pytest
from playwright.sync_api import FloatRect, Locator, Page, expect

from shelf_core.design.cells import ordered_by
from shelf_core.sizing.together import together
from shelf_server.designs.models import Design
from shelf_server.designs.rows.reading import load_design
from tests.browser.access import no_violations
from tests.browser.conftest import ON, Opener
from tests.browser.figures import written
from tests.browser.test_designs import last_edit


def first_rows(page: Page, count: int) -> list[str | None]:
    rows = page.locator("[data-workload]")
    found = [(rows.nth(at).bounding_box(), rows.nth(at).get_attribute("data-workload")) for at in range(rows.count())]
    return [name for _, name in sorted(found, key=lambda one: one[0]["y"] if one[0] else 0)[:count]]


def there(page: Page, order: list[str]) -> None:
    """Wait until the rows are in an order of workloads by id."""
    page.wait_for_function("id => document.querySelector('[data-workload]')?.dataset.workload === id", arg=order[0])


def box(of: Locator) -> FloatRect:
    """Where something stands on the page, and how large it is."""
    found = of.bounding_box()
    assert found is not None
    return found


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
    expect(page).to_have_url(re.compile(r"/workloads(\?|$)"))  # 3 is typed here, and is no key of the page
    page.keyboard.press("Escape")
    page.keyboard.press("Enter")
    page.keyboard.type("4")
    page.keyboard.press("Enter")
    last_edit(page, "Saved: Type specimen photographs: Count 4")
    assert load_design(row).workloads[1].count == 4
    # Enter goes down, Tab to the right, and back with Shift.
    page.keyboard.press("ArrowUp")
    page.keyboard.type("5")
    page.keyboard.press("Tab")
    last_edit(page, "Saved: Type specimen photographs: Count 5")
    assert active_text(page) == str(load_design(row).workloads[1].daily_change_percent)
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
        field = "annual_growth_percent" if order == "ascending" else "-annual_growth_percent"
        wanted = ordered_by(load_design(row).workloads, field)
        # The head says at once what was asked for; the rows come with the server's answer.
        there(page, wanted)
        assert first_rows(page, 10) == wanted[:10]
    head.click()
    expect(head).to_have_attribute("aria-sort", "none")
    assert first_rows(page, 3) == as_designed


def test_all_that_a_column_can_do_is_done_from_the_keyboard_and_kept_for_the_person(page_of: Opener, row: Design) -> None:
    page = page_of("/workloads")
    page.get_by_role("gridcell", name="21 TB", exact=True).click()
    page.keyboard.press("ArrowLeft")  # the site
    menu = page.get_by_role("menu", name="The column Site")

    def act(words: str | re.Pattern[str]) -> None:
        page.keyboard.press("Control+Enter")
        menu.get_by_role("menuitem", name=words).press("Enter")

    act("Sort by it, going down")
    page.keyboard.press("ArrowRight")
    menu = page.get_by_role("menu", name="The column Size")
    act("Then by it, going up")
    heads = {name: page.get_by_role("columnheader", name=name) for name in ("Site", "Size")}
    expect(heads["Site"]).to_have_attribute("aria-sort", "descending")
    expect(heads["Size"]).to_have_attribute("aria-sort", "ascending")
    order = ordered_by(load_design(row).workloads, "-site", "size")
    there(page, order)
    assert first_rows(page, 8) == order[:8]
    # What the cell says is all that is shown, and what it comes to stands below.
    page.keyboard.press("Control+Home")
    value = active_text(page)
    act(re.compile("^Only rows with"))
    found = [one.id for one in load_design(row).workloads if str(one.size) == value]
    expect(page.get_by_test_id("shown")).to_have_text(f"{len(found)} of 42")
    sums = together(load_design(row), found, ON)
    expect(page.get_by_test_id("totals")).to_contain_text(f"{sums.workloads} workload")
    expect(page.get_by_test_id("totals")).to_contain_text(f"{sums.machines} machine")
    page.get_by_role("button", name=re.compile("^Size says")).press("Enter")
    expect(page.get_by_test_id("shown")).to_have_text("42")
    no_violations(page)


def test_columns_are_as_the_person_left_them_after_a_reload(page_of: Opener, row: Design) -> None:
    page = page_of("/workloads")
    page.get_by_role("gridcell", name="21 TB", exact=True).click()
    before = box(page.get_by_role("columnheader", name="Size"))["width"]
    page.keyboard.press("Control+Enter")
    menu = page.get_by_role("menu", name="The column Size")
    for words in ("Wider", "Wider", "Further left"):
        menu.get_by_role("menuitem", name=words).press("Enter")
    no_violations(page)
    page.keyboard.press("Escape")
    page.get_by_role("button", name="Columns").click()
    in_sight = page.get_by_role("menu", name="Columns in sight")
    in_sight.get_by_role("menuitemcheckbox", name="Reduction", exact=True).click()
    with page.expect_response(lambda answer: answer.request.method == "PUT" and answer.ok):
        in_sight.get_by_role("menuitemcheckbox", name="Priority").click()
    no_violations(page)
    page.reload()
    heads = page.get_by_role("columnheader")
    expect(heads.nth(2)).to_have_text("Size")
    names = [heads.nth(at).inner_text() for at in range(heads.count())]
    assert "Reduction" not in names
    assert names[-1] == "Priority"
    assert round(box(page.get_by_role("columnheader", name="Size"))["width"] - before) == 40
    page.get_by_role("button", name="Columns").click()
    page.get_by_role("menuitem", name="All as at first").click()
    expect(heads.nth(2)).to_have_text("Site")


def test_a_column_is_drawn_wider_by_its_border(page_of: Opener, row: Design) -> None:
    page = page_of("/workloads")
    head = page.get_by_role("columnheader", name="Count")
    before, border = box(head)["width"], box(head.locator("[data-border]"))
    page.mouse.move(border["x"] + 3, border["y"] + 5)
    page.mouse.down()
    with page.expect_response(lambda answer: answer.request.method == "PUT" and answer.ok):
        page.mouse.move(border["x"] + 63, border["y"] + 5, steps=6)
        page.mouse.up()
    assert box(head)["width"] - before == pytest.approx(60, abs=4)


def test_a_block_is_filled_down(page_of: Opener, row: Design) -> None:
    page = page_of("/workloads")
    page.get_by_role("gridcell", name="21 TB", exact=True).click()
    for key in ("Shift+ArrowDown", "Shift+ArrowDown", "Control+d"):
        page.keyboard.press(key)
    last_edit(page, "Saved: filled down 2 rows")
    assert [one.size for one in load_design(row).workloads[:4]][:3] == ["21 TB"] * 3
    page.keyboard.press("Control+z")
    expect(page.get_by_role("gridcell", name="4.5 TB", exact=True)).to_be_visible()
    page.get_by_role("gridcell", name="4.5 TB", exact=True).click()
    page.keyboard.press("Control+d")
    last_edit(page, "Saved: filled down 1 row")
    assert load_design(row).workloads[1].size == "21 TB"


def test_what_no_route_takes_is_plain_to_see_and_chosen_rows_are_tagged(page_of: Opener, row: Design) -> None:
    page = page_of("/workloads")
    page.get_by_role("button", name="Add a workload", exact=True).click()
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
