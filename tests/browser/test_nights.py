"""A night on the page: on a clock, bundled by copy, each transfer in words; a bundle opens by the keyboard."""

import re

import pytest
from django.contrib.auth import get_user_model
from playwright.sync_api import Page, expect

from shelf_core.design.reading import design_of
from shelf_core.nights.picture import night_of
from shelf_server.designs.actions import create_design
from shelf_server.designs.models import Design
from shelf_server.designs.rows.reading import load_design
from tests.browser.access import no_violations
from tests.browser.conftest import ON, Opener, expected
from tests.core.test_night_facts import house


@pytest.mark.usefixtures("followed")
def test_a_night_is_the_core_s_and_its_bundles_open(page_of: Opener, row: Design) -> None:
    page = page_of("/forecast/nights")
    expect(page.get_by_role("heading", name="The night of 31 December 2028")).to_be_visible(timeout=300_000)
    night = night_of(expected(row), ON)
    transfers = sum(len(bundle.bars) for bundle in night.bundles)
    expect(page.get_by_text(f"From noon to noon: {transfers} transfers, none late")).to_be_visible()
    files = next(bundle for bundle in night.bundles if (bundle.route, bundle.copy) == ("files", "house"))
    expect(page.get_by_role("img", name=f"{files.name}: {len(files.bars)} transfers, none late")).to_be_visible()
    bundle = page.get_by_role("button", name=files.name)
    bundle.press("Enter")
    expect(bundle).to_have_attribute("aria-expanded", "true")
    expect(page.get_by_text("finding what changed 7 h 45 min")).to_be_visible()
    bundle.press("Enter")
    expect(page.get_by_text("finding what changed 7 h 45 min")).to_be_hidden()
    for resource in night.resources:
        expect(page.get_by_role("img", name=f"Use of {resource.name}")).to_be_visible()
    page.get_by_role("button", name="As a table").press("Enter")
    rows = page.get_by_role("table", name=f"Transfers of the night of {ON}").get_by_role("row")
    expect(rows).to_have_count(1 + transfers)
    no_violations(page)


def _link(design: Design) -> dict[str, object]:
    (link,) = load_design(Design.objects.get(pk=design.pk)).links
    return link.plain()


def _small(row: Design) -> Design:
    """A full of 2.88 TB each night over a line of 200 MB/s, from 22:00, in a window that closes at 02:00: it takes 4 hours."""
    daily = {"id": "f", "kind": "full", "rrule": "FREQ=DAILY", "at": ["22:00"]}
    window = {"opens": "21:00", "closes": "02:00"}
    plain = house("2.88 TB", runs=[daily], link={"speed": "200 MB/s"}, copy={"window": window})
    return create_design(get_user_model().objects.get(username="mara"), design_of(plain))


def _type(page: Page, label: str, text: str) -> None:
    field = page.get_by_label(label, exact=True)
    field.click()
    page.keyboard.press("Control+a")
    page.keyboard.type(text, delay=20)
    page.keyboard.press("Tab")


def test_a_limit_is_drawn_and_typed(page_of: Opener, row: Design) -> None:
    design = _small(row)
    page_of.expected_refusals = {422}
    page = page_of(f"/designs/{design.pk}/targets")
    page.get_by_role("navigation", name="Lines between the sites").get_by_role("link").click()
    strip = page.get_by_test_id("week-strip")
    strip.scroll_into_view_if_needed()
    box = strip.bounding_box()
    assert box is not None
    hour, top, day = box["width"] * (720 - 84) / 720 / 24, box["height"] * 16 / 142, box["height"] * 18 / 142
    left = box["x"] + box["width"] * 84 / 720
    page.mouse.move(left + 8.5 * hour, box["y"] + top + 0.5 * day)
    page.mouse.down()
    page.mouse.move(left + 17.5 * hour, box["y"] + top + 4.5 * day, steps=4)
    page.mouse.up()
    sentence = page.get_by_test_id("line-sentence")
    expect(sentence).to_contain_text("On workdays from 08:00 to 18:00 at most 200 MB/s.")
    _type(page, "Speed of limit 1", "20 Mb/s")
    expect(page.get_by_role("alert")).to_contain_text("which may mean either; write MB/s or Mbit/s")
    expect(page.get_by_label("Speed of limit 1")).to_have_value("20 Mb/s")
    _type(page, "Speed of limit 1", "20mb/s")
    expect(page.get_by_role("alert")).to_contain_text("may mean either")
    _type(page, "Speed of limit 1", "20 MB/s")
    expect(sentence).to_contain_text("On workdays from 08:00 to 18:00 at most 20 MB/s.")
    _type(page, "Limit 1 begins", "7:30")
    expect(page.get_by_role("alert")).to_contain_text("expected a time of day")
    _type(page, "Limit 1 begins", "07:30")
    expect(sentence).to_contain_text("from 07:30 to 18:00")
    expect(page.get_by_label("Last edit")).to_contain_text("Saved")
    assert _link(design)["limits"] == [
        {"days": ["MO", "TU", "WE", "TH", "FR"], "from": "07:30", "to": "18:00", "speed": "20 MB/s"}
    ]
    page.get_by_role("button", name=re.compile("^Undo")).click()
    expect(sentence).to_contain_text("from 08:00 to 18:00")
    page.mouse.move(640, 700)
    expect(page.get_by_role("tooltip")).to_have_count(0)
    no_violations(page)


def test_a_late_night_is_found_and_mended(page_of: Opener, row: Design) -> None:
    """A pause of the line from 23:00 to 01:00 makes each night late; without it each ends at 02:00, which is in time."""
    design = _small(row)
    page = page_of(f"/designs/{design.pk}/targets?line=l")
    page.get_by_role("button", name="Add a limit by the hour").click()
    _type(page, "Limit 1 begins", "23:00")
    _type(page, "Limit 1 ends", "01:00")
    _type(page, "Speed of limit 1", "0 MB/s")
    expect(page.get_by_test_id("line-sentence")).to_contain_text("Every day from 23:00 to 01:00 nothing goes over it.")
    page.get_by_role("link", name="Forecast", exact=True).click()
    page.get_by_role("link", name="Nights").click()
    page.get_by_role("button", name="Follow all nights").click()
    expect(page.get_by_text("The first night on which something is late begins on 1 January 2027.")).to_be_visible()
    finding = page.locator("[data-finding=late]")
    expect(finding).to_contain_text("on 365 of the 365 nights since")
    page.get_by_role("link", name="Targets", exact=True).click()
    page.get_by_role("navigation", name="Lines between the sites").get_by_role("link").click()
    page.get_by_role("button", name="Remove limit 1").click()
    page.get_by_role("link", name="Forecast", exact=True).click()
    page.get_by_role("link", name="Nights").click()
    expect(page.get_by_test_id("night-change")).to_have_text(re.compile("^ends 2 h sooner than before; 0 late, 1 before$"))
    page.get_by_role("button", name="Follow all nights").click()
    expect(page.get_by_text("Every night ends in time.")).to_be_visible()
    expect(finding).to_have_count(0)
