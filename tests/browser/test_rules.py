"""The rules under the hand: what is typed, dragged or chosen changes the figures of every target."""

import re

import pytest
from playwright.sync_api import Page, Route, expect

from shelf_core.forecast.consequences import consequences
from shelf_server.designs.models import Design
from shelf_server.designs.rows.reading import load_design
from tests.browser.access import no_violations
from tests.browser.conftest import ON, Opener, expected
from tests.browser.figures import bytes_text, count_text, figure, panel, written


def expect_panel_to_be_the_core_s(page: Page, row: Design) -> None:
    for one in consequences(expected(row), ON):
        expect(figure(page, one.target, "points")).to_have_text(count_text(one.points))
        expect(figure(page, one.target, "stored")).to_have_text(bytes_text(one.stored_bytes))
        expect(figure(page, one.target, "peak")).to_have_text(bytes_text(one.peak_bytes))
        if one.full_on:
            expect(figure(page, one.target, "full")).to_contain_text(f"full on {written(one.full_on)}")


def test_typed_number_changes_every_target_and_can_be_undone(page_of: Opener, row: Design) -> None:
    page = page_of("/rules/ladders/house")
    expect_panel_to_be_the_core_s(page, row)
    before = figure(page, "fern-disk", "points").inner_text()
    field = page.get_by_label("Number of recent")
    field.fill("40")
    expect(page.get_by_text("Tried, not yet saved")).to_be_visible()
    field.press("Enter")
    expect(page.get_by_label("Last edit")).to_have_text("Saved: recent set to 40")
    assert load_design(row).ladders[0].recent[0].keep.points == 40  # type: ignore[union-attr]
    expect_panel_to_be_the_core_s(page, row)
    assert figure(page, "fern-disk", "points").inner_text() != before
    expect(panel(page, "fern-disk").locator('[data-change="points"]')).to_contain_text("+")
    expect(page.get_by_test_id("sentence")).to_contain_text("Keeps the newest 40 points")
    field.blur()
    page.locator("body").press("Control+z")
    expect(page.get_by_label("Last edit")).to_contain_text("Undone: recent set to 40")
    expect(figure(page, "fern-disk", "points")).to_have_text(before)
    expect(panel(page, "fern-disk").locator('[data-change="points"]')).to_have_text("")
    page.locator("body").press("Control+Shift+z")
    expect(page.get_by_label("Last edit")).to_contain_text("Redone")
    assert load_design(row).ladders[0].recent[0].keep.points == 40  # type: ignore[union-attr]


def test_dragged_bar_is_tried_then_saved(page_of: Opener, row: Design) -> None:
    page = page_of("/rules/ladders/house")
    handle = page.get_by_role("slider", name="Reach of monthly")
    handle.wait_for()
    box = handle.bounding_box()
    assert box
    middle = box["y"] + box["height"] / 2
    page.mouse.move(box["x"] + 5, middle)
    page.mouse.down()
    page.mouse.move(box["x"] - 40, middle, steps=6)
    expect(page.get_by_text("Tried, not yet saved")).to_be_visible()
    page.mouse.up()
    expect(page.get_by_label("Last edit")).to_contain_text("Saved: monthly dragged to")
    kept = load_design(row).ladders[0].rungs[1].keep.periods  # type: ignore[union-attr]
    assert kept > 6
    expect(page.get_by_label("Number of monthly")).to_have_value(str(kept))
    expect_panel_to_be_the_core_s(page, row)


def test_bar_moves_by_keyboard(page_of: Opener, row: Design) -> None:
    page = page_of("/rules/ladders/house")
    page.get_by_role("slider", name="Reach of weekly").press("ArrowLeft")
    expect(page.get_by_label("Last edit")).to_have_text("Saved: weekly set to 7")
    assert load_design(row).ladders[0].rungs[0].keep.periods == 7  # type: ignore[union-attr]


def test_words_of_a_rung_are_chosen(page_of: Opener, row: Design) -> None:
    page = page_of("/rules/ladders/house")
    page.get_by_label("Pick of weekly").click()
    page.get_by_role("option", name="last").click()
    expect(page.get_by_test_id("sentence")).to_contain_text("the last point of each week")
    page.get_by_role("button", name="Add a rung").click()
    expect(page.get_by_label("Number of yearly")).to_have_value("4")
    page.get_by_role("button", name="Remove the rule monthly").click()
    expect(page.get_by_label("Number of monthly")).to_have_count(0)
    expect(page.get_by_label("Last edit")).to_have_text("Saved: removed monthly")
    assert [rung.name for rung in load_design(row).ladders[0].rungs] == ["weekly", "yearly"]
    expect_panel_to_be_the_core_s(page, row)


def test_half_typed_number_saves_nothing(page_of: Opener, row: Design) -> None:
    page = page_of("/rules/ladders/house")
    field = page.get_by_label("Number of recent")
    field.fill("")
    field.press("Tab")
    expect(field).to_have_value("14")
    assert load_design(row).ladders[0].recent[0].keep.points == 14  # type: ignore[union-attr]


def test_cadence_is_edited_without_knowing_its_rule(page_of: Opener, row: Design) -> None:
    page = page_of("/rules/cadences/weekend-full")
    page.get_by_role("group", name="Days of Saturday full").get_by_role("button", name="Wednesday").click()
    expect(page.get_by_label("Last edit")).to_contain_text("every week on Wednesday and Saturday")
    assert load_design(row).cadences[0].runs[0].rrule == "FREQ=WEEKLY;BYDAY=WE,SA"
    wednesday = page.get_by_role("region", name="Month").get_by_role("cell").filter(has_text="13").first
    expect(wednesday).to_contain_text("21:00 Saturday full (full)")
    page.get_by_label("Times of Nightly").fill("20:00, 04:00")
    page.get_by_label("Times of Nightly").press("Enter")
    expect(page.get_by_label("Last edit")).to_contain_text("at 20:00, 04:00")
    expect_panel_to_be_the_core_s(page, row)


def test_two_people_at_one_ladder_lose_nothing(page_of: Opener, second_page: Page, row: Design, live_server: object) -> None:
    mine = page_of("/rules/ladders/house")
    page_of.expected_refusals = {409}
    mine.get_by_label("Number of recent").wait_for()
    # What another does comes to the page by itself; here it has not come yet.
    mine.route("**/revision*", lambda _: None)
    second_page.goto(f"{live_server.url}/rules/ladders/house")  # type: ignore[attr-defined]
    theirs = second_page.get_by_label("Number of recent")
    theirs.fill("20")
    theirs.press("Enter")
    expect(second_page.get_by_label("Last edit")).to_have_text("Saved: recent set to 20")
    field = mine.get_by_label("Number of weekly")
    field.fill("9")
    field.press("Enter")
    dialog = mine.get_by_role("dialog", name="nils has changed this since you saw it")
    expect(dialog).to_contain_text("theirs: 20")
    assert load_design(row).ladders[0].recent[0].keep.points == 20  # type: ignore[union-attr]
    dialog.get_by_role("button", name="Keep theirs").click()
    expect(mine.get_by_label("Number of recent")).to_have_value("20")
    expect(mine.get_by_label("Number of weekly")).to_have_value("6")


def test_a_hold_is_added_in_a_sentence_and_keeps_points(page_of: Opener, row: Design) -> None:
    page = page_of("/rules/holds")
    page.get_by_role("button", name="Add a hold").click()
    expect(page.get_by_label("Last edit")).to_have_text("Saved: added a hold")
    for label, day in [("First day", "2027-02-01"), ("Last day", "2027-02-28"), ("Placed", "2027-03-01")]:
        field = page.get_by_label(f"{label} of hold 1")
        field.fill(day)
        field.press("Enter")
        expect(page.get_by_label("Last edit")).to_have_text(f"Saved: hold 1: {label.lower()} {day}")
    (hold,) = load_design(row).holds
    assert (hold.taken_from, hold.taken_to, hold.placed, hold.released) == ("2027-02-01", "2027-02-28", "2027-03-01", None)
    assert hold.workloads.ids == [load_design(row).workloads[0].id]
    page_of.expected_refusals = {422}
    released = page.get_by_label("Released of hold 1")
    released.fill("soon")
    released.press("Enter")
    expect(page.get_by_label("Last edit")).to_contain_text('got "soon"')
    assert load_design(row).holds == [hold]
    no_violations(page)


def test_a_run_comes_at_single_times_by_a_clock_of_its_own(page_of: Opener, row: Design) -> None:
    page = page_of("/rules/cadences/nightly")
    (run,) = load_design(row).cadences[[one.id for one in load_design(row).cadences].index("nightly")].runs
    name = run.name or run.id
    page.get_by_role("button", name="Dates").first.click()
    zone = page.get_by_label(f"Time zone of {name}")
    zone.fill("Asia/Kolkata")
    zone.press("Enter")
    expect(page.get_by_label("Last edit")).to_have_text(f"Saved: {name} by the clock of Asia/Kolkata")
    page.get_by_label(f"How {name} comes").click()
    page.get_by_role("option", name="at single times:").click()
    times = page.get_by_label(f"Single times of {name}")
    times.fill("2027-03-01 21:00, 2027-06-01 21:00")
    times.press("Enter")
    expect(page.get_by_label("Last edit")).to_contain_text("2027-06-01 21:00")
    now = next(one for one in load_design(row).cadences if one.id == "nightly").runs[0]
    assert (now.once, now.rrule, now.timezone) == (["2027-03-01T21:00", "2027-06-01T21:00"], None, "Asia/Kolkata")


@pytest.mark.parametrize(
    ("path", "field"),
    [
        ("/rules/cadences/database", "Times of Log"),
        ("/rules/ladders/house", "Number of monthly"),
        ("/routes/files/north", "Ladder of the copy"),
        ("/targets/fern-disk", "Name of the target"),
        ("/targets/salt-tape", "Name of the target"),
    ],
)
def test_fields_stand_from_the_first_where_they_stay(page_of: Opener, row: Design, path: str, field: str) -> None:
    """Whoever reaches for a field while a slow server still answers does not find another one there."""

    def late(route: Route) -> None:
        page_of.page.wait_for_timeout(700)
        route.continue_()

    # All that is asked about the design but the document itself.
    page_of.page.route(re.compile(r"/api/designs/\d+/.*on="), late)
    page = page_of(path)
    at_first = page.get_by_label(field).bounding_box()
    expect(page.locator('aside [data-figure="points"]').first).to_be_visible()
    page.wait_for_load_state("networkidle")
    assert page.get_by_label(field).bounding_box() == at_first
