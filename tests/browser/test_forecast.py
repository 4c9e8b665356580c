"""The forecast's views: every number on the page is the core's for the same design and date."""

import csv
import io
import re
import zipfile
from typing import Any
from xml.etree import ElementTree as ET

import pytest
from django.utils import timezone
from playwright.sync_api import Page, expect

from shelf_core.chance.bands import bands_of
from shelf_core.cost.cost import cost_of
from shelf_core.cost.overview import overview
from shelf_core.forecast.consequences import consequences
from shelf_core.forecast.forecast import Forecast
from shelf_core.forecast.points import Chosen, points_on, points_page
from shelf_core.forecast.splits import split
from shelf_core.forecast.unfree import cannot_be_freed
from shelf_core.formats.digest import digest
from shelf_core.reasons.keeps import longest_keep
from shelf_core.reasons.longer import one_more_month
from shelf_core.reasons.marginals import marginals
from shelf_core.reasons.packing import other_packing
from shelf_core.reasons.sums import explain
from shelf_server.designs.models import Design
from shelf_server.designs.results import forecast_of
from tests.browser.access import no_violations
from tests.browser.conftest import ON, Opener, expected
from tests.browser.figures import bytes_text, count_text, exact_bytes_text, figure, panel, written
from tests.browser.saving import saved_as


def choose(page: Page, label: str, words: str) -> None:
    page.get_by_label(label, exact=True).click()
    page.get_by_role("option", name=words, exact=True).click()


def money(amount: float) -> str:
    """As the page writes it: whole from 100 on, to the cent below."""
    digits = count_text(round(amount)) if abs(amount) >= 100 or abs(amount) < 0.005 else f"{amount:.2f}"
    return f"EUR\u00a0{digits}"


def part_of(result: Forecast, target: str) -> Any:
    return next(one for one in consequences(result, ON) if one.target == target)


def test_all_targets_stand_with_the_core_s_numbers_what_needs_attention_first(page_of: Opener, row: Design) -> None:
    page = page_of("/forecast")
    result = expected(row)
    found = overview(result, cost_of(result), ON, timezone.localdate().isoformat())
    for one in found.rows:
        line = page.locator(f'[data-target="{one.target}"]')
        expect(line.locator('[data-figure="points"]')).to_have_text(count_text(one.points_on))
        expect(line.locator('[data-figure="stored"]')).to_have_text(bytes_text(one.stored_on))
        expect(line.locator('[data-figure="cost"]')).to_have_text(f"{money(one.cost_month)} a month")
        full = (
            f"full on {written(one.full_on)}"
            if one.full_on
            else "grows with use"
            if one.room_on is None
            else "not full by the end of 2036"
        )
        expect(line.locator('[data-figure="full"]')).to_have_text(full)
    shown = page.locator("[data-target]").evaluate_all("all => all.map(one => one.dataset.target)")
    assert shown == [one.target for one in found.rows]
    expect(page.locator('[data-figure="cost-month"]')).to_have_text(money(found.cost_month))
    choose(page, "Shown as", "a table")
    first = found.rows[0]
    line = page.get_by_role("table", name="All targets in figures").locator(f'[data-target="{first.target}"]')
    for words in (
        bytes_text(first.stored_today),
        bytes_text(first.stored_on),
        bytes_text(first.peak),
        bytes_text(first.stored_end),
    ):
        expect(line).to_contain_text(words)


def test_one_target_is_read_by_keys_and_shown_larger(page_of: Opener, row: Design) -> None:
    page = page_of("/forecast")
    page.get_by_role("button", name="Show North bucket alone").press("Enter")
    section = page.get_by_role("region", name="North bucket in full")
    one = part_of(expected(row), "north-bucket")
    expect(section).to_contain_text(f"{one.points} points and {bytes_text(one.stored_bytes)} at the end of {written(ON)}")
    held = cannot_be_freed(expected(row), "north-bucket", ON)
    assert held[0] > 0
    expect(section).to_contain_text(f"brass: {bytes_text(held[0])} that nobody could free on {written(ON)}")
    expect(section.get_by_test_id("held")).to_have_count(1)
    chart = section.get_by_role("img", name=re.compile("^Bytes and points"))
    chart.press("ArrowRight")
    reading = section.get_by_test_id("reading")
    expect(reading).to_contain_text("stored, peak")
    result = expected(row)
    said = reading.inner_text().split(":")[0]
    place = next(at for at in range(result.frame.days) if written(result.day(at)) == said)
    totals = next(each.totals for each in result.targets if each.target.id == "north-bucket")
    assert place > result.place_of(ON)
    expect(reading).to_contain_text(
        f": {exact_bytes_text(totals.stored_bytes[place])} stored, peak {exact_bytes_text(totals.peak_bytes[place])}, "
        f"{count_text(int(totals.points[place]))} points for "
    )
    expect(chart).to_contain_text("2036")
    chart.press("+")
    expect(chart).not_to_contain_text("2036")
    section.get_by_role("button", name="All years").click()
    expect(chart).to_contain_text("2036")
    section.get_by_role("button", name="The year around").click()
    choose(page, "What stands below", "the chart in figures")
    day = page.get_by_role("table", name="The chart in figures").get_by_role("row").filter(has_text=ON)
    expect(day).to_contain_text(bytes_text(one.stored_bytes))
    expect(day).to_contain_text(bytes_text(held[0]))


def test_a_target_is_told_apart_and_its_points_are_listed(page_of: Opener, row: Design) -> None:
    page = page_of("/forecast/target/moss-pool")
    result = expected(row)
    choose(page, "Told apart by", "by why they are there")
    parts = split(result, "moss-pool", "state")
    at = result.place_of(ON)
    for name, part in parts.items():
        text = f"{name}: {bytes_text(part.stored_bytes[at])}, {count_text(int(part.points[at]))}"
        expect(page.locator(f'[data-part="{name}"]')).to_have_text(text)
    choose(page, "What stands below", "the chart in figures")
    day = page.get_by_role("table", name="The chart in figures").get_by_role("row").filter(has_text=ON)
    for part in parts.values():
        expect(day).to_contain_text(f"{bytes_text(part.stored_bytes[at])}, {count_text(int(part.points[at]))}")
    choose(page, "What stands below", "the list of its points")
    total = points_page(result, ON, Chosen(target="moss-pool"), 0, 1).total
    expect(page.get_by_test_id("listed")).to_have_text(f"1 to 100 of {count_text(total)}")
    page.get_by_role("button", name="More rows").click()
    expect(page.get_by_test_id("listed")).to_have_text(f"101 to 200 of {count_text(total)}")
    page_of_core = points_page(result, ON, Chosen(target="moss-pool"), 100, 1).rows[0]
    first = page.get_by_role("region", name="List of points").get_by_role("row").nth(1)
    expect(first).to_contain_text(page_of_core.taken.replace("T", " "))
    expect(first).to_contain_text(page_of_core.why)
    expect(first).to_contain_text(bytes_text(page_of_core.stored_bytes))


def test_the_list_of_points_is_narrowed_by_words_and_taken_away(page_of: Opener, row: Design) -> None:
    page = page_of("/forecast/target/moss-pool")
    result = expected(row)
    choose(page, "What stands below", "the list of its points")
    choose(page, "Kind of points", "incrementals")
    choose(page, "Rule of points", "monthly")
    page.get_by_label("Taken from").fill("2028-03-01")
    page.get_by_label("Taken to").fill("2028-06-30")
    page.get_by_label("Taken to").press("Enter")
    page.get_by_label("Workload of points").fill("mail")
    page.get_by_role("option", name="Mail", exact=True).click()
    chosen = Chosen(
        target="moss-pool", kind="incremental", rule="monthly", taken_from="2028-03-01", taken_to="2028-06-30", workload="mail"
    )
    rows = list(points_on(result, ON, chosen))
    assert 0 < len(rows) < 20
    expect(page.get_by_test_id("listed")).to_have_text(f"1 to {len(rows)} of {len(rows)}")
    lines = page.get_by_role("region", name="List of points").get_by_role("row")
    expect(lines).to_have_count(len(rows) + 1)
    expect(lines.last).to_contain_text(rows[-1].why)
    expect(lines.last.get_by_role("cell").nth(0)).to_have_text("Mail")
    expect(lines.last.get_by_role("cell").nth(1)).to_contain_text("Files and mail: ")
    with page.expect_download() as waiting:
        page.get_by_role("link", name=f"Download all {len(rows)} as CSV").click()
    saved = list(csv.DictReader(io.StringIO(waiting.value.path().read_text())))
    assert [(one["workload"], one["taken"], one["why"]) for one in saved] == [
        (one.workload, one.taken, one.why) for one in rows
    ]
    choose(page, "State of points", "due")
    expect(page.get_by_test_id("listed")).to_have_text("None")
    expect(page.get_by_role("region", name="List of points")).to_contain_text("No point that is there on this date fits")
    page.get_by_role("button", name="All of them").click()
    total = points_page(result, ON, Chosen(target="moss-pool"), 0, 1).total
    expect(page.get_by_test_id("listed")).to_have_text(f"1 to 100 of {count_text(total)}")


def test_a_date_of_the_list_is_typed_as_people_write_it_and_a_wrong_one_is_said_beside_it(page_of: Opener, row: Design) -> None:
    page_of.expected_refusals = {422}
    page = page_of("/forecast/points?workload=mail")
    listed = page.get_by_test_id("listed")
    expect(listed).to_contain_text("1 to ")
    before = listed.inner_text()
    field = page.get_by_label("Taken from")
    field.press_sequentially("soon", delay=60)
    field.press("Tab")
    expect(page.get_by_role("alert")).to_contain_text('got "soon"')
    expect(field).to_have_value("soon")
    expect(listed).to_have_text(before)
    field.fill("")
    field.press_sequentially("1 June 2028", delay=40)
    field.press("Tab")
    expect(field).to_have_value("2028-06-01")
    rows = list(points_on(expected(row), ON, Chosen(workload="mail", taken_from="2028-06-01")))
    expect(listed).to_have_text(f"1 to {min(100, len(rows))} of {count_text(len(rows))}")


def test_all_points_of_a_workload_are_found_on_all_targets_by_a_link(page_of: Opener, row: Design) -> None:
    page = page_of("/forecast/points?workload=mail")
    rows = list(points_on(expected(row), ON, Chosen(workload="mail")))
    assert len({one.target for one in rows}) > 1
    shown = min(100, len(rows))
    expect(page.get_by_test_id("listed")).to_have_text(f"1 to {shown} of {count_text(len(rows))}")
    expect(page.get_by_label("Workload of points")).to_have_value("Mail")
    choose(page, "Target of points", "North bucket")
    page.wait_for_url("**target=north-bucket**")
    there = [one for one in rows if one.target == "north-bucket"]
    expect(page.get_by_test_id("listed")).to_have_text(f"1 to {len(there)} of {len(there)}")
    first = page.get_by_role("region", name="List of points").get_by_role("row").nth(1)
    expect(first.get_by_role("cell").nth(2)).to_have_text("North bucket")
    no_violations(page)


def test_reasons_are_the_core_s(page_of: Opener, row: Design) -> None:
    page = page_of("/forecast/target/fern-disk")
    result = expected(row)
    why = explain(result, "fern-disk", ON)
    for sentence in why.sentences:
        expect(page.get_by_test_id("why")).to_contain_text(sentence)
    together = page.get_by_role("table", name="The sum").get_by_role("row").last
    expect(together).to_contain_text(count_text(why.points))
    expect(together).to_contain_text(bytes_text(why.stored_bytes))
    choose(page, "What stands below", "what each rule is worth")
    rules = page.get_by_role("table", name="What each rule is worth")
    worth = {
        (one.rule.owner, one.rule.words): here
        for one in marginals(result, ON)
        for here in one.differences
        if here.target == "fern-disk"
    }
    (_, words), heaviest = max(worth.items(), key=lambda item: abs(item[1].stored_bytes))
    expect(rules.get_by_role("row")).to_have_count(len(worth))
    first = rules.get_by_role("row").first
    expect(first).to_contain_text(words)
    expect(first).to_contain_text(bytes_text(heaviest.stored_bytes))
    expect(first).to_contain_text(f"{count_text(heaviest.points)} points")


def test_longest_keep_and_the_other_packing_are_the_core_s(page_of: Opener, row: Design) -> None:
    page = page_of("/forecast/target/moss-pool")
    result = expected(row)
    choose(page, "What stands below", "how long a rung could be kept")
    choose(page, "Rule", "weekly of Pooled machines")
    page.get_by_label("Until when it must fit").fill("31 December 2030")
    page.keyboard.press("Enter")
    expect(page.get_by_label("Until when it must fit")).to_have_value("2030-12-31")
    longest = longest_keep(result, "moss-pool", "pooled", "weekly", "2030-12-31")
    assert longest.count
    expect(page.get_by_test_id("longest")).to_contain_text(
        f"{count_text(longest.count)} weeks fit; it is {longest.now} weeks now."
    )
    choose(page, "What stands below", "its packing the other way")
    other = part_of(forecast_of(other_packing(result.design, "moss-pool")), "moss-pool")
    side = page.locator('[data-packing="other"]')
    expect(side).to_contain_text(f"{bytes_text(other.stored_bytes)} and {count_text(other.points)} points")
    expect(side).to_contain_text(f"peak {bytes_text(other.peak_bytes)}")


def test_the_handle_stops_at_ends_of_months_that_were_asked_for_ahead(page_of: Opener, row: Design) -> None:
    page = page_of("/forecast")
    asked: list[str] = []
    page.on("request", lambda request: asked.append(request.url) if "/overview" in request.url else None)
    page.locator("[data-spines]").first.wait_for()
    with page.expect_response(lambda response: "/overviews?" in response.url and "on=2036-12-31" in response.url):
        page.reload()
    line = (
        page.get_by_label("As-of date", exact=True)
        .locator("xpath=ancestor::*[contains(@class, 'MuiSlider-root')]")
        .bounding_box()
    )
    assert line is not None
    result = expected(row)
    for share, day in ((0.7, "2033-12-31"), (0.999, "2036-12-31")):
        del asked[:]
        page.mouse.click(line["x"] + share * line["width"], line["y"] + line["height"] / 2)
        expect(page.get_by_test_id("as-of")).to_have_text(written(day))
        for one in overview(result, cost_of(result), day, ON).rows:
            shown = page.locator(f'[data-target="{one.target}"] [data-figure="points"]')
            expect(shown).to_have_text(count_text(one.points_on))
        assert not [url for url in asked if "/overview?" in url], "what was asked for ahead is not asked for again"
    page.keyboard.press("ArrowLeft")
    expect(page.get_by_test_id("as-of")).to_have_text(written("2036-12-30"))


def test_cost_is_the_core_s(page_of: Opener, row: Design) -> None:
    page = page_of("/forecast/cost")
    result = expected(row)
    cost = cost_of(result)
    month = cost.month_of(ON)
    expect(page.get_by_test_id("month-cost")).to_have_text(money(float(cost.per_month()[month])))
    table = page.get_by_role("table", name="Cost of December 2028")
    for one in cost.targets:
        line = table.locator(f'[data-target="{one.target}"] [data-figure="together"]')
        expect(line).to_have_text(money(float(one.per_month()[month])))
    for beside in cost.beside:
        line = table.get_by_role("row").filter(has_text=beside.name)
        expect(line.locator('[data-figure="together"]')).to_have_text(money(float(beside.per_month[month])))
    whole = table.locator('[data-target="together"] [data-figure="together"]')
    expect(whole).to_have_text(money(float(cost.per_month()[month])))
    for category, amounts in cost.by_category().items():
        expect(table.locator(f'[data-target="together"] [data-figure="{category}"]')).to_have_text(money(float(amounts[month])))
    tape = next(one for one in cost.targets if one.target == "salt-tape")
    assert tape.cartridges is not None
    place = result.place_of(ON)
    expect(page.get_by_test_id("cartridges")).to_contain_text(
        f"{tape.cartridges.in_use[place]} cartridges in use, {tape.cartridges.free[place]} free"
    )
    choose(page, "What stands below the cost", "all months in figures")
    line = page.get_by_role("table", name="All months in figures").get_by_role("row").filter(has_text="2031-07")
    expect(line).to_contain_text(money(float(cost.per_month()[cost.month_of("2031-07-01")])))
    page.get_by_role("button", name="The whole page for this").click()
    expect(page.get_by_role("img", name=re.compile("^Cost of each month"))).to_have_count(0)
    page.get_by_role("button", name="Under the chart again").click()
    choose(page, "What stands below the cost", "what one more month of each rung costs")
    dearest = max(one_more_month(result), key=lambda one: one.whole_cost)
    first = page.get_by_role("table", name="One more month of each rung").get_by_role("row").first
    expect(first).to_contain_text(f"{dearest.rung}, {dearest.added}")
    expect(first).to_contain_text(f"{money(dearest.whole_cost)} over all years")


def test_what_is_not_known_is_drawn_and_edited(page_of: Opener, row: Design) -> None:
    page = page_of("/forecast/unknown")
    page.get_by_role("button", name="Draw 1\u202f000 times").click()
    drawn = page.get_by_role("table", name="What the draws come to")
    drawn.wait_for(timeout=300_000)
    found = bands_of(expected(row), 1000, 1)
    moss = next(one for one in found.bands if one.target == "moss-pool")
    line = drawn.locator('[data-target="moss-pool"]')
    expect(line).to_contain_text(f"{bytes_text(moss.peak_low)} to {bytes_text(moss.peak_high)}")
    assert moss.full_low
    expect(page.get_by_test_id("cost-band")).to_contain_text(f"{money(found.cost.whole_low)} to {money(found.cost.whole_high)}")
    expect(line).to_contain_text(f"a tenth by {written(moss.full_low)}")
    page.get_by_role("navigation", name="Views of the forecast").get_by_role("link", name="All targets").click()
    expect(page.locator('[data-target="moss-pool"]')).to_contain_text("of the draws")
    page.reload()
    expect(page.locator('[data-target="moss-pool"]')).to_contain_text("of the draws")
    page.get_by_role("button", name="Show Moss pool alone").click()
    choose(page, "Told apart by", "by copy")
    expect(page.locator("[data-band]")).to_have_count(2)
    expect(page.get_by_text("The sum lies between the dots in eight of ten draws.")).to_be_visible()
    page.get_by_role("navigation", name="Views of the forecast").get_by_role("link", name="Cost").click()
    expect(page.locator("[data-band]")).to_have_count(2)
    month = cost_of(expected(row)).month_of(ON)
    expect(page.get_by_text(f"{money(found.cost.month_low[month])} to {money(found.cost.month_high[month])}")).to_be_visible()
    page.get_by_role("navigation", name="Views of the forecast").get_by_role("link", name="What is not known").click()
    low = page.get_by_label("Low growth of Files and mail")
    low.fill("6")
    low.press("Enter")
    expect(page.get_by_label("Last edit")).to_have_text("Saved: Files and mail: growth between other ends")
    files = next(one for one in expected(row).design.unknowns if one.id == "files")
    assert files.annual_growth_percent
    assert files.annual_growth_percent.low == 6
    expect(page.get_by_text("What was drawn is about an earlier state of the design.")).to_be_visible()


def test_drawing_can_be_stopped(page_of: Opener, row: Design) -> None:
    page = page_of("/forecast/unknown")
    page.get_by_role("button", name="Draw 1\u202f000 times").click()
    page.get_by_role("button", name="Stop").click()
    expect(page.get_by_text("Stopped; nothing was drawn.")).to_be_visible(timeout=20_000)


@pytest.mark.parametrize(
    ("link", "begins"),
    [
        ("The report to print", b"%PDF"),
        ("The report to read on a screen", b"<!doctype html>"),
        ("The workbook", b"PK"),
        ("Every day of every target", b"PAR1"),
    ],
)
def test_files_are_taken_away(page_of: Opener, row: Design, link: str, begins: bytes) -> None:
    page = page_of("/forecast")
    page.get_by_role("button", name="Download", exact=True).click()
    with page.expect_download() as waiting:
        page.get_by_role("button", name=link).click()
    content = waiting.value.path().read_bytes()
    assert content.startswith(begins)
    if begins == b"<!doctype html>":
        assert digest(expected(row).document).encode() in content
    if begins == b"PK":
        assert "xl/workbook.xml" in zipfile.ZipFile(io.BytesIO(content)).namelist()


def test_a_chart_is_taken_away_as_drawing_picture_and_values(page_of: Opener, row: Design) -> None:
    page = page_of("/forecast/target/fern-disk")
    page.get_by_role("region", name="Fern disk in full").get_by_role("img", name=re.compile("^Bytes")).wait_for()
    found = {}
    for name in ("the chart as SVG", "the chart as PNG", "its values as CSV", "the shelf as SVG"):
        page.get_by_role("button", name="Download this picture").click()
        with page.expect_download() as waiting:
            page.get_by_role("menuitem", name=name).click()
        found[name.split()[-1] if "shelf" not in name else "shelf"] = waiting.value.path().read_bytes()
    assert found["SVG"].startswith(b"<svg")
    assert b"Collections: house" in found["shelf"]
    assert b"Source Sans" in found["SVG"]
    assert found["PNG"].startswith(b"\x89PNG")
    rows = list(csv.DictReader(io.StringIO(found["CSV"].decode())))
    result = expected(row)
    day = next(one for one in rows if one["date"] == ON)
    fern = next(one for one in result.targets if one.target.id == "fern-disk")
    assert float(day["stored_bytes"]) == pytest.approx(float(fern.totals.stored_bytes[result.place_of(ON)]), rel=1e-12)


def test_the_sum_behind_a_number_is_taken_away(page_of: Opener, row: Design) -> None:
    page = page_of("/forecast/target/fern-disk")
    why = explain(expected(row), "fern-disk", ON)
    page.get_by_role("table", name="The sum").wait_for()
    rows = list(csv.DictReader(io.StringIO(saved_as(page, "Download these", "their values as CSV").decode())))
    assert rows[-1] == {"why": "together", "points": str(why.points), "stored_bytes": rows[-1]["stored_bytes"]}
    assert float(rows[-1]["stored_bytes"]) == pytest.approx(why.stored_bytes, rel=1e-12)
    assert sum(int(one["points"]) for one in rows[:-1]) == why.points
    drawing = saved_as(page, "Download these", "the bars as SVG")
    assert ET.fromstring(drawing).tag == "{http://www.w3.org/2000/svg}svg"  # noqa: S314 - our own file
    assert b"counted by more than one rule" in drawing
    assert saved_as(page, "Download these", "the bars as PNG").startswith(b"\x89PNG")


def test_all_targets_are_taken_away_as_one_drawing(page_of: Opener, row: Design) -> None:
    page = page_of("/forecast")
    page.locator("[data-spines]").first.wait_for()
    drawing = ET.fromstring(saved_as(page, "Download this picture", "all rows as SVG"))  # noqa: S314 - our own file
    words = " ".join(one.text or "" for one in drawing.iter("{http://www.w3.org/2000/svg}text"))
    for one in expected(row).targets:
        assert one.target.name in words
    for tick in ("2027", "2036", "10 years", "a day"):
        assert tick in words, "years of the charts and ages of the shelves stand above them"
    assert len(drawing.findall("{http://www.w3.org/2000/svg}svg")) == 2 * (1 + len(expected(row).targets))
    assert saved_as(page, "Download this picture", "all rows as PNG").startswith(b"\x89PNG")


def test_the_panel_says_what_the_month_costs_and_its_change(page_of: Opener, row: Design) -> None:
    page = page_of("/rules/ladders/house")
    month = cost_of(expected(row)).month_of(ON)

    def costs() -> dict[str, float]:
        return {one.target: float(one.per_month()[month]) for one in cost_of(expected(row)).targets}

    before = costs()
    for target, cost in before.items():
        expect(figure(page, target, "cost")).to_have_text(money(cost) if cost else "")
    newest = page.get_by_label("Number of recent")
    newest.fill("40")
    newest.press("Enter")
    expect(page.get_by_label("Last edit")).to_contain_text("Saved")
    after = costs()
    assert after["fern-disk"] != before["fern-disk"]
    expect(figure(page, "fern-disk", "cost")).to_have_text(money(after["fern-disk"]))
    change = panel(page, "fern-disk").locator('[data-change="cost"]')
    expect(change).to_have_text(re.compile(re.escape(money(abs(after["fern-disk"] - before["fern-disk"])))))
