"""A night on the page: on a clock, bundled by copy, each transfer in words; a bundle opens by the keyboard."""

from axe_playwright_python.sync_playwright import Axe
from playwright.sync_api import expect

from shelf_core.nights.picture import night_of
from shelf_server.designs.models import Design
from tests.browser.conftest import ON, Opener, expected


def test_a_night_is_the_core_s_and_its_bundles_open(page_of: Opener, row: Design) -> None:
    page = page_of("/forecast/nights")
    expect(page.get_by_role("heading", name="The night of 31 December 2028")).to_be_visible(timeout=60_000)
    night = night_of(expected(row), ON)
    transfers = sum(len(bundle.bars) for bundle in night.bundles)
    expect(page.get_by_text(f"From noon to noon: {transfers} transfers, none late")).to_be_visible()
    files = next(bundle for bundle in night.bundles if (bundle.route, bundle.copy) == ("files", "house"))
    expect(page.get_by_role("img", name=f"{files.name}: {len(files.bars)} transfers, none late")).to_be_visible()
    bundle = page.get_by_role("button", name=files.name)
    bundle.press("Enter")
    expect(bundle).to_have_attribute("aria-expanded", "true")
    expect(page.get_by_text("scan 7 h 45 min")).to_be_visible()
    bundle.press("Enter")
    expect(page.get_by_text("scan 7 h 45 min")).to_be_hidden()
    for resource in night.resources:
        expect(page.get_by_role("img", name=f"Use of {resource.resource}")).to_be_visible()
    found = Axe().run(page).response["violations"]
    assert [one["id"] for one in found] == []
