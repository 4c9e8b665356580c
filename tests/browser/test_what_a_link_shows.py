"""A link shows what its sender saw: the date, the stretch, the filter, the way of showing. Figures are written as one likes."""

import re

from playwright.sync_api import Page, expect

from shelf_server.designs.models import Design, Preferences
from tests.browser.conftest import ON, Opener
from tests.browser.figures import written
from tests.browser.test_forecast import choose
from tests.browser.test_grid import first_rows

AWAY = "2031-03-31"


def goes_to(there: Page, page: Page) -> None:
    """In another browser, the same person at the same address."""
    there.context.add_cookies(page.context.cookies())  # type: ignore[arg-type]
    there.goto(page.url)
    there.get_by_role("navigation", name="Stations").wait_for()


def test_a_link_shows_the_date_the_stretch_and_what_stands_below(page_of: Opener, other_page: Page) -> None:
    page = page_of("/forecast/target/moss-pool")
    page.get_by_label("As-of date").press("End")
    page.get_by_role("button", name="The year around").click()
    choose(page, "Told apart by", "by kind")
    choose(page, "What stands below", "the list of its points")
    choose(page, "Kind of points", "incrementals")
    listed = page.get_by_test_id("listed")
    expect(listed).to_contain_text("of")
    for words in ("on=", "from=", "to=", "by=kind", "below=points", "kind=incremental"):
        expect(page).to_have_url(re.compile(re.escape(words)))
    goes_to(other_page, page)
    expect(other_page.get_by_test_id("as-of")).to_have_text(page.get_by_test_id("as-of").inner_text())
    expect(other_page.get_by_role("button", name="All years")).to_be_visible()
    expect(other_page.get_by_label("Told apart by", exact=True)).to_have_text("by kind")
    expect(other_page.get_by_label("Kind of points", exact=True)).to_have_text("incrementals")
    expect(other_page.get_by_test_id("listed")).to_have_text(listed.inner_text())


def test_another_view_keeps_the_date_in_its_address_and_no_more(page_of: Opener) -> None:
    page = page_of(f"/forecast/cost?on={AWAY}&by=category&on-the-way=1")
    expect(page.get_by_test_id("as-of")).to_have_text(written(AWAY))
    expect(page.get_by_label("Stacked", exact=True)).to_have_text("by category")
    page.get_by_role("link", name="Points", exact=True).click()
    expect(page).to_have_url(re.compile(rf"/forecast/points\?on={AWAY}$"))
    page.go_back()
    expect(page.get_by_label("Stacked", exact=True)).to_have_text("by category")


def test_a_link_to_the_grid_shows_the_same_rows_in_the_same_order(page_of: Opener, other_page: Page) -> None:
    page = page_of("/workloads")
    page.get_by_role("columnheader", name="Growth %/yr").click()
    page.get_by_label("Names and tags with").fill("web")
    expect(page).to_have_url(re.compile(r"(words=web|order=growth).*(words=web|order=growth)"))
    shown = page.get_by_test_id("shown").inner_text()
    goes_to(other_page, page)
    expect(other_page.get_by_test_id("shown")).to_have_text(shown)
    expect(other_page.get_by_role("columnheader", name="Growth %/yr")).to_have_attribute("aria-sort", "ascending")
    expect(other_page.get_by_label("Names and tags with")).to_have_value("web")
    assert first_rows(other_page, 5) == first_rows(page, 5)


def test_a_date_that_the_design_does_not_have_asks_for_none(page_of: Opener) -> None:
    page = page_of("/forecast?on=1999-01-01")
    expect(page.get_by_test_id("as-of")).to_have_text(written(ON))
    expect(page).to_have_url(re.compile(rf"on={ON}"))


def test_figures_are_written_as_the_person_likes_them_everywhere(page_of: Opener, row: Design) -> None:
    page = page_of("/forecast/target/moss-pool")
    sums = page.get_by_role("region", name="why there are so many")
    expect(sums).to_contain_text(re.compile("\\d\u202f\\d{3}"))
    page.get_by_role("button", name=row.name).click()
    page.get_by_role("button", name="Numbers and dates").click()
    choose(page, "Between thousands", "a comma: 1,234,567")
    choose(page, "How dates are written", "as 2028-12-31")
    page.get_by_role("button", name="Save").click()
    expect(page.get_by_test_id("as-of")).to_have_text(ON)
    expect(sums).to_contain_text(re.compile(r"\d,\d{3}"))
    assert "\u202f" not in page.locator("main").inner_text()
    expect(sums.get_by_text("the day of the peak")).to_contain_text(re.compile(r"On \d{4}-\d{2}-\d{2}, the day of the peak"))
    page.wait_for_timeout(1200)  # what is chosen is kept a moment later
    kept = Preferences.objects.get(user__username="mara")
    assert (kept.digits, kept.dates) == ("comma", "iso")
    page.reload()
    expect(page.get_by_test_id("as-of")).to_have_text(ON)
    expect(sums).to_contain_text(re.compile(r"\d,\d{3}"))
