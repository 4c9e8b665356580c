"""Every station: its numbers are the core's, it works from the keyboard, and axe finds nothing."""

from playwright.sync_api import Page, expect

from shelf_core.forecast.consequences import consequences
from shelf_server.designs.models import Design
from shelf_server.designs.rows.reading import load_design
from tests.browser.access import no_violations
from tests.browser.conftest import Opener, expected, sign_in
from tests.browser.figures import count_text, figure, written


def test_as_of_date_moves_by_keys_and_every_view_follows(page_of: Opener, row: Design) -> None:
    page = page_of("/forecast")
    expect(page.get_by_test_id("as-of")).to_have_text("31 December 2028")
    for key, day in [("[", "2028-11-30"), ("}", "2029-11-30"), ("]", "2029-12-30")]:
        page.locator("body").press(key)
        expect(page.get_by_test_id("as-of")).to_have_text(written(day))
    fern = consequences(expected(row), "2029-12-30")[0]
    line = page.locator('[data-target="fern-disk"]')
    expect(line.locator('[data-figure="points"]')).to_have_text(count_text(fern.points))
    page.locator("body").press("1")
    expect(page.get_by_role("grid", name="Workloads")).to_be_visible()
    expect(figure(page, "fern-disk", "points")).to_have_text(count_text(fern.points))
    page.locator("body").press("?")
    expect(page.get_by_role("dialog", name="Keys")).to_contain_text("a year back, a year forth")
    page.keyboard.press("Escape")
    expect(page.get_by_role("dialog")).to_have_count(0)
    for key, heading in [("2", "Targets"), ("4", "Routes")]:
        page.locator("body").press(key)
        expect(page.get_by_role("heading", name=heading, exact=True)).to_be_visible()


def test_workload_is_edited_in_place(page_of: Opener, row: Design) -> None:
    page = page_of("/workloads")
    before = figure(page, "fern-disk", "stored").inner_text()
    cell = page.get_by_role("gridcell", name="21 TB", exact=True)
    cell.dblclick()
    page.locator(".cell-editor").fill("30 TB")
    page.keyboard.press("Enter")
    expect(page.get_by_label("Last edit")).to_have_text("Saved: Herbarium scans: Size 30 TB")
    assert load_design(row).workloads[0].size == "30 TB"
    expect(figure(page, "fern-disk", "stored")).not_to_have_text(before)


def test_unsound_workload_is_refused_in_words_and_not_saved(page_of: Opener, row: Design) -> None:
    page = page_of("/workloads")
    page_of.expected_refusals = {422}
    page.get_by_role("gridcell", name="21 TB", exact=True).dblclick()
    page.locator(".cell-editor").fill("plenty")
    page.keyboard.press("Enter")
    expect(page.get_by_label("Last edit")).to_contain_text('Not saved: expected a size such as "12 TB"')
    expect(page.get_by_role("gridcell", name="plenty", exact=True)).to_have_attribute("aria-invalid", "true")
    assert load_design(row).workloads[0].size == "21 TB"


def test_workload_is_added_and_removed(page_of: Opener, row: Design) -> None:
    page = page_of("/workloads")
    page.get_by_role("button", name="Add a workload", exact=True).click()
    expect(page.get_by_label("Last edit")).to_have_text("Saved: added a workload")
    assert len(load_design(row).workloads) == 43
    page.locator("body").press("Control+z")
    expect(page.get_by_label("Last edit")).to_have_text("Undone: added a workload")
    assert len(load_design(row).workloads) == 42


def test_axe_finds_nothing_on_the_way_in(row: Design, live_server: object, page: Page) -> None:
    page.goto(live_server.url)  # type: ignore[attr-defined]
    page.get_by_label("Name").wait_for()
    no_violations(page)
    page.get_by_label("Password").fill("wrong")
    page.get_by_label("Name").fill("mara")
    page.get_by_role("button", name="Sign in").click()
    expect(page.get_by_role("alert")).to_have_text("This name and password do not go together")
    sign_in(page, live_server.url)  # type: ignore[attr-defined]
