"""Cost: by plain arithmetic, and against day-by-day sums written apart."""

import math
from typing import Any

import numpy as np
import pytest

from shelf_core.cost.cartridges import cartridge_days
from shelf_core.cost.cost import Cost, cost_of
from shelf_core.cost.months import months_of
from shelf_core.cost.overview import overview
from shelf_core.design.reading import design_of, read_design
from shelf_core.forecast.forecast import Forecast, forecast
from shelf_core.forecast.tape import used_cartridges
from shelf_core.forecast.transfers import requests
from tests.designs import DEMO, NEWEST_14, WEEKLY_FULL, design, run

DAILY = [run("full", "FREQ=DAILY", "12:00")]
NEWEST_1 = {"recent": [{"keep": {"points": 1}}], "floor": 0}


def priced(document: dict[str, Any], prices: dict[str, Any], **target: Any) -> tuple[Forecast, Cost]:
    document["targets"][0] |= {"prices": prices, **target}
    result = forecast(design_of(document))
    return result, cost_of(result)


def two_targets(prices: dict[str, Any], site: str) -> tuple[Forecast, Cost]:
    """A daily full of 10 TB, followed to a second target."""
    document = design(DAILY, NEWEST_1)
    document["sites"].append({"id": "there"})
    document["targets"].append({"id": "second", "media": "object", "site": site})
    document["routes"][0]["copies"].append({"id": "next", "target": "second", "from": "first", "ladder": "rule"})
    return priced(document, prices)


def test_capacity_is_bytes_integrated_over_the_month() -> None:
    """10 TB from noon on 1 January, one full at a time: half a day is missing of January. Plain arithmetic."""
    result, cost = priced(design(DAILY, NEWEST_1), {"capacity_tb_month": 3})
    capacity = cost.targets[0].by_category["capacity"]
    assert cost.months == [f"2027-{month:02d}" for month in range(1, 13)]
    # At each noon the next full is there before the last one goes, for no time at all: the sweep is at the same instant.
    assert capacity[0] == pytest.approx(3 * 10 * 30.5 / 31)
    assert capacity[1:] == pytest.approx([30] * 11)
    assert cost.per_month() == pytest.approx(capacity)
    assert result.targets[0].totals.peak_bytes.max() == pytest.approx(20e12)


def test_capacity_agrees_with_hourly_sums() -> None:
    """The same integral, hour by hour over a copy of the points' lives."""
    result, cost = priced(design(WEEKLY_FULL, NEWEST_14), {"capacity_tb_month": 1})
    life = result.holdings[0].life
    sizes = np.where(life.parent < 0, 10.0, 0.2)
    frame = result.frame
    hours = np.arange(frame.begin, frame.end, 3600) + 1800
    there = ((life.written[None, :] <= hours[:, None]) & (hours[:, None] < life.removed[None, :])) @ sizes
    months = months_of(frame)
    by_month = np.bincount(months.of(hours), there, len(months.names)) / (months.seconds / 3600)
    assert cost.targets[0].by_category["capacity"] == pytest.approx(by_month, rel=2e-3)


def test_requests_are_counted_by_parts() -> None:
    """10 TB in parts of 1 MiB are 9,536,744 requests, of 1 MB 10,000,000 (plain arithmetic)."""
    for part, count in (("1 MiB", 9_536_744), ("1 MB", 10_000_000)):
        _, cost = priced(design(DAILY, NEWEST_1), {"requests_thousand": 1, "part_size": part})
        assert cost.targets[0].by_category["requests"][1] == pytest.approx(28 * count / 1000)
        assert requests(10e12, {"1 MiB": 2**20, "1 MB": 10**6}[part]) == count


def test_objects_of_alike_workloads_have_a_last_part_each() -> None:
    """3 machines of 10.5 MB in parts of 4 MB: 3 parts each, 9 together, not 8. Plain arithmetic."""
    document = design(DAILY, NEWEST_1, workload={"size": "10.5 MB", "count": 3})
    _, cost = priced(document, {"requests_thousand": 1000, "part_size": "4 MB"})
    assert cost.targets[0].by_category["requests"][1] == pytest.approx(28 * 9)


def test_reading_for_another_target_is_retrieved_and_travels() -> None:
    """Every full is read from the first target: 10 TB a day; traffic only where the other stands elsewhere."""
    for site, travels in (("there", True), ("here", False)):
        _, cost = two_targets({"retrieval_tb": 2, "traffic_tb": 5, "requests_thousand": 1, "part_size": "1 TB"}, site)
        first, second = cost.targets
        assert first.by_category["retrieval"][1] == pytest.approx(2 * 10 * 28)
        assert first.by_category["traffic"][1] == pytest.approx(5 * 10 * 28 if travels else 0)
        # Ten parts written and ten read for each.
        assert first.by_category["requests"][1] == pytest.approx(28 * 20 / 1000)
        assert not second.per_month().any()


def test_early_deletion_is_billed_for_the_rest_of_the_stay() -> None:
    """One full at a time, gone after a day, on a store that bills 30 days: 29 days more of each are billed.

    A day is 1/31 of a month in January, 1/28 in February. Plain arithmetic.
    """
    _, cost = priced(design(DAILY, NEWEST_1), {"capacity_tb_month": 1}, minimum_days=30)
    early = cost.targets[0].by_category["early deletion"]
    days = np.datetime64("2027-02-01") - np.timedelta64(1, "D") + np.arange(28)
    wanted = 0.0
    for day in days:  # written at noon, gone at the next noon, which lies in February
        until = day + np.timedelta64(30, "D")
        gone = day + np.timedelta64(1, "D")
        wanted += 10 * (share_of_months(until) - share_of_months(gone))
    assert early[1] == pytest.approx(wanted)


def share_of_months(day: np.datetime64) -> float:
    """Months since the start of 2027 to noon of a day."""
    month = day.astype("datetime64[M]")
    into = (day - month.astype("datetime64[D]")).astype(int) + 0.5
    length = ((month + 1).astype("datetime64[D]") - month.astype("datetime64[D]")).astype(int)
    return float((month - np.datetime64("2027-01")).astype(int) + into / length)


def test_early_deletion_where_blocks_are_shared_is_no_more_than_what_goes() -> None:
    """A daily full of which 2 % is new: a sweep lets go of a pair's change, never of the whole full."""
    _, cost = priced(design(DAILY, NEWEST_14, packing="shared"), {"capacity_tb_month": 1}, minimum_days=60)
    early = cost.targets[0].by_category["early deletion"]
    most = 31 * 0.2 * (60 - 14) / 28
    assert 0 < early[5] < most
    _, kept = priced(design(DAILY, NEWEST_14, packing="shared"), {"capacity_tb_month": 1}, minimum_days=14)
    assert not kept.targets[0].by_category["early deletion"].any()


def test_cartridges_are_bought_when_none_is_free() -> None:
    """A full of 12 TB each month on 18 TB cartridges that close after each run, kept three months: four lie at the peak,
    since the new one is written before the oldest goes; after that none is bought. Plain arithmetic."""
    document = design([run("full", "FREQ=MONTHLY;BYMONTHDAY=1")], {"recent": [{"keep": {"points": 3}}]})
    document["workloads"][0] |= {"size": "12 TB", "daily_change_percent": 0}
    tape = {"media": "tape", "cartridge": "18 TB", "batch_closes": "run", "slots": 3}
    result, cost = priced(document, {"cartridge": 100, "cartridge_month": 2}, **tape)
    bought = cost.targets[0].by_category["cartridges"]
    assert bought.tolist() == [100, 100, 100, 100, 0, 0, 0, 0, 0, 0, 0, 0]
    days = cost.targets[0].cartridges
    assert days is not None
    assert (int(days.in_use.max()), int(days.free[-1]), int(days.bought[-1]), int(days.owned_at_start)) == (4, 1, 4, 0)
    assert days.lacking_slots is not None
    assert int(days.lacking_slots.max()) == 1
    stored = cost.targets[0].by_category["cartridge storage"]
    assert stored[6] == pytest.approx(2 * 3, rel=1e-6)
    assert not days.away.any(), "tapes that return from nowhere are not away"
    assert result.targets[0].totals.points[-1] == 3


def test_closed_cartridges_are_away_until_they_return() -> None:
    """With a way back of ten days a cartridge is away from the end of its run until ten days after its point has gone."""
    document = design([run("full", "FREQ=MONTHLY;BYMONTHDAY=1")], {"recent": [{"keep": {"points": 3}}]})
    tape = {"media": "tape", "cartridge": "18 TB", "batch_closes": "run", "returns_after": "P10D"}
    result, _ = priced(document, {}, **tape)
    used = used_cartridges(result, result.design.targets[0], result.holdings)
    days = cartridge_days(used, result.frame)
    # 4 June: three points, and the oldest one's cartridge still on its way.
    assert int(days.away[result.place_of("2027-06-04")]) == 4
    assert int(days.away[result.place_of("2027-06-20")]) == 3
    assert int(days.in_use[result.place_of("2027-06-20")]) == 3


def test_months_are_those_of_the_calendar_of_the_zone() -> None:
    """A design from mid-month in a zone with clock changes: the first and last months are cut."""
    result = forecast(design_of(design(DAILY, NEWEST_1, starts="2027-03-15", timezone="Europe/Oslo")))
    months = months_of(result.frame)
    assert months.names[0] == "2027-03"
    assert months.names[-1] == "2028-03"
    assert months.edges[0] == result.frame.begin
    assert months.edges[-1] == result.frame.end
    assert months.seconds[0] == 31 * 86400 - 3600
    assert math.isclose(float(months.since_start(months.begins[3:4])[0]), 3.0)


def test_snapshot_space_is_integrated_through_its_growth() -> None:
    """One snapshot a day beside a source of 10 TB, 2 % a day: its share grows from 0 to 0.2 TB and goes; 0.1 on average.

    The curve bends a little (1 - 0.98^t): its mean over a day is 1 - 0.02/ln(1/0.98) of the whole.
    """
    document = design([run("snapshot", "FREQ=DAILY", "00:00")], NEWEST_1)
    _, cost = priced(document, {"capacity_tb_month": 1}, media="snapshot")
    mean = 10 * (1 - 0.02 / math.log(1 / 0.98))
    assert cost.targets[0].by_category["capacity"][5] == pytest.approx(mean, rel=0.01)


def test_overview_puts_first_what_needs_attention() -> None:
    result = forecast(read_design(DEMO.read_bytes()))
    cost = cost_of(result)
    found = overview(result, cost, "2028-12-31", "2020-01-01")
    assert found.today == "2027-01-01", "a today before the design stands for its first day"
    full = [row.full_on for row in found.rows if row.full_on]
    assert full == sorted(full)
    assert [row.full_on is None for row in found.rows] == sorted(row.full_on is None for row in found.rows)
    beside = sum(float(one.per_month[cost.months.index("2028-12")]) for one in cost.beside)
    assert found.cost_month == pytest.approx(sum(row.cost_month for row in found.rows) + beside)
    assert found.cost_whole == pytest.approx(float(cost.per_month().sum()))
    with pytest.raises(ValueError, match="expected a date from 2027-01"):
        cost.month_of("2047-01-01")
