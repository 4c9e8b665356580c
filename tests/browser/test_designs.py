"""Designs and their variants, history, undo over everything, find, and what is in use."""

import re

from playwright.sync_api import Page, Route, expect

from shelf_server.designs.models import Change, Design
from shelf_server.designs.rows.reading import load_design
from tests.browser.conftest import Opener
from tests.browser.figures import figure


def last_edit(page: Page, words: str) -> None:
    expect(page.get_by_label("Last edit")).to_have_text(words)


def type_number(page: Page, label: str, value: int) -> None:
    field = page.get_by_label(label, exact=True)
    field.fill(str(value))
    field.press("Enter")


def open_menu(page: Page) -> None:
    page.get_by_role("button", name=re.compile("^Design Lindmoor")).click()


def test_variant_is_branched_changed_made_current_and_the_other_dropped(page_of: Opener, row: Design) -> None:
    page = page_of("/rules/ladders/house")
    open_menu(page)
    page.get_by_role("button", name="Branch a variant").click()
    page.get_by_role("dialog").get_by_label("Name").fill("Longer yearly")
    page.get_by_role("dialog").get_by_role("button", name="Branch a variant").click()
    expect(page.get_by_role("button", name="Design Lindmoor Botanic Trust, variant Longer yearly")).to_be_visible()
    page.get_by_label("Number of recent").wait_for()
    before = figure(page, "fern-disk", "points").inner_text()
    type_number(page, "Number of recent", 40)
    last_edit(page, "Saved: recent set to 40")
    other = Design.objects.exclude(pk=row.pk).get()
    assert load_design(other).ladders[0].recent[0].keep.points == 40  # type: ignore[union-attr]
    assert load_design(row).ladders[0].recent[0].keep.points == 14  # type: ignore[union-attr]
    expect(page.locator('aside [data-target="fern-disk"] [data-change="points"]')).to_contain_text("+")
    # What changed most stands first in the panel.
    assert page.locator("aside [data-target]").first.get_attribute("data-target") == "fern-disk"
    open_menu(page)
    page.get_by_role("button", name="Make it current").click()
    expect(page.get_by_role("button", name="Longer yearly current")).to_be_visible()
    page.get_by_role("button", name="As it stands", exact=True).click()
    expect(page.get_by_role("button", name="Design Lindmoor Botanic Trust, variant As it stands")).to_be_visible()
    expect(figure(page, "fern-disk", "points")).to_have_text(before)
    open_menu(page)
    page.get_by_role("button", name="Remove the variant").click()
    page.get_by_role("dialog", name="Remove As it stands?").get_by_role("button", name="Remove it").click()
    expect(page.get_by_role("button", name="Design Lindmoor Botanic Trust, variant Longer yearly")).to_be_visible()
    assert Design.objects.get().variant == "Longer yearly"


def test_history_says_who_did_what_and_undo_takes_it_all_back(page_of: Opener, row: Design) -> None:
    before = load_design(row)
    page = page_of("/targets/fern-disk")
    capacity = page.get_by_label("Capacity", exact=True)
    capacity.fill("500 TB")
    capacity.press("Enter")
    last_edit(page, "Saved: Fern disk: capacity 500 TB")
    page.get_by_role("link", name="Rules").click()
    type_number(page, "Number of recent", 9)
    last_edit(page, "Saved: recent set to 9")
    page.get_by_role("link", name="Workloads").click()
    page.get_by_role("button", name="Add a workload", exact=True).click()
    last_edit(page, "Saved: added a workload")
    page.keyboard.press("Control+k")
    page.get_by_role("combobox", name="Find an object or an action").fill("history")
    page.keyboard.press("Enter")
    steps = page.get_by_role("article")
    expect(steps).to_have_count(3)
    expect(steps.nth(0)).to_contain_text("added a workload")
    expect(steps.nth(1)).to_contain_text("recent, 1, keep, points: 14 → 9")
    expect(steps.nth(2)).to_contain_text("capacity: 460 TB → 500 TB")
    expect(steps.nth(2)).to_contain_text("mara")
    page.get_by_role("button", name="Close the history").click()
    for words in ("added a workload", "recent set to 9", "Fern disk: capacity 500 TB"):
        page.keyboard.press("Control+z")
        last_edit(page, f"Undone: {words}")
    assert load_design(row) == before
    page.keyboard.press("Control+Shift+z")
    last_edit(page, "Redone: Fern disk: capacity 500 TB")
    page.reload()
    page.get_by_role("button", name="Undo: Fern disk: capacity 500 TB").wait_for()
    page.keyboard.press("Control+Shift+z")
    last_edit(page, "Redone: recent set to 9")
    page.keyboard.press("Control+z")
    last_edit(page, "Undone: recent set to 9")


def test_a_design_goes_back_to_a_step_and_forth_again(page_of: Opener, row: Design) -> None:
    page = page_of("/targets/fern-disk")
    capacity = page.get_by_label("Capacity", exact=True)
    for size in ("500 TB", "510 TB", "520 TB"):
        capacity.fill(size)
        capacity.press("Enter")
        last_edit(page, f"Saved: Fern disk: capacity {size}")
    page.keyboard.press("Control+k")
    page.get_by_role("combobox", name="Find an object or an action").fill("history")
    page.keyboard.press("Enter")
    expect(page.get_by_role("article").nth(0)).to_contain_text("as it is now")
    page.get_by_role("button", name="Back to after: Fern disk: capacity 500 TB").click()
    region = page.get_by_role("region", name="Going back")
    expect(region).to_contain_text("Going back changes one entry:")
    expect(region).to_contain_text("capacity: 520 TB → 500 TB")
    region.get_by_role("button", name="Go back").click()
    last_edit(page, "Saved: back to after: Fern disk: capacity 500 TB")
    page.get_by_role("button", name="Close the history").click()
    expect(capacity).to_have_value("500 TB")
    page.get_by_role("button", name="Undo: back to after: Fern disk: capacity 500 TB").click()
    last_edit(page, "Undone: back to after: Fern disk: capacity 500 TB")
    expect(capacity).to_have_value("520 TB")


def test_undo_does_not_take_back_what_somebody_else_did(page_of: Opener, row: Design, second_page: Page) -> None:
    page = page_of("/rules/ladders/house")
    page_of.expected_refusals = {409}
    type_number(page, "Number of recent", 9)
    last_edit(page, "Saved: recent set to 9")
    second_page.goto(page.url)
    second_page.get_by_label("Number of recent").wait_for()
    type_number(second_page, "Number of weekly", 30)
    last_edit(second_page, "Saved: weekly set to 30")
    page.get_by_label("Number of recent").blur()
    page.keyboard.press("Control+z")
    dialog = page.get_by_role("dialog")
    expect(dialog).to_contain_text("nils has changed this since you saw it")
    expect(dialog).to_contain_text("theirs: ")
    dialog.get_by_role("button", name="Keep theirs").click()
    ladder = load_design(row).ladders[0]
    assert (ladder.recent[0].keep.points, ladder.rungs[0].keep.periods) == (9, 30)  # type: ignore[union-attr]


def test_what_another_does_comes_to_the_page_by_itself(page_of: Opener, row: Design, second_page: Page) -> None:
    page = page_of("/rules/ladders/house")
    page.get_by_label("Number of recent").wait_for()
    second_page.goto(page.url)
    second_page.get_by_label("Number of recent").wait_for()
    type_number(second_page, "Number of weekly", 30)
    last_edit(page, "nils: weekly set to 30")
    expect(page.get_by_label("Number of weekly")).to_have_value("30")


def test_find_goes_to_objects_of_every_kind(page_of: Opener, row: Design) -> None:
    page = page_of("/forecast")
    for typed, path in [
        ("salt store tape", "/targets/salt-tape"),
        ("herbarium", "/workloads/herbarium-scans"),
        ("kept by law house", "/routes/records/house"),
        ("every six hours", "/rules/cadences/"),
        ("house rule", "/rules/ladders/house"),
    ]:
        page.keyboard.press("Control+k")
        page.get_by_role("combobox", name="Find an object or an action").fill(typed)
        page.keyboard.press("Enter")
        expect(page).to_have_url(re.compile(re.escape(path)))
    page.keyboard.press("Control+k")
    page.get_by_role("combobox", name="Find an object or an action").fill("qqq")
    expect(page.get_by_text("Nothing in this design is called that")).to_be_visible()


def test_what_is_in_use_says_where_and_offers_another(page_of: Opener, row: Design) -> None:
    page = page_of("/rules/ladders/house")
    page.get_by_role("button", name="Remove", exact=True).click()
    dialog = page.get_by_role("dialog", name="House rule is in use")
    expect(dialog).to_contain_text("the copy house of Collections keeps by it")
    dialog.get_by_label("In its place").click()
    page.get_by_role("option", name="Away", exact=True).click()
    dialog.get_by_role("button", name="Replace and remove").click()
    last_edit(page, "Saved: removed House rule, away in its place")
    now = load_design(row)
    assert "house" not in [ladder.id for ladder in now.ladders]
    assert next(route for route in now.routes if route.id == "collections").copies[0].ladder == "away"
    page.keyboard.press("Control+z")
    last_edit(page, "Undone: removed House rule, away in its place")
    assert load_design(row).ladders[0].id == "house"


def test_a_ladder_is_tried_on_one_route_and_then_used_on_others(page_of: Opener, row: Design) -> None:
    page = page_of("/rules/ladders/house")
    page.get_by_role("button", name="Try on one route").click()
    page.get_by_role("menuitem", name="Retiring on Wall disk").click()
    last_edit(page, "Saved: a copy of House rule to try on Retiring")
    expect(page.get_by_label("Name of the ladder")).to_have_value("House rule, tried on Retiring")
    type_number(page, "Number of recent", 5)
    last_edit(page, "Saved: recent set to 5")
    page.get_by_role("button", name="Use on…").click()
    dialog = page.get_by_role("dialog", name=re.compile("^Use House rule"))
    expect(dialog).to_contain_text("Nothing yet: choose copies above.")
    dialog.get_by_label("Collections: house (now House rule)").check()
    expect(dialog.get_by_test_id("effects")).to_contain_text("Collections: house on Fern disk")
    dialog.get_by_role("button", name="Use it there").click()
    last_edit(page, "Saved: House rule, tried on Retiring is used on 1 more copy")
    now = load_design(row)
    users = [route.id for route in now.routes for copy in route.copies if copy.ladder == "house-tried"]
    assert users == ["collections", "retiring"]
    assert Change.objects.filter(design=row, revision=4).count() == 1


def test_a_cadence_is_tried_on_one_route(page_of: Opener, row: Design) -> None:
    page = page_of("/rules/cadences/nightly")
    page.get_by_role("button", name="Try on one route").click()
    page.get_by_role("menuitem").first.click()
    expect(page.get_by_label("Last edit")).to_contain_text("Saved: a copy of")
    now = load_design(row)
    assert [copy.cadence for route in now.routes for copy in route.copies].count("nightly-tried") == 1


def test_an_edit_builds_on_the_one_that_is_still_on_its_way(page_of: Opener, row: Design) -> None:
    """The first edit is held back; the second, made meanwhile on the same entry, must not take it back."""
    page = page_of("/targets/fern-disk")
    held: list[Route] = []
    page.route("**/edits", lambda route: route.continue_() if held else held.append(route))
    capacity = page.get_by_label("Capacity", exact=True)
    capacity.fill("500 TB")
    with page.expect_request("**/edits"):
        capacity.press("Enter")
    reserve = page.get_by_label("Reserve in percent")
    reserve.fill("12")
    reserve.press("Enter")
    page.wait_for_timeout(300)
    held[0].continue_()
    last_edit(page, "Saved: Fern disk: 12 % stay free")
    disk = load_design(row).targets[0]
    assert (disk.capacity, disk.reserve_percent) == ("500 TB", 12)
