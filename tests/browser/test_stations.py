"""Every station: its numbers are the core's, it works from the keyboard, and axe finds nothing."""

import pytest
from axe_playwright_python.sync_playwright import Axe
from playwright.sync_api import Page, expect

from shelf_core.forecast.consequences import consequences
from shelf_core.forecast.points import Chosen, points_page
from shelf_core.forecast.splits import split
from shelf_core.forecast.unfree import cannot_be_freed
from shelf_server.designs.models import Design
from shelf_server.designs.rows.load import load_design
from tests.browser.conftest import ON, Opener, expected, sign_in
from tests.browser.figures import bytes_text, count_text, figure, written


def test_forecast_shows_the_core_s_numbers(page_of: Opener, row: Design) -> None:
    page = page_of("/forecast")
    for one in consequences(expected(row), ON):
        line = page.locator(f'[data-target="{one.target}"]')
        expect(line.locator('[data-figure="points"]')).to_have_text(count_text(one.points))
        expect(line.locator('[data-figure="stored"]')).to_have_text(bytes_text(one.stored_bytes))
        full = f"full on {written(one.full_on)}" if one.full_on else "never full" if one.capacity_bytes else "grows with use"
        expect(line.locator('[data-figure="full"]')).to_have_text(full)
    page.get_by_role("button", name="Show Cold vault large").click()
    vault = next(one for one in consequences(expected(row), ON) if one.target == "cold-vault")
    section = page.get_by_role("region", name="Cold vault in full")
    expect(section).to_contain_text(f"{vault.points} points and {bytes_text(vault.stored_bytes)} at the end of {written(ON)}")
    expect(section).to_contain_text(f"On the shelf: {vault.points} kept")


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
    for key, heading in [("2", "Targets"), ("4", "Routes")]:
        page.locator("body").press(key)
        expect(page.get_by_role("heading", name=heading, exact=True)).to_be_visible()


def test_chart_is_read_with_the_arrow_keys(page_of: Opener, row: Design) -> None:
    page = page_of("/forecast")
    chart = page.get_by_role("img", name="Bytes and points through time")
    chart.press("PageDown")
    text = page.get_by_role("region", name="Fern disk in full").inner_text()
    assert "stored, peak" in text


def test_what_nobody_can_free_is_said_and_drawn(page_of: Opener, row: Design) -> None:
    page = page_of("/forecast")
    held = cannot_be_freed(expected(row), "north-bucket", ON)
    assert held[0] > 0
    page.get_by_role("button", name="Show North bucket large").click()
    section = page.get_by_role("region", name="North bucket in full")
    expect(section).to_contain_text(
        f"brass: {bytes_text(held[0])} that nobody could free if every rule were cut on {written(ON)}"
    )
    expect(section.get_by_test_id("held")).to_have_count(1)


def test_a_target_is_told_apart_and_its_points_are_listed(page_of: Opener, row: Design) -> None:
    page = page_of("/forecast")
    result = expected(row)
    page.get_by_role("button", name="Show Moss pool large").click()
    page.get_by_label("Told apart by").click()
    page.get_by_role("option", name="by why they are there").click()
    parts = split(result, "moss-pool", "state")
    at = result.place_of(ON)
    for name, part in parts.items():
        text = f"{name}: {bytes_text(part.stored_bytes[at])}, {count_text(int(part.points[at]))}"
        expect(page.locator(f'[data-part="{name}"]')).to_have_text(text)
    page.get_by_label("What stands below").click()
    page.get_by_role("option", name="the list of its points").click()
    total = points_page(result, ON, Chosen(target="moss-pool"), 0, 1).total
    expect(page.get_by_test_id("listed")).to_have_text(f"1 to 100 of {count_text(total)}")
    page.get_by_role("button", name="More rows").click()
    expect(page.get_by_test_id("listed")).to_have_text(f"101 to 200 of {count_text(total)}")
    page_of_core = points_page(result, ON, Chosen(target="moss-pool"), 100, 1).rows[0]
    first = page.get_by_role("region", name="List of points").get_by_role("row").nth(1)
    expect(first).to_contain_text(page_of_core.taken.replace("T", " "))
    expect(first).to_contain_text(bytes_text(page_of_core.stored_bytes))
    assert seen_by_axe(page) == []


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
    expect(page.get_by_role("gridcell", name="21 TB", exact=True)).to_be_visible()
    assert load_design(row).workloads[0].size == "21 TB"


def test_workload_is_added_and_removed(page_of: Opener, row: Design) -> None:
    page = page_of("/workloads")
    page.get_by_role("button", name="Add", exact=True).click()
    expect(page.get_by_label("Last edit")).to_have_text("Saved: added a workload")
    assert len(load_design(row).workloads) == 43
    page.locator("body").press("Control+z")
    expect(page.get_by_label("Last edit")).to_have_text("Undone: added a workload")
    assert len(load_design(row).workloads) == 42


PATHS = [
    "/workloads",
    "/targets/salt-tape",
    "/rules/ladders/house",
    "/rules/cadences/database",
    "/routes/records",
    "/routes/records/house",
    "/forecast",
]


@pytest.mark.parametrize("path", PATHS)
@pytest.mark.parametrize("scheme", ["light", "dark"])
def test_axe_finds_nothing(page_of: Opener, page: Page, path: str, scheme: str) -> None:
    page.emulate_media(color_scheme=scheme)
    page = page_of(path)
    page.locator('aside [data-figure="points"], [role="list"]').first.wait_for()
    page.wait_for_timeout(600)
    assert seen_by_axe(page) == []


def test_axe_finds_nothing_on_the_way_in(row: Design, live_server: object, page: Page) -> None:
    page.goto(live_server.url)  # type: ignore[attr-defined]
    page.get_by_label("Name").wait_for()
    assert seen_by_axe(page) == []
    page.get_by_label("Password").fill("wrong")
    page.get_by_label("Name").fill("mara")
    page.get_by_role("button", name="Sign in").click()
    expect(page.get_by_role("alert")).to_have_text("This name and password do not go together")
    sign_in(page, live_server.url)  # type: ignore[attr-defined]


def seen_by_axe(page: Page) -> list[str]:
    found = Axe().run(page).response["violations"]
    return [f"{one['id']} ({one['impact']}): {node['html'][:160]}" for one in found for node in one["nodes"][:3]]
