"""The matrix of routes by mouse and by keyboard, copies in sentences, opening stock; targets in sentences; runs."""

import re

from playwright.sync_api import FloatRect, Locator, Page, expect

from shelf_core.design.document import selected
from shelf_core.design.routes import Copy
from shelf_server.designs.models import Design
from shelf_server.designs.rows.reading import load_design
from tests.browser.conftest import Opener
from tests.browser.test_designs import last_edit, type_number
from tests.browser.test_rules import expect_panel_to_be_the_core_s


def type_text(page: Page, label: str, text: str) -> None:
    field = page.get_by_label(label, exact=True)
    field.fill(text)
    field.press("Enter")


def at_rest(page: Page, place: Locator) -> FloatRect:
    """Where a thing is once answers have stopped to move it: what a hand that is about to take it waits for, too."""
    seen: list[FloatRect | None] = []
    for _ in range(100):
        seen.append(place.bounding_box())
        if len(seen) >= 4 and seen[-1] and seen[-4:] == seen[-1:] * 4:
            return seen[-1]
        page.wait_for_timeout(150)
    raise AssertionError(f"it never came to rest: {seen[-4:]}")


def drag(page: Page, source: Locator, target: Locator) -> None:
    """As a hand does it, by way of many places: a browser tells of a drag over a place only once the pointer moves there."""
    begin, end = at_rest(page, source), at_rest(page, target)
    page.mouse.move(begin["x"] + 6, begin["y"] + 6)
    page.mouse.down()
    page.mouse.move(begin["x"] + 16, begin["y"] + 8, steps=4)
    page.mouse.move(end["x"] + end["width"] / 2, end["y"] + end["height"] / 2, steps=10)
    page.mouse.move(end["x"] + end["width"] / 2 + 3, end["y"] + end["height"] / 2, steps=2)
    page.mouse.up()


def copies(row: Design, route: str) -> list[Copy]:
    return next(one for one in load_design(row).routes if one.id == route).copies


def cell(page: Page, route: str, name: str) -> None:
    page.get_by_role("row", name=route).get_by_role("gridcell", name=re.compile(f"^{name}")).focus()


def choose(page: Page, label: str, words: str) -> None:
    page.get_by_label(label, exact=True).click()
    page.get_by_role("option", name=words, exact=True).click()


def test_copies_are_made_moved_and_removed_by_keyboard(page_of: Opener, row: Design) -> None:
    page = page_of("/routes/machines")
    cell(page, "Machines", "house on Moss pool")
    page.keyboard.press("ArrowRight")
    page.keyboard.press("Enter")
    last_edit(page, "Saved: a copy of Machines on Wall disk")
    assert [(one.target, one.from_) for one in copies(row, "machines")] == [("moss-pool", None), ("wall-disk", "house")]
    expect_panel_to_be_the_core_s(page, row)
    cell(page, "Machines", "wall-disk on Wall disk")
    page.keyboard.press("Shift+ArrowRight")
    last_edit(page, "Saved: wall-disk moved to Wall pool")
    assert copies(row, "machines")[1].target == "wall-pool"
    cell(page, "Machines", "wall-disk on Wall pool")
    page.keyboard.press("Delete")
    last_edit(page, "Saved: removed the copy wall-disk of Machines")
    assert len(copies(row, "machines")) == 1
    expect_panel_to_be_the_core_s(page, row)


def test_copies_are_dragged_and_step_downs_drawn(page_of: Opener, row: Design) -> None:
    page = page_of("/routes/files")
    line = page.get_by_role("row", name="Files and mail")
    # A drag goes astray when the matrix still moves under it: wait until all that it shows is there.
    expect(page.locator('[data-protection="files"]')).to_contain_text("3-2-1 holds on 31 December 2028")
    page.wait_for_load_state("networkidle")
    expect(line).to_be_in_viewport(ratio=0.99)  # the row that is chosen is in sight, also in a matrix that scrolls
    drag(
        page, line.locator('[data-copy="files/north"]'), line.get_by_role("gridcell", name=re.compile("No copy on Cold cellar"))
    )
    last_edit(page, "Saved: north moved to Cold cellar")
    assert copies(row, "files")[1].target == "cold-cellar"
    drag(
        page, line.locator('[data-step-handle="files/house"]'), line.get_by_role("gridcell", name=re.compile("No copy on Salt"))
    )
    last_edit(page, "Saved: house steps down to Salt store tape")
    (step,) = copies(row, "files")[0].step_downs
    assert (step.target, step.after) == ("salt-tape", "P6M")
    expect(line.get_by_role("gridcell", name="house steps down to Salt store tape")).to_be_visible()


def touch(page: Page, source: Locator, target: Locator, held: int) -> None:
    """A finger on one place, held for so many milliseconds, then moved to another and lifted."""
    begin, end = at_rest(page, source), at_rest(page, target)
    fingers = page.context.new_cdp_session(page)
    fingers.send("Emulation.setTouchEmulationEnabled", {"enabled": True})
    path = [(begin["x"] + 6, begin["y"] + 6), (end["x"] + end["width"] / 2, end["y"] + end["height"] / 2)]
    for number, (x, y) in enumerate(path):
        kind = "touchStart" if number == 0 else "touchMove"
        fingers.send("Input.dispatchTouchEvent", {"type": kind, "touchPoints": [{"x": x, "y": y}]})
        page.wait_for_timeout(held)
    fingers.send("Input.dispatchTouchEvent", {"type": "touchEnd", "touchPoints": []})


def test_a_copy_is_dragged_by_touch_once_it_is_held(page_of: Opener, row: Design) -> None:
    page = page_of("/routes/files")
    line = page.get_by_role("row", name="Files and mail")
    expect(page.locator('[data-protection="files"]')).to_contain_text("3-2-1 holds on 31 December 2028")
    page.wait_for_load_state("networkidle")
    there = line.get_by_role("gridcell", name=re.compile("No copy on Cold cellar"))
    touch(page, line.locator('[data-copy="files/north"]'), there, held=20)  # that is how one scrolls
    page.wait_for_timeout(500)
    assert copies(row, "files")[1].target == "north-bucket"
    touch(page, line.locator('[data-copy="files/north"]'), there, held=600)
    last_edit(page, "Saved: north moved to Cold cellar")
    assert copies(row, "files")[1].target == "cold-cellar"


def test_a_copy_is_edited_in_its_sentences(page_of: Opener, row: Design) -> None:
    page = page_of("/routes/files/north")
    choose(page, "Where its points come from", "follows")
    last_edit(page, "Saved: Files and mail: north: follows")
    type_number(page, "Delay", 3)
    last_edit(page, "Saved: Files and mail: north: delay PT3H")
    choose(page, "What it takes of the source", "only the kinds")
    last_edit(page, "Saved: Files and mail: north: takes only the kinds")
    choose(page, "Ladder of the copy", "Kept by law")
    last_edit(page, "Saved: Files and mail: north: keeps by Kept by law")
    choose(page, "When old points are deleted", "only when a run comes")
    last_edit(page, "Saved: Files and mail: north: old points go only when a run comes")
    choose(page, "What is there when the design starts", "its first full is already there")
    last_edit(page, "Saved: Files and mail: north begins with a full that is already there")
    north = copies(row, "files")[1]
    assert (north.delay, north.ladder, north.sweep) == ("PT3H", "by-law", "with-runs")
    assert len([one for one in load_design(row).opening if one.copy_ == "north"]) == 7
    expect_panel_to_be_the_core_s(page, row)


def test_findings_stand_beside_the_copy_they_are_about(page_of: Opener, row: Design) -> None:
    page = page_of("/routes/records/house")
    expect(page.get_by_label("Findings")).to_contain_text("What weekly keeps of Records kept by law: house never steps down")
    page.get_by_role("link", name="Targets").click()
    page.locator('main [data-target="north-bucket"]').click()
    expect(page.get_by_label("Findings")).to_contain_text("outlasts what its ladder keeps")


def test_opening_stock_is_imported_after_a_look_at_every_row(page_of: Opener, row: Design) -> None:
    page = page_of("/routes/retiring")
    design = load_design(row)
    retiring = next(one for one in design.routes if one.id == "retiring")
    workload = selected(retiring.workloads, design.workloads)[0].id
    page.get_by_role("button", name="Opening stock", exact=True).click()
    table = f"route,copy,workload,taken,kind\nretiring,wall,{workload},2026-12-30T22:00,full\nretiring,none,{workload},2026-12-30T22:00,full\n"
    page.get_by_label("Paste the table here").fill(table)
    expect(page.get_by_test_id("opening-read")).to_have_text("1 points read, 1 rows with a fault.")
    expect(page.get_by_role("button", name="Import these points")).to_be_disabled()
    page.get_by_label("Leave this row out").check()
    page.get_by_role("button", name="Import these points").click()
    last_edit(page, "Saved: 1 points of opening stock")
    expect(page.get_by_role("region", name="Route Retiring")).to_contain_text("1 points of opening stock")
    assert load_design(row).opening[0].taken == "2026-12-30T22:00"
    page.get_by_role("button", name="Opening stock", exact=True).click()
    expect(page.get_by_label("Opening stock that is there")).to_contain_text(
        f"2026-12-30 22:00, full of {workload} on retiring: wall"
    )


def test_a_refused_value_stays_to_be_mended(page_of: Opener, row: Design) -> None:
    page = page_of("/targets/fern-disk")
    page_of.expected_refusals = {422}
    field = page.get_by_label("Capacity", exact=True)
    field.fill("lots")
    field.press("Enter")
    expect(page.get_by_role("alert")).to_contain_text('expected a size such as "12 TB"')
    expect(field).to_have_value("lots")
    expect(field).to_have_attribute("aria-invalid", "true")
    field.press("Escape")
    expect(field).to_have_value("460 TB")


def test_every_value_of_a_target_is_edited(page_of: Opener, row: Design) -> None:
    page = page_of("/targets/cold-cellar")
    type_number(page, "Minimum stay in days", 90)
    last_edit(page, "Saved: Cold cellar: billed at least 90 days")
    choose(page, "Lock ability", "can be locked so that nobody can lift it")
    last_edit(page, "Saved: Cold cellar: can be locked so that nobody can lift it")
    choose(page, "When space is given back", "every Sunday")
    last_edit(page, "Saved: Cold cellar: space is given back every Sunday")
    type_text(page, "Price of a TB read back", "7,5")
    last_edit(page, "Saved: Cold cellar: 7.5 EUR for a TB read back")
    cellar = next(one for one in load_design(row).targets if one.id == "cold-cellar")
    assert (cellar.minimum_days, cellar.lock, cellar.reclaim.rrule) == (90, "final", "FREQ=WEEKLY;BYDAY=SU")  # type: ignore[union-attr]
    assert cellar.prices
    assert (cellar.prices.retrieval_tb, cellar.prices.part_size) == (7.5, "64 MiB")
    expect_panel_to_be_the_core_s(page, row)


def test_a_run_is_spread_over_a_window_limited_and_skipped(page_of: Opener, row: Design) -> None:
    page = page_of("/rules/cadences/database")
    choose(page, "How Differential is spread over the day", "each day every")
    last_edit(page, "Saved: Differential: at 08:00, 12:00, 16:00, 20:00")
    type_number(page, "Minutes between runs of Differential", 360)
    last_edit(page, "Saved: Differential: at 08:00, 14:00, 20:00")
    page.get_by_role("button", name="Dates").nth(1).click()
    type_text(page, "Dates that Differential skips", "2028-12-24, 2028-12-25")
    last_edit(page, "Saved: Differential skips 2028-12-24, 2028-12-25")
    run = next(one for one in load_design(row).cadences if one.id == "database").runs[1]
    assert (run.at, run.except_) == (["08:00", "14:00", "20:00"], ["2028-12-24", "2028-12-25"])


def test_sizing_help_fits_the_past_and_refuses_too_little(page_of: Opener, row: Design) -> None:
    page = page_of("/workloads/herbarium-scans")
    page.get_by_role("button", name="Measure a workload").click()
    page.get_by_role("button", name="Past fulls and incrementals").click()
    table = page.get_by_label("A table with the columns taken, kind and size (as stored)")
    table.fill("taken,kind,size\n2026-01-01T20:00,full,10 TB")
    page.get_by_role("button", name="Fit").click()
    expect(page.get_by_role("alert")).to_contain_text("There is too little to fit: 1 fulls")
    expect(page.get_by_role("button", name="Use these values")).to_be_disabled()
    nights = "\n".join(f"2026-01-{day:02}T20:00,incremental,105 GB" for day in range(2, 9))
    table.fill(f"taken,kind,size\n2026-01-01T20:00,full,10.5 TB\n{nights}\n2026-01-09T20:00,full,10.5 TB")
    page.get_by_role("button", name="Fit").click()
    expect(page.get_by_test_id("fitted")).to_contain_text("Reduction 2.00; 1.00 %")
    expect(page.get_by_role("img", name=re.compile("Stored and fitted bytes of 7 points"))).to_be_visible()
    page.get_by_role("button", name="Use these values").click()
    last_edit(page, "Saved: Herbarium scans sized")
    scans = load_design(row).workloads[0]
    assert (scans.reduction, scans.daily_change_percent) == (2, 1)


def test_sizing_help_reads_a_listing(page_of: Opener, row: Design) -> None:
    page = page_of("/workloads/herbarium-scans")
    page.get_by_role("button", name="Measure a workload").click()
    table = "path,size,changed\n/a,900 GB,2026-01-01\n/b,100 GB,2026-03-01\n/c.tmp,5 GB,2026-03-01"
    page.get_by_label("A table with the columns path, size and changed").fill(table)
    page.get_by_label("but not those like").fill("*.tmp")
    page.get_by_role("button", name="Read", exact=True).click()
    expect(page.get_by_test_id("listing-read")).to_contain_text("2 files, 1.00 TB; 1 files, 5.00 GB left out")
    page.get_by_role("button", name="Use these values").click()
    last_edit(page, "Saved: Herbarium scans sized")
    scans = load_design(row).workloads[0]
    assert (scans.size, round(scans.daily_change_percent, 3)) == (10**12, 1.429)


def test_what_the_grid_has_no_room_for_is_edited_beside_it(page_of: Opener, row: Design) -> None:
    page = page_of("/workloads/survey-maps")
    page.get_by_role("button", name="Show details").click()
    page.get_by_role("button", name="Add a dated step of its size").click()
    last_edit(page, "Saved: Survey maps: a dated step")
    type_text(page, "Size of step 1", "900 GB")
    last_edit(page, "Saved: Survey maps: a step of 900 GB")
    choose(page, "What it has in common", "in common")
    page.get_by_role("button", name="Add a part of an index").click()
    last_edit(page, "Saved: Survey maps: a part of an index")
    maps = next(one for one in load_design(row).workloads if one.id == "survey-maps")
    assert ([step.add for step in maps.steps], [member.id for member in maps.members]) == (["900 GB"], ["part"])
    assert maps.alike
    assert maps.alike.percent == 50


def test_logs_stay_as_long_as_is_said(page_of: Opener, row: Design) -> None:
    page = page_of("/rules/ladders/house")
    choose(page, "How long logs stay", "for a time:")
    last_edit(page, "Saved: logs stay 7 days")
    type_number(page, "Time that logs stay", 3)
    last_edit(page, "Saved: logs stay P3D")
    assert load_design(row).ladders[0].logs == "P3D"


def test_spines_are_read_with_the_arrow_keys(page_of: Opener, row: Design) -> None:
    page = page_of("/rules/ladders/house")
    shelf = page.get_by_role("img", name=re.compile("^On the shelf"))
    shelf.focus()
    shelf.press("ArrowLeft")
    shelf.press("PageUp")
    expect(page.get_by_text(re.compile(r"December 2028.*Kept by recent"))).to_be_visible()
