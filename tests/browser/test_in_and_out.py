"""Files in and out of the real page: documents, calendars, workbooks, and tokens for scripts."""

import json
import urllib.request
from pathlib import Path
from typing import Any

import icalendar
import openpyxl
import pytest
from playwright.sync_api import Page, expect

from shelf_core.calendar.zones import local_text
from shelf_core.design.differences import differences
from shelf_core.design.reading import design_of, read_design
from shelf_core.engine.schedule.runs import run_times, runs_of
from shelf_core.forecast.forecast import forecast
from shelf_core.formats.digest import digest
from shelf_core.formats.documents import document_text, read_document
from shelf_server.designs.models import Design, Token
from shelf_server.designs.rows.reading import load_design
from tests.browser.conftest import Opener, expected
from tests.browser.figures import bytes_text, count_text, written


def menu(page: Page, name: str) -> None:
    page.get_by_role("button", name="Design Lindmoor").click()
    page.get_by_role("button", name=name, exact=True).click()


def changed(row: Design) -> dict[str, Any]:
    document = load_design(row).canonical()
    plain: dict[str, Any] = json.loads(json.dumps(document))
    plain["ladders"][0]["recent"] = [{"keep": {"points": 30}}]
    plain["name"] = "Lindmoor, kept longer"
    return plain


def test_a_document_is_shown_then_put_in_the_design_s_place(page_of: Opener, row: Design, tmp_path: Path) -> None:
    page = page_of("/rules/ladders")
    before, after = load_design(row), design_of(changed(row))
    file = tmp_path / "longer.yaml"
    file.write_text(document_text(after, "yaml"))
    menu(page, "Import a document")
    page.locator("input[type=file]").last.set_input_files(file)
    read = page.get_by_test_id("document-read")
    expect(read).to_contain_text(f"Digest {digest(after)}")
    listed = page.get_by_role("list", name="What would change").get_by_role("listitem")
    expect(listed).to_have_text([f"{one.part}: {one.name} {one.how}" for one in differences(before, after)])
    fern = forecast(after).targets[0]
    line = page.get_by_role("table", name="What it comes to").get_by_role("row").nth(1)
    expect(line).to_contain_text(bytes_text(float(fern.totals.peak_bytes.max())))
    assert fern.full_on is not None
    expect(line).to_contain_text(written(forecast(after).day(fern.full_on)))
    assert load_design(row) == before, "nothing is changed by looking"
    page.get_by_role("button", name="Put it in the place of this design").click()
    expect(page.get_by_role("button", name="Design Lindmoor, kept longer")).to_be_visible()
    row.refresh_from_db()
    assert load_design(row) == after


def test_a_document_becomes_a_design_of_its_own_or_is_refused_by_place(page_of: Opener, row: Design) -> None:
    page = page_of("/rules/ladders")
    menu(page, "Import a document")
    page_of.expected_refusals = {422}
    field = page.get_by_label("Paste a document here")
    field.fill(json.dumps({**changed(row), "years": 0}))
    expect(page.get_by_role("alert")).to_contain_text("expected")
    expect(page.get_by_role("button", name="Make it a design of its own")).to_be_disabled()
    field.fill(json.dumps(changed(row)))
    page.get_by_role("button", name="Make it a design of its own").click()
    expect(page.get_by_role("button", name="Design Lindmoor, kept longer")).to_be_visible()
    made = Design.objects.latest("pk")
    assert made.pk != row.pk
    assert load_design(made) == design_of(changed(row))


@pytest.mark.parametrize("name", ["JSON", "YAML", "calendar"])
def test_a_design_is_kept_as_a_file(page_of: Opener, row: Design, name: str) -> None:
    page = page_of("/rules/ladders")
    page.get_by_role("button", name="Design Lindmoor").click()
    with page.expect_download() as waiting:
        page.get_by_role("link", name=name, exact=True).click()
    content = waiting.value.path().read_bytes()
    if name == "calendar":
        assert icalendar.Calendar.from_ical(content).walk("VEVENT")
    else:
        assert read_document(content) == load_design(row)


def test_a_cadence_goes_out_as_a_calendar_and_comes_back(page_of: Opener, row: Design, tmp_path: Path) -> None:
    page = page_of("/rules/cadences")
    before = load_design(row)
    first = before.cadences[0]
    with page.expect_download() as waiting:
        page.get_by_role("link", name="Its runs as a calendar").click()
    file = tmp_path / "runs.ics"
    file.write_bytes(waiting.value.path().read_bytes())
    page.locator("input[type=file]").set_input_files(file)
    frame = expected(row).frame
    lines = page.get_by_role("table", name="Runs of the calendar").get_by_role("row")
    for line, (run, times) in enumerate(zip(first.runs, run_times(first, frame), strict=True), 1):
        expect(lines.nth(line)).to_contain_text(run.kind)
        expect(lines.nth(line)).to_contain_text(count_text(len(times)))
        expect(lines.nth(line)).to_contain_text(local_text(int(times[0])).replace("T", " "))
    row.refresh_from_db()
    assert load_design(row).cadences[-1].name == before.cadences[-1].name, "nothing is changed by looking"
    page.get_by_role("button", name="Make it a cadence").click()
    expect(page.get_by_label("Last edit")).to_have_text("Saved: added a cadence from a calendar")
    row.refresh_from_db()
    read = load_design(row).cadences[-1]
    assert runs_of(read, frame).instants.tolist() == runs_of(first, frame).instants.tolist()
    page_of.expected_refusals = {422}
    file.write_text("BEGIN:VCALENDAR\nBEGIN:VTODO\nEND:VTODO\nEND:VCALENDAR\n")
    page.locator("input[type=file]").set_input_files(file)
    expect(page.get_by_role("alert")).to_contain_text('got a component "VTODO"')


def test_a_workbook_is_imported_as_workloads(page_of: Opener, row: Design, tmp_path: Path) -> None:
    book = openpyxl.Workbook()
    assert book.active is not None
    for line in (["Name", "Site", "Size (GB)", "Change %"], ["Moss atlas", "glasshouse", 1500, 1.5]):
        book.active.append(line)
    file = tmp_path / "workloads.xlsx"
    book.save(file)
    page = page_of("/workloads")
    page.get_by_role("button", name="Import").first.click()
    page.locator("input[type=file]").last.set_input_files(file)
    expect(page.get_by_test_id("import-read")).to_contain_text("1 new, 0 changed")
    page.get_by_role("button", name="Import these rows").click()
    expect(page.get_by_label("Last edit")).to_contain_text("Saved")
    row.refresh_from_db()
    atlas = load_design(row).workloads[-1]
    assert (atlas.name, atlas.size, atlas.daily_change_percent) == ("Moss atlas", "1500 GB", 1.5)


def test_a_token_is_made_used_and_taken_back(page_of: Opener, row: Design) -> None:
    page = page_of("/rules/ladders")
    menu(page, "Tokens for scripts")
    page.get_by_label("What the token is for").fill("nightly check")
    page.get_by_label("What the token is for").press("Enter")
    token = page.get_by_test_id("token").inner_text()
    origin = page.evaluate("location.origin")

    def asked(path: str, **headers: str) -> int:
        request = urllib.request.Request(f"{origin}{path}", headers=headers)  # noqa: S310 - our own server
        try:
            with urllib.request.urlopen(request) as answer:  # noqa: S310 - as above
                content = answer.read()
        except urllib.error.HTTPError as error:
            return error.code
        if path.endswith("document"):
            assert read_design(content) == load_design(row)
        return 200

    path = f"/api/designs/{row.pk}/document"
    assert asked(path, Authorization=f"Bearer {token}") == 200
    assert asked(path) == 401
    page.get_by_label("What the token is for").fill("wall display")
    page.get_by_label("What the token may do").click()
    page.get_by_role("option", name="subscribes to calendars only").click()
    page.get_by_role("button", name="Make the token").click()
    expect(page.get_by_test_id("token")).to_contain_text("calendar.ics?token=shelf_")
    address = page.get_by_test_id("token").inner_text()
    assert asked(address.removeprefix(origin)) == 200
    page.get_by_role("button", name="Revoke nightly check").click()
    expect(page.get_by_role("table", name="Tokens").get_by_role("row")).to_have_count(2)
    assert asked(path, Authorization=f"Bearer {token}") == 401
    assert Token.objects.get().name == "wall display"
