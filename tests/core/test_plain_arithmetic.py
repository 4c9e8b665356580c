"""Plain arithmetic that catches a wrong engine: 10 TB, 2 % a day, scattered, nothing reduced, UTC, from 2027-01-01.

The expected numbers are worked out by hand from the rules (common practice, no source, where a rule of the trade is named).
"""

import json
from typing import Any

import numpy as np
import pytest

from shelf_core.design.faults import DesignError
from shelf_core.design.reading import read_design
from shelf_core.forecast.forecast import Forecast, forecast
from tests.designs import NEWEST_14, WEEKLY_FULL, design, run

TB = 1e12


def result(document: dict[str, Any]) -> Forecast:
    return forecast(read_design(json.dumps(document)))


def totals(document: dict[str, Any]) -> Any:
    return result(document).targets[0].totals


def test_weekly_full_daily_incremental_newest_14() -> None:
    """14 to 20 points at day's end, since a chain goes only as a whole; 22.4 to 33.4 TB, peak 33.6."""
    found = totals(design(WEEKLY_FULL, NEWEST_14))
    steady = slice(60, None)
    assert (found.points[steady].min(), found.points[steady].max()) == (14, 20)
    assert found.stored_bytes[steady].min() == pytest.approx(22.4 * TB)
    assert found.stored_bytes[steady].max() == pytest.approx(33.4 * TB)
    assert found.peak_bytes.max() == pytest.approx(33.6 * TB)


def test_daily_fulls_newest_14() -> None:
    found = totals(design([run("full", "FREQ=DAILY")], NEWEST_14))
    assert set(found.points[20:]) == {14}
    assert found.peak_bytes.max() == pytest.approx(150 * TB)


def test_full_every_two_hours_newest_1() -> None:
    found = totals(design([run("full", "FREQ=HOURLY;INTERVAL=2", "00:00")], {"recent": [{"keep": {"points": 1}}]}))
    assert set(found.points) == {1}
    assert found.stored_bytes == pytest.approx(10 * TB)
    assert found.peak_bytes.max() == pytest.approx(20 * TB)


def test_incrementals_only_never_close_a_chain() -> None:
    """On separate packing nothing ever goes: 365 points, 82.8 TB on day 365; on shared 14 points, 12.6 TB."""
    daily = [run("incremental", "FREQ=DAILY")]
    separate, shared = totals(design(daily, NEWEST_14)), totals(design(daily, NEWEST_14, packing="shared"))
    assert (separate.points[-1], separate.stored_bytes[-1]) == (365, pytest.approx((10 + 364 * 0.2) * TB))
    assert separate.stored_bytes[-1] == pytest.approx(82.8 * TB)
    assert (shared.points[-1], shared.stored_bytes[-1]) == (14, pytest.approx(12.6 * TB))


def test_monthly_full_daily_incremental_newest_30() -> None:
    """60 points on 1 March 2027, 30 on 2 March."""
    runs = [run("full", "FREQ=MONTHLY;BYMONTHDAY=1"), run("incremental", "FREQ=DAILY")]
    found = result(design(runs, {"recent": [{"keep": {"points": 30}}]}))
    points = found.targets[0].totals.points
    assert (points[found.place_of("2027-03-01")], points[found.place_of("2027-03-02")]) == (60, 30)


def test_daily_fulls_for_a_calendar_month() -> None:
    """31 points on 27 February 2027, 28 on 28 February: 31 January + P1M is the last day of February."""
    found = result(design([run("full", "FREQ=DAILY")], {"recent": [{"keep": "P1M"}]}))
    points = found.targets[0].totals.points
    assert (points[found.place_of("2027-02-27")], points[found.place_of("2027-02-28")]) == (31, 28)


def test_differentials_one_to_six_days_after_the_full() -> None:
    runs = [run("full", "FREQ=WEEKLY;BYDAY=FR"), run("differential", "FREQ=DAILY")]
    found = totals(design(runs, {"recent": [{"keep": "forever"}]}))
    grown = np.diff(found.stored_bytes[:7]) / TB
    assert grown == pytest.approx([0.2, 0.396, 0.58808, 0.7763184, 0.960792032, 1.14157619136])


@pytest.mark.parametrize(("day", "count", "gaps"), [("2027-03-28", 23, {3600}), ("2027-10-31", 24, {3600, 7200})])
def test_hourly_runs_in_oslo_on_the_days_of_clock_changes(day: str, count: int, gaps: set[int]) -> None:
    """23 on 2027-03-28; 24 on 2027-10-31 with one gap of two hours (RFC 5545, section 3.3.5)."""
    document = design([run("full", "FREQ=HOURLY", "00:00")], {"recent": [{"keep": "P2D"}]}, timezone="Europe/Oslo")
    found = result(document)
    place = found.place_of(day)
    taken = found.holdings[0].life.taken
    begin, end = found.frame.midnights[place : place + 2]
    on_the_day = taken[(taken >= begin) & (taken < end)]
    assert len(on_the_day) == count
    assert set(np.diff(on_the_day).tolist()) == gaps
    assert np.count_nonzero(np.diff(on_the_day) == 7200) == (1 if 7200 in gaps else 0)


@pytest.mark.parametrize(("points", "days"), [(54, 371), (52, 357)])
def test_a_year_back_from_weekly_points(points: int, days: int) -> None:
    """54 points are needed right after a write (53 x 7 = 371 days); 52 reach 357."""
    document = design([run("full", "FREQ=WEEKLY;BYDAY=SA")], {"recent": [{"keep": {"points": points}}]}, years=3)
    found = result(document)
    life = found.holdings[0].life
    at = int(life.written[120])
    there = life.taken[(life.written <= at) & (life.removed > at)]
    assert (at - there.min()) // 86_400 == days


def test_alike_machines_share_their_first_fulls() -> None:
    """100 machines of 50 GB, 60 % alike: 2,030 GB on shared packing, not 5,000."""
    machines = {"size": "50 GB", "count": 100, "daily_change_percent": 0, "alike": {"group": "desks", "percent": 60}}
    found = totals(design([run("full", "FREQ=DAILY")], NEWEST_14, packing="shared", workload=machines))
    assert found.stored_bytes[0] == pytest.approx(2030e9)
    assert totals(design([run("full", "FREQ=DAILY")], NEWEST_14, workload=machines)).stored_bytes[0] == pytest.approx(5000e9)


def test_full_on_is_the_first_day_whose_peak_does_not_fit() -> None:
    """Capacity 100 TB, a tenth in reserve, 5 TB used otherwise: room for 85 TB, so the ninth daily full of 10 TB is too much."""
    document = design([run("full", "FREQ=DAILY")], {"recent": [{"keep": "P60D"}]})
    document["targets"][0] |= {"capacity": "100 TB", "reserve_percent": 10, "used_otherwise": "5 TB"}
    found = result(document)
    assert found.day(found.targets[0].full_on or 0) == "2027-01-09"


def test_the_usual_long_term_set() -> None:
    """4 weekly, 12 monthly and 5 yearly points (common practice, no source), all of them fulls, after six years."""
    ladder = {
        "floor": 0,
        "rungs": [
            {"name": "weekly", "every": "week", "keep": {"periods": 4}},
            {"name": "monthly", "every": "month", "keep": {"periods": 12}},
            {"name": "yearly", "every": "year", "keep": {"periods": 5}},
        ],
    }
    found = result(design([run("full", "FREQ=DAILY")], ladder, years=6))
    life, end = found.holdings[0].life, found.frame.end
    claimed = {label: int(np.count_nonzero((ends >= end) & (life.written < end))) for label, ends in life.claims.items()}
    assert claimed == {"recent": 0, "weekly": 4, "monthly": 12, "yearly": 5}


def test_weekly_fulls_for_two_weeks_and_incrementals_for_one_reach_back_two_weeks_at_most() -> None:
    """Too short for most firms, which want months or years (common practice, no source)."""
    ladder = {"recent": [{"keep": "P2W", "kinds": ["full"]}, {"keep": "P1W", "kinds": ["incremental"]}]}
    life, end = holding_of(design(WEEKLY_FULL, ladder))
    oldest = [end_of_day - life.taken[(life.written < end_of_day) & (life.removed >= end_of_day)].min() for end_of_day in end]
    assert 13 < max(oldest) / 86_400 < 14


def test_continuous_protection_takes_a_point_every_few_minutes() -> None:
    """Common practice, no source: a point every five minutes is 288 a day, 105,120 in a year."""
    document = design(
        [run("incremental", "FREQ=MINUTELY;INTERVAL=5", "00:00")], {"recent": [{"keep": "P1D"}]}, packing="shared"
    )
    totals = forecast(read_design(json.dumps(document))).targets[0].totals
    assert set(totals.points[2:].tolist()) == {288}


def holding_of(document: dict[str, Any]) -> tuple[Any, list[int]]:
    """The points of the only holding, and the midnights that end the days of its second half."""
    found = forecast(read_design(json.dumps(document)))
    return found.holdings[0].life, found.frame.midnights[found.frame.days // 2 :].tolist()


def test_99_years_are_kept_and_151_refused() -> None:
    """Keeps for decades are real (common practice, no source); above 150 years the document is refused."""
    long = totals(
        design([run("full", "FREQ=YEARLY;BYMONTH=6;BYMONTHDAY=1")], {"floor": 0, "recent": [{"keep": "P99Y"}]}, years=120)
    )
    assert long.points.max() == 99
    with pytest.raises(DesignError, match="at most 150 years"):
        result(design([run("full", "FREQ=DAILY")], {"recent": [{"keep": "P151Y"}]}))
