"""What is typed is what is saved: real keys in cells and fields, refusals that stay where they happen, a server that goes away."""

import re
from urllib.parse import urlsplit

import pytest
from playwright.sync_api import Page, Route, expect

from shelf_server.designs.models import Change, Design
from shelf_server.designs.rows.reading import load_design
from tests.browser.conftest import Opener
from tests.browser.test_designs import last_edit

SIZE_OF_FIRST = "21 TB"


def at_size(page_of: Opener) -> Page:
    """The grid, with the hand on the size of the first workload."""
    page = page_of("/workloads")
    page.get_by_role("gridcell", name=SIZE_OF_FIRST, exact=True).click()
    return page


def typed(page: Page, text: str) -> None:
    """As a hand types: one key after the other."""
    page.keyboard.type(text, delay=25)
    page.keyboard.press("Enter")


@pytest.mark.parametrize(
    ("text", "stored"),
    [("34 TB", "34 TB"), ("12tb", "12 TB"), ("12,5 TB", "12.5 TB"), ("1 250 GB", "1250 GB"), ("40", "40 TB")],
)
def test_cell_that_is_typed_over_holds_all_that_was_typed(page_of: Opener, row: Design, text: str, stored: str) -> None:
    page = at_size(page_of)
    typed(page, text)
    expect(page.get_by_label("Last edit")).to_contain_text("Saved:")
    assert load_design(row).workloads[0].size == stored


def test_delete_clears_the_cell_and_never_takes_the_workload(page_of: Opener, row: Design) -> None:
    page = page_of("/workloads")
    page.get_by_role("gridcell", name=SIZE_OF_FIRST, exact=True).click()
    page.keyboard.press("ArrowRight")
    count = len(load_design(row).workloads)
    page_of.expected_refusals = {422}
    page.keyboard.press("Delete")
    page.wait_for_timeout(1000)
    assert len(load_design(row).workloads) == count
    page.keyboard.press("Home")
    page.keyboard.press("ArrowLeft")
    assert load_design(row).workloads[0].size == "21 TB"


def test_refused_value_stays_with_its_reason_and_takes_nothing_with_it(page_of: Opener, row: Design) -> None:
    page_of.expected_refusals = {422}
    page = at_size(page_of)
    typed(page, "much")
    reason = page.get_by_role("status", name="Refused cells")
    cell = page.get_by_role("gridcell", name="much", exact=True)
    expect(cell).to_have_attribute("aria-invalid", "true")
    expect(reason).to_contain_text("“much” is not saved: ")
    cell.click()
    expect(reason).to_contain_text("“much” is not saved: ")
    page.keyboard.press("ArrowRight")
    typed(page, "3")
    last_edit(page, "Saved: Herbarium scans: Count 3")
    expect(page.get_by_role("gridcell", name="much", exact=True)).to_be_visible()
    first = load_design(row).workloads[0]
    assert (first.size, first.count) == ("21 TB", 3)
    cell.click()
    page.keyboard.press("Escape")
    expect(page.get_by_role("gridcell", name=SIZE_OF_FIRST, exact=True)).to_be_visible()
    expect(reason).to_have_text("")


def test_refused_value_is_mended_where_it_stands(page_of: Opener, row: Design) -> None:
    page_of.expected_refusals = {422}
    page = at_size(page_of)
    typed(page, "1.250 GB")
    cell = page.get_by_role("gridcell", name="1.250 GB", exact=True)
    expect(cell).to_have_attribute("aria-invalid", "true")
    cell.click()
    page.keyboard.press("Enter")
    expect(page.locator(".cell-editor")).to_have_value("1.250 GB")
    page.keyboard.press("Home")
    page.keyboard.press("Control+a")
    typed(page, "1,25 TB")
    expect(page.get_by_label("Last edit")).to_contain_text("Saved:")
    assert load_design(row).workloads[0].size == "1.25 TB"
    expect(page.locator("[aria-invalid=true]")).to_have_count(0)


def test_edit_waits_for_a_server_that_is_away(page_of: Opener, row: Design) -> None:
    page_of.expected_refusals = {503}
    page = at_size(page_of)
    away = [True]

    def answer(route: Route) -> None:
        if away[0]:
            route.fulfill(status=503, content_type="text/plain", body="starting")
        else:
            route.continue_()

    page.route("**/edits", answer)
    typed(page, "34 TB")
    expect(page.get_by_role("gridcell", name="34 TB", exact=True)).to_be_visible()
    expect(page.get_by_label("Last edit")).not_to_contain_text("Saved:")
    assert load_design(row).workloads[0].size == "21 TB"
    away[0] = False
    last_edit(page, "Saved: Herbarium scans: Size 34 TB")
    assert load_design(row).workloads[0].size == "34 TB"
    assert Change.objects.filter(design=row).count() == 1


def test_session_that_ends_is_begun_anew_in_place(page_of: Opener, row: Design) -> None:
    page_of.expected_refusals = {401}
    page = at_size(page_of)
    page.context.clear_cookies(name="sessionid")
    typed(page, "34 TB")
    dialog = page.get_by_role("dialog")
    expect(dialog).to_contain_text("What you typed is kept here")
    dialog.get_by_label("Password").fill("lindmoor-demo")
    page.keyboard.press("Enter")
    last_edit(page, "Saved: Herbarium scans: Size 34 TB")
    expect(dialog).to_have_count(0)
    assert load_design(row).workloads[0].size == "34 TB"


@pytest.mark.parametrize("text", ["2.5", "1e3", "99999999", "-3", "many"])
def test_trial_that_cannot_be_never_stays(page_of: Opener, row: Design, text: str) -> None:
    page = page_of("/rules/ladders/house")
    field = page.get_by_label("Number of recent")
    before = field.input_value()
    stored = load_design(row).canonical()
    field.fill("")
    page.keyboard.type(text, delay=25)
    expect(page.get_by_label("Consequences")).to_contain_text("As saved")
    page.keyboard.press("Escape")
    expect(field).to_have_value(before)
    assert load_design(row).canonical() == stored


def test_finding_closes_by_escape_and_has_a_name(page_of: Opener, row: Design) -> None:
    page = page_of("/workloads")
    page.get_by_role("grid", name="Workloads").wait_for()
    page.keyboard.press("Control+k")
    dialog = page.get_by_role("dialog")
    expect(dialog).to_have_accessible_name(re.compile("."))
    page.keyboard.type("house")
    page.keyboard.press("Escape")
    expect(dialog).to_have_count(0)


def test_keys_without_ctrl_can_be_turned_off(page_of: Opener, row: Design) -> None:
    page = page_of("/workloads")
    page.get_by_role("grid", name="Workloads").wait_for()
    page.keyboard.press("2")
    expect(page).not_to_have_url(re.compile(r"/workloads(\?|$)"))
    there = urlsplit(page.url).path
    page.keyboard.press("?")
    page.keyboard.press("1")
    assert urlsplit(page.url).path == there  # a dialog is open
    page.get_by_label("Keys without Ctrl act on the page").uncheck()
    page.get_by_role("dialog").get_by_role("button", name="Close").click()
    expect(page.get_by_role("dialog")).to_have_count(0)
    page.keyboard.press("1")
    page.wait_for_timeout(300)
    assert urlsplit(page.url).path == there


def test_undo_in_a_text_field_is_the_fields_own(page_of: Opener, row: Design) -> None:
    page = at_size(page_of)
    typed(page, "34 TB")
    last_edit(page, "Saved: Herbarium scans: Size 34 TB")
    page.get_by_label("Names and tags with").click()
    page.keyboard.type("abc")
    page.keyboard.press("Control+z")
    page.wait_for_timeout(500)
    assert load_design(row).workloads[0].size == "34 TB"
    last_edit(page, "Saved: Herbarium scans: Size 34 TB")
