"""The job as somebody new does it: from an empty design to a three-copy route with a locked object copy and a yearly tape."""

import re
from typing import Any
from urllib.parse import urlsplit

from django.contrib.auth import get_user_model
from playwright.sync_api import Locator, Page, Route, expect

from shelf_core.forecast.consequences import consequences
from shelf_core.forecast.protection import protection_on
from shelf_server.designs.models import Change, Design
from shelf_server.designs.rows.reading import load_design
from tests.browser.conftest import expected
from tests.browser.figures import bytes_text, count_text, figure, written

TABLE = "name\tsite\tsize\tdaily change\ttags\nAtlas\tQuay\t12 TB\t0.4\tmaps\nRegister\tQuay\t800 GB\t2\tmaps\n"


def choose(page: Page, label: str, words: str) -> None:
    page.get_by_label(label, exact=True).click()
    page.get_by_role("option", name=words, exact=True).click()


def saved(page: Page, words: str) -> None:
    expect(page.get_by_label("Last edit")).to_contain_text(words)


def go_to(page: Page, station: str) -> None:
    page.get_by_role("navigation", name="Stations").get_by_role("link", name=station).click()


class Clicks:
    """Clicks, and counts them."""

    def __init__(self) -> None:
        self.count = 0

    def __call__(self, what: Locator) -> None:
        self.count += 1
        what.click()


def begin(page: Page, address: str, clicks: Clicks | None = None, start: str = "") -> None:
    get_user_model().objects.create_user("nora", password="a-dull-password")
    page.set_default_timeout(60_000)
    page.goto(address)
    page.get_by_label("Name").fill("nora")
    page.get_by_label("Password").fill("a-dull-password")
    page.get_by_role("button", name="Sign in").click()
    page.get_by_label("Name of the design").fill("Harbour museum")
    page.get_by_label("Time zone").fill("Europe/Oslo")
    page.get_by_label("Starts on").fill("2027-01-01")
    page.get_by_label("Years ahead").fill("6")
    if start:
        choose(page, "Begin with", start)
    else:
        page.get_by_label("First site").fill("Quay")
    (clicks or Clicks())(page.get_by_role("button", name="Begin", exact=True))
    page.get_by_role("navigation", name="Stations").wait_for()


def add_site(page: Page, name: str) -> None:
    page.get_by_role("button", name="Add a site").click()
    page.get_by_role("dialog").get_by_label("Name").fill(name)
    page.get_by_role("dialog").get_by_role("button", name="Add a site").click()
    page.get_by_role("region", name=f"Site {name}").wait_for()


def add_target(page: Page, site: str, start: str) -> None:
    page.get_by_role("button", name=f"Add a target at {site}").click()
    page.get_by_role("dialog").get_by_role("button", name=re.compile(f"^{start}")).click()
    page.get_by_role("region", name=f"Target {start}").wait_for()


def make_targets(page: Page) -> None:
    go_to(page, "Targets")
    for site, start in [("Quay", "Backup disk"), ("Cloud", "Object store"), ("Cellar", "LTO-8 library")]:
        if site != "Quay":
            add_site(page, site)
        add_target(page, site, start)
    assert urlsplit(page.url).path.endswith("/targets/lto-8-library"), "the address is that of the page"
    page.get_by_role("link", name=re.compile("Backup disk")).click()
    page.get_by_role("region", name="Target Backup disk").wait_for()  # the editor of the one before has the same fields
    page.get_by_label("Capacity", exact=True).fill("90 TiB")
    page.get_by_label("Capacity", exact=True).press("Enter")
    saved(page, "Saved: Backup disk: capacity 90 TiB")


def import_workloads(page: Page) -> None:
    go_to(page, "Workloads")
    page.get_by_role("button", name="Import a table").click()
    field = page.get_by_label("Paste a table here; its first row names the columns")
    field.fill(TABLE.replace("12 TB", "a lot"))
    expect(page.get_by_label("Rows with a fault")).to_contain_text('Line 2, size: expected a size such as "12 TB"')
    expect(page.get_by_role("button", name="Import these rows")).to_be_disabled()
    field.fill(TABLE)
    expect(page.get_by_test_id("import-read")).to_contain_text("2 new, 0 changed, 0 as they are, 0 with a fault")
    page.get_by_role("button", name="Import these rows").click()
    saved(page, "imported 2 workloads")
    expect(page.get_by_role("button", name="2 on no route")).to_be_visible()


def make_route(page: Page) -> None:
    go_to(page, "Routes")
    page.get_by_role("button", name="Add a route").click()
    page.get_by_role("region", name=re.compile("^Route Route 1")).wait_for()
    page.get_by_label("Takes all workloads tagged").fill("maps")
    page.get_by_role("option", name="maps").click()
    saved(page, "takes the tags maps")
    for target in ("Object store", "LTO-8 library"):
        cell = page.get_by_role("gridcell", name=f"No copy on {target}. Enter adds one")
        cell.focus()
        cell.press("Enter")
        saved(page, f"a copy of Route 1 on {target}")


def lock_the_object_copy(page: Page) -> None:
    page.get_by_role("gridcell", name=re.compile("^object-store on Object store")).click()
    page.get_by_role("button", name="Add a lock").click()
    saved(page, "added a lock")
    page.get_by_label("Time of Lock", exact=True).fill("21")
    page.get_by_label("Time of Lock", exact=True).press("Enter")
    saved(page, "locked P21D")


def make_the_tape_yearly(page: Page) -> None:
    go_to(page, "Rules")
    page.get_by_role("button", name="Add a ladder").click()
    page.get_by_role("dialog").get_by_role("button", name=re.compile("^Year ends for ten years")).click()
    saved(page, "added Year ends")
    page.get_by_role("link", name="Cadences: when points are taken").click()
    page.get_by_role("button", name="Add a cadence").click()
    page.get_by_role("dialog").get_by_role("button", name=re.compile("^A full each night")).click()
    saved(page, "added A full each night")
    choose(page, "Unit of Night full", "years, on day")
    saved(page, "every year")
    page.get_by_label("Day of Night full", exact=True).fill("31")
    page.get_by_label("Day of Night full", exact=True).press("Enter")
    saved(page, "on the 31. of January")
    go_to(page, "Routes")
    page.get_by_role("gridcell", name=re.compile("^lto-8-library on LTO-8 library")).click()
    choose(page, "Where its points come from", "reads at its own times")
    saved(page, "reads at its own times")
    choose(page, "Cadence of the copy", "A full each night")
    saved(page, "by A full each night")
    choose(page, "Ladder of the copy", "Year ends for ten years")
    saved(page, "keeps by Year ends")


def test_from_nothing_to_a_report_in_twelve_clicks(
    transactional_db: None, live_server: Any, page: Page, settings: Any, worker: None
) -> None:
    """Two workloads' worth of typing aside: what is clicked is counted, and the line that says what comes next is followed."""
    settings.PASSWORD_HASHERS = ["django.contrib.auth.hashers.MD5PasswordHasher"]
    clicks = Clicks()
    begin(page, live_server.url, clicks)
    next_line = page.get_by_role("status", name="What comes next")
    expect(next_line).to_contain_text("First say what is to be protected")
    page.get_by_label("Name of the workload").fill("Registers")
    page.get_by_label("Size of it").fill("a lot")
    page.get_by_label("Changes a day, %").fill("1.5")
    page.get_by_label("Grows a year, %").fill("12")
    page.get_by_label("Size of it").press("Enter")
    expect(page.get_by_role("form", name="The first workload")).to_contain_text('expected a size such as "12 TB"')
    expect(page.get_by_label("Name of the workload")).to_have_value("Registers")
    page.get_by_label("Size of it").fill("2.4 TB")
    clicks(page.get_by_role("button", name="Add the workload"))
    saved(page, "added Registers")
    expect(next_line).to_contain_text("Next say where its points lie")
    clicks(next_line.get_by_role("link", name="Go there"))
    clicks(page.get_by_role("button", name="Add a target at Quay"))
    clicks(page.get_by_role("dialog").get_by_role("button", name=re.compile("^Backup disk")))
    page.get_by_role("region", name="Target Backup disk").wait_for()
    expect(next_line).to_contain_text("Next bring both together")
    clicks(next_line.get_by_role("link", name="Go there"))
    clicks(page.get_by_role("button", name="Add a route"))
    saved(page, "added a route")
    expect(next_line).to_have_count(0)
    clicks(page.get_by_role("navigation", name="Stations").get_by_role("link", name="Forecast"))
    clicks(page.get_by_role("button", name="Download", exact=True))
    with page.expect_download(timeout=300_000) as download:
        clicks(page.get_by_role("button", name="The report to read on a screen"))
    report = download.value.path().read_text()
    assert "Registers" in report
    assert "Backup disk" in report
    assert clicks.count <= 12
    row = Design.objects.get(name="Harbour museum")
    route = load_design(row).routes[0]
    assert (route.workloads.ids, route.copies[0].cadence) == (["registers"], "nightly")
    assert any(one.points > 0 for one in consequences(expected(row), "2028-12-31"))


def test_a_second_enter_while_the_server_is_slow_adds_one_workload(
    transactional_db: None, live_server: Any, page: Page, settings: Any
) -> None:
    settings.PASSWORD_HASHERS = ["django.contrib.auth.hashers.MD5PasswordHasher"]
    begin(page, live_server.url)

    def late(route: Route) -> None:
        page.wait_for_timeout(1200)
        route.continue_()

    page.route("**/workload-rows", late)
    page.get_by_label("Name of the workload").press_sequentially("Registers", delay=40)
    page.get_by_label("Size of it").press_sequentially("2.4 TB", delay=40)
    page.get_by_label("Changes a day, %").press_sequentially("1.5", delay=40)
    grows = page.get_by_label("Grows a year, %")
    grows.press_sequentially("12", delay=40)
    grows.press("Enter")
    grows.press("Enter")
    saved(page, "added Registers")
    page.reload()
    expect(page.get_by_role("gridcell", name="2.4 TB", exact=True)).to_have_count(1)
    (workload,) = load_design(Design.objects.get()).workloads
    assert (workload.size, workload.daily_change_percent, workload.annual_growth_percent) == ("2.4 TB", 1.5, 12)
    assert Change.objects.count() == 1


def test_a_worked_design_is_begun_with(transactional_db: None, live_server: Any, page: Page, settings: Any) -> None:
    settings.PASSWORD_HASHERS = ["django.contrib.auth.hashers.MD5PasswordHasher"]
    begin(page, live_server.url, start="Databases with logs")
    page.get_by_role("heading", name="Rules").or_(page.get_by_role("link", name="Rules")).first.wait_for()
    design = load_design(Design.objects.get())
    assert (design.name, design.timezone, design.starts, design.years) == ("Harbour museum", "Europe/Oslo", "2027-01-01", 6)
    assert [one.id for one in design.workloads] == ["orders", "stock", "people"]
    expect(page.get_by_role("status", name="What comes next")).to_have_count(0)


def test_from_an_empty_design_to_three_copies(transactional_db: None, live_server: Any, page: Page, settings: Any) -> None:
    settings.PASSWORD_HASHERS = ["django.contrib.auth.hashers.MD5PasswordHasher"]
    begin(page, live_server.url)
    make_targets(page)
    import_workloads(page)
    make_route(page)
    lock_the_object_copy(page)
    make_the_tape_yearly(page)
    numbers_are_the_core_s(page, Design.objects.get())


def numbers_are_the_core_s(page: Page, row: Design) -> None:
    result, on = expected(row), "2028-12-31"
    copies = load_design(row).routes[0].copies
    assert [copy.target for copy in copies] == ["backup-disk", "object-store", "lto-8-library"]
    assert copies[1].lock[0].for_ == "P21D"
    assert page.get_by_test_id("as-of").inner_text() == written(on)
    for one in consequences(result, on):
        assert one.points > 0
        expect(figure(page, one.target, "points")).to_have_text(count_text(one.points))
        expect(figure(page, one.target, "stored")).to_have_text(bytes_text(one.stored_bytes))
        expect(figure(page, one.target, "peak")).to_have_text(bytes_text(one.peak_bytes))
    (group,) = protection_on(result, on)["route"]
    assert (group.missing, group.locked) == ((), True)
    expect(page.locator('[data-protection="route"]')).to_have_text("3-2-1 holds on 31 December 2028, oldest copy 335 days")
